// Operations that look round each pixel: their models, on tiles of a fixed grid, from the picture as it arrives at
// them.
//
// A tile's key is built from what arrives around it, so a model is made again only where that changed, and the same
// bits come out however the photo is cut.
#include <algorithm>

#include "core/image/tiles.h"
#include "core/kernel/srgb_rows.h"
#include "core/render/beyond_edge.h"
#include "core/render/renderer.h"
#include "core/render/step_scene.h"

namespace dimhem::render {

namespace {

const adjust::SpatialOperation& spatialOf(const Sequence::Step& step, std::size_t index) {
    return *std::get<std::unique_ptr<const adjust::SpatialOperation>>(step.operations[index]);
}

// Null where it does not paint.
const adjust::PaintingOperation* paintingOf(const Sequence::Step& step, std::size_t index) {
    const auto* painting = std::get_if<std::unique_ptr<const adjust::PaintingOperation>>(&step.operations[index]);
    return painting ? painting->get() : nullptr;
}

// Levels come from documents as well: they are held to those the photo has, and to what the operation allows.
int modelLevelOf(const adjust::SpatialOperation& spatial, int level, const PhotoSource& photo) {
    return std::min(std::max(spatial.modelLevel(level), spatial.leastModelLevel(photo.size())), photo.levels() - 1);
}

// What a model on a level is needed of for pixels of an area, with a pixel around to read between.
mask::Area modelArea(base::Size photo, const mask::Area& area, int level) {
    if (level == area.level) return area;
    const base::Rect& r = area.rect;
    if (level < area.level) {
        const int up = area.level - level;
        return onPhoto(photo, {{r.x0 << up, r.y0 << up, r.x1 << up, r.y1 << up}, level});
    }
    const int by = level - area.level;
    return onPhoto(photo,
                   {{(r.x0 >> by) - 1, (r.y0 >> by) - 1, ((r.x1 - 1) >> by) + 2, ((r.y1 - 1) >> by) + 2}, level});
}

mask::Area grown(const mask::Area& area, int by) {
    return {base::grown(area.rect, by), area.level};
}

// Where pixels of a line lie between those of a coarser one: the first of the two, and how far on towards the other.
struct Between {
    std::vector<int> first;
    std::vector<float> part;

    // So many pixels from `at` on; the coarser line begins at `from` and has `length`.
    Between(int at, int count, int levels, int from, int length) {
        const double scale = 1.0 / (1 << levels);
        for (int i = 0; i < count; ++i) {
            const double place = std::clamp((at + i + 0.5) * scale - from - 0.5, 0.0, length - 1.0);
            first.push_back(std::min(static_cast<int>(place), std::max(0, length - 2)));
            part.push_back(static_cast<float>(place - first.back()));
        }
    }
};

// A plane of a coarser level read at the centres of an area's pixels: down once for each row, then across.
image::Plane<float> readBetween(const image::Plane<float>& from, const mask::Area& coarse, const mask::Area& area) {
    const int levels = coarse.level - area.level;
    const base::Size size = area.rect.size(), own = from.size();
    const Between across(area.rect.x0, size.width, levels, coarse.rect.x0, own.width),
        down(area.rect.y0, size.height, levels, coarse.rect.y0, own.height);
    image::Plane<float> out(size);
    std::vector<float> line(static_cast<std::size_t>(own.width) + 1);
    for (int y = 0; y < size.height; ++y) {
        const auto row = static_cast<std::size_t>(y);
        const int above = down.first[row], below = std::min(above + 1, own.height - 1);
        const float *a = from.row(above).data(), *b = from.row(below).data();
        for (std::size_t x = 0; x + 1 < line.size(); ++x) line[x] = a[x] + down.part[row] * (b[x] - a[x]);
        line.back() = line[line.size() - 2];
        float* to = out.row(y).data();
        for (std::size_t x = 0; x < across.first.size(); ++x) {
            const float* at = line.data() + across.first[x];
            to[x] = at[0] + across.part[x] * (at[1] - at[0]);
        }
    }
    return out;
}

// A plane of a finer level, its means over an area's pixels.
image::Plane<float> averaged(const image::Plane<float>& from, const mask::Area& fine, const mask::Area& area) {
    const int side = 1 << (area.level - fine.level);
    return image::planeOf(area.rect.size(), [&](int x, int y) {
        const int x0 = (area.rect.x0 + x) * side - fine.rect.x0, y0 = (area.rect.y0 + y) * side - fine.rect.y0;
        const int x1 = std::min(x0 + side, from.size().width), y1 = std::min(y0 + side, from.size().height);
        float sum = 0;
        for (int row = y0; row < y1; ++row) {
            for (int column = x0; column < x1; ++column) sum += from.row(row)[static_cast<std::size_t>(column)];
        }
        return sum / static_cast<float>((x1 - x0) * (y1 - y0));
    });
}

// The next coarser level's pixels that lie under an area.
mask::Area under(const mask::Area& area) {
    const base::Rect& r = area.rect;
    return {{r.x0 >> 1, r.y0 >> 1, (r.x1 + 1) >> 1, (r.y1 + 1) >> 1}, area.level + 1};
}

// Of a model there is always something to read.
Beyond beyondModel(const adjust::SpatialOperation& spatial) {
    return spatial.beyondPhoto() == Beyond::mirrored ? Beyond::mirrored : Beyond::edgeGoesOn;
}

base::ContentKey questionOn(const mask::Area& area, std::string_view what, std::size_t step, std::size_t operation) {
    return mask::keyOf(area).add(what).add(step).add(operation).key();
}

std::size_t bytesOf(const Model& model) {
    std::size_t bytes = sizeof model;
    for (const image::Plane<float>& plane : model) bytes += plane.bytes();
    return bytes;
}

}  // namespace

base::ContentKey Renderer::modelKey(const Sequence& sequence, std::size_t step, std::size_t operation,
                                    const mask::Area& area) const {
    const Sequence::Step& now = sequence.steps()[step];
    base::KeyBuilder key;
    if (const auto* painting = paintingOf(now, operation)) {
        return key.add(now.modelKeys[operation])
            .add(painting->keyOn({area.rect, area.level}, StepScene(*this, sequence, step, operation)))
            .key();
    }
    const adjust::SpatialOperation& spatial = spatialOf(now, operation);
    const mask::Area model = modelArea(photo_->size(), area, modelLevelOf(spatial, area.level, *photo_));
    gridOf(model.level).forEach(model.rect, [&](const base::Rect& tile) {
        key.add(modelTileKey(sequence, step, operation, {tile, model.level}));
    });
    return key.key();
}

base::ContentKey Renderer::modelTileKey(const Sequence& sequence, std::size_t step, std::size_t operation,
                                        const mask::Area& tile) const {
    const base::ContentKey question = questionOn(tile, "model", step, operation);
    if (const auto known = sequence.knownKey(question)) return *known;
    const base::ContentKey key = modelTileKeyAnew(sequence, step, operation, tile);
    sequence.keepKey(question, key);
    return key;
}

base::ContentKey Renderer::modelTileKeyAnew(const Sequence& sequence, std::size_t step, std::size_t operation,
                                            const mask::Area& tile) const {
    const Sequence::Step& now = sequence.steps()[step];
    const adjust::SpatialOperation& spatial = spatialOf(now, operation);
    const mask::Area around = onPhoto(photo_->size(), grown(tile, spatial.reach(tile.level)));
    base::KeyBuilder key = mask::keyOf(tile);
    key.add("model").add(now.modelKeys[operation]).add(insideKey(sequence, step, operation, around));
    if (spatial.buildsOnCoarser(tile.level)) {
        const mask::Area coarser = onPhoto(photo_->size(), under(grown(tile, spatial.reach(tile.level))));
        gridOf(coarser.level).forEach(coarser.rect, [&](const base::Rect& below) {
            key.add(modelTileKey(sequence, step, operation, {below, coarser.level}));
        });
    }
    return key.key();
}

std::shared_ptr<const Model> Renderer::modelTile(const Sequence& sequence, std::size_t step, std::size_t operation,
                                                 const mask::Area& tile) const {
    return std::static_pointer_cast<const Model>(cache_->once(
        modelTileKey(sequence, step, operation, tile),
        [&]() -> mask::CoverageStore::Made {
            const adjust::SpatialOperation& spatial = spatialOf(sequence.steps()[step], operation);
            const mask::Area around = grown(tile, spatial.reach(tile.level)), inside = onPhoto(photo_->size(), around);
            image::EncodedPlanes picture(inside.rect.size()), whole(around.rect.size());
            readInside(sequence, step, operation, inside, picture);
            extend(picture, inside, whole, around, spatial.beyondPhoto());
            const Model coarser =
                spatial.buildsOnCoarser(tile.level) ? gatheredModel(sequence, step, operation, under(around)) : Model{};
            auto model = std::make_shared<Model>();
            for (std::size_t i = 0; i < spatial.planes(); ++i) model->emplace_back(tile.rect.size());
            spatial.makeModel(std::move(whole), {tile.rect, tile.level}, coarser, *model);
            const std::size_t bytes = bytesOf(*model);
            return {std::move(model), bytes};
        },
        sequence.cancel()));
}

// On the area's own level; what lies beyond the photo stands in as the operation wants it.
Model Renderer::gatheredModel(const Sequence& sequence, std::size_t step, std::size_t operation,
                              const mask::Area& area) const {
    const adjust::SpatialOperation& spatial = spatialOf(sequence.steps()[step], operation);
    const mask::Area inside = onPhoto(photo_->size(), area);
    Model gathered;
    for (std::size_t i = 0; i < spatial.planes(); ++i) gathered.emplace_back(inside.rect.size());
    gridOf(inside.level).forEach(inside.rect, [&](const base::Rect& tile) {
        const auto made = modelTile(sequence, step, operation, {tile, inside.level});
        for (std::size_t i = 0; i < gathered.size(); ++i) image::copyShared((*made)[i], tile, gathered[i], inside.rect);
    });
    if (inside.rect == area.rect) return gathered;
    Model whole;
    for (const image::Plane<float>& plane : gathered) {
        whole.emplace_back(area.rect.size());
        extend(plane, inside, whole.back(), area, beyondModel(spatial));
    }
    return whole;
}

Model Renderer::modelOver(const Sequence& sequence, std::size_t step, std::size_t operation,
                          const mask::Area& area) const {
    if (const auto* painting = paintingOf(sequence.steps()[step], operation)) {
        image::EncodedPlanes colours =
            painting->over({area.rect, area.level}, StepScene(*this, sequence, step, operation));
        Model out;
        for (image::Plane<float>* plane : {&colours.red, &colours.green, &colours.blue})
            out.push_back(std::move(*plane));
        return out;
    }
    const adjust::SpatialOperation& spatial = spatialOf(sequence.steps()[step], operation);
    const mask::Area coarse = modelArea(photo_->size(), area, modelLevelOf(spatial, area.level, *photo_));
    Model gathered = gatheredModel(sequence, step, operation, coarse);
    if (coarse.level == area.level) return gathered;
    Model out;
    for (const image::Plane<float>& plane : gathered)
        out.push_back(coarse.level > area.level ? readBetween(plane, coarse, area) : averaged(plane, coarse, area));
    return out;
}

std::vector<Model> Renderer::modelsOver(const Sequence& sequence, std::size_t step, std::size_t operations,
                                        const mask::Area& area) const {
    std::vector<Model> models;
    for (std::size_t i = 0; i < operations; ++i) {
        if (adjust::hasModel(sequence.steps()[step].operations[i]))
            models.push_back(modelOver(sequence, step, i, area));
    }
    return models;
}

base::ContentKey Renderer::insideKey(const Sequence& sequence, std::size_t step, std::size_t operations,
                                     const mask::Area& area) const {
    const base::ContentKey question = questionOn(area, "inside", step, operations);
    if (const auto known = sequence.knownKey(question)) return *known;
    const Sequence::Step& now = sequence.steps()[step];
    base::KeyBuilder key;
    key.add(arrivingKey(sequence, step, area)).add(now.beforeKeys[operations]);
    bool mixedBefore = false;
    for (std::size_t i = 0; i < operations; ++i) {
        if (adjust::hasModel(now.operations[i])) key.add(modelKey(sequence, step, i, area));
        mixedBefore = mixedBefore || adjust::isByCoverage(now.operations[i]);
    }
    if (mixedBefore) {
        const auto context = maskContext(sequence, now.correction->id);
        key.add(now.strength).add(now.correction->blend).add(now.correction->mixing);
        key.add(mask::keyOn(now.correction->mask, area, *context));
    }
    sequence.keepKey(question, key.key());
    return key.key();
}

// What was mixed before the last operation by coverage is mixed; what comes after it is not yet.
void Renderer::readInside(const Sequence& sequence, std::size_t step, std::size_t operations, const mask::Area& area,
                          image::EncodedPlanes& out) const {
    readArriving(sequence, step, area, out);
    if (operations == 0) return;
    const Sequence::Step& now = sequence.steps()[step];
    Acting acting{&now, nullptr, nullptr, modelsOver(sequence, step, operations, area), false};
    const auto context = maskContext(sequence, now.correction->id);
    acting.coverage = mask::render(now.correction->mask, area, *context);
    runInside(acting, operations, out);
}

}  // namespace dimhem::render
