// Operations that look round each pixel: their models, on tiles of a fixed grid, from the picture as it arrives at
// them. A model is made again only where that changed around it, and the same bits come out however the photo is cut.
#include <algorithm>

#include "core/image/tiles.h"
#include "core/render/beyond_edge.h"
#include "core/render/reader.h"
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

using image::grown;

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

using ModelTile = stage::Placed<Model>;

// What lies beyond the photo stands in as the operation wants it.
constexpr auto gathered = [](const std::vector<ModelTile>& tiles, std::size_t planes, Beyond beyond,
                             const mask::Area& inside, const mask::Area& area) {
    Model gathered;
    for (std::size_t i = 0; i < planes; ++i) gathered.planes.emplace_back(inside.rect.size());
    for (const ModelTile& tile : tiles) {
        const auto made = tile.stage.value();
        for (std::size_t i = 0; i < planes; ++i)
            image::copyShared(made->planes[i], tile.rect, gathered.planes[i], inside.rect);
    }
    if (inside == area) return gathered;
    Model whole;
    for (const image::Plane<float>& plane : gathered.planes) {
        whole.planes.emplace_back(area.rect.size());
        extend(plane, inside, whole.planes.back(), area, beyond);
    }
    return whole;
};

constexpr auto onOtherLevel = [](const Model& from, const mask::Area& there, const mask::Area& area) {
    Model out;
    for (const image::Plane<float>& plane : from.planes)
        out.planes.push_back(there.level > area.level ? readBetween(plane, there, area) : averaged(plane, there, area));
    return out;
};

// `picture`: of what lies on the photo of the tile and about it.
constexpr auto modelFrom = [](const image::EncodedPlanes& picture, const std::optional<Staged<Model>>& coarser,
                              const adjust::SpatialOperation& spatial, const mask::Area& inside,
                              const mask::Area& tile) {
    const mask::Area around = grown(tile, spatial.reach(tile.level));
    image::EncodedPlanes whole(around.rect.size());
    extend(picture, inside, whole, around, spatial.beyondPhoto());
    Model model;
    for (std::size_t i = 0; i < spatial.planes(); ++i) model.planes.emplace_back(tile.rect.size());
    const auto below = coarser ? coarser->value() : std::make_shared<const Model>();
    spatial.makeModel(std::move(whole), tile, below->planes, model.planes);
    return model;
};

constexpr auto asModel = [](const image::EncodedPlanes& colours) {
    Model out;
    for (const image::Plane<float>* plane : {&colours.red, &colours.green, &colours.blue})
        out.planes.push_back(image::copied(*plane));
    return out;
};

}  // namespace

Staged<Model> Reader::modelTile(std::size_t step, std::size_t operation, const mask::Area& tile) const {
    const auto context = contextOf(sequence_->steps()[step].correction->id);
    const auto question = mask::keyOf(tile).add("model").add(step).add(operation).key();
    const auto ask = [reader = *this, step, operation, tile] {
        const Sequence::Step& now = reader.sequence().steps()[step];
        const adjust::SpatialOperation& spatial = spatialOf(now, operation);
        const mask::Area around = grown(tile, spatial.reach(tile.level)),
                         inside = onPhoto(reader.photo().size(), around);
        std::optional<Staged<Model>> coarser;
        if (spatial.buildsOnCoarser(tile.level)) coarser = reader.gatheredModel(step, operation, under(around));
        return stage::staged<Model>("model", modelFrom, reader.inside(step, operation, inside), std::move(coarser),
                                    stage::keyed(now.modelKeys[operation], spatial), inside, tile);
    };
    return stage::kept(*context, stage::asked(*sequence_, question, ask)).owning(context);
}

// On the area's own level, also beyond the photo.
Staged<Model> Reader::gatheredModel(std::size_t step, std::size_t operation, const mask::Area& area) const {
    const adjust::SpatialOperation& spatial = spatialOf(sequence_->steps()[step], operation);
    const mask::Area inside = onPhoto(photo_->size(), area);
    std::vector<ModelTile> tiles;
    gridOf(inside.level).forEach(inside.rect, [&](const base::Rect& tile) {
        tiles.push_back({tile, modelTile(step, operation, {tile, inside.level})});
    });
    return stage::staged<Model>("model over an area", gathered, std::move(tiles), spatial.planes(),
                                beyondModel(spatial), inside, area);
}

// From tiles, each kept: what is painted later in the correction looks at it in many ways.
Staged<Model> Reader::paintedModel(std::size_t step, std::size_t operation, const mask::Area& area) const {
    constexpr std::size_t planes = 3;
    std::vector<ModelTile> tiles;
    gridOf(area.level).forEach(area.rect, [&](const base::Rect& rect) {
        const mask::Area tile{rect, area.level};
        const auto scene = std::make_shared<const StepScene>(*this, step, operation);
        const auto question = mask::keyOf(tile).add("painted").add(step).add(operation).key();
        const auto ask = [scene, tile, painting = paintingOf(sequence_->steps()[step], operation)] {
            return stage::staged<Model>("painted", asModel, painting->over(tile, *scene));
        };
        tiles.push_back({rect, stage::kept(scene->store(), stage::asked(*sequence_, question, ask)).owning(scene)});
    });
    return stage::staged<Model>("painted over an area", gathered, std::move(tiles), planes, Beyond::edgeGoesOn, area,
                                area);
}

Staged<Model> Reader::model(std::size_t step, std::size_t operation, const mask::Area& area) const {
    const Sequence::Step& now = sequence_->steps()[step];
    if (paintingOf(now, operation)) return paintedModel(step, operation, area);
    const adjust::SpatialOperation& spatial = spatialOf(now, operation);
    const mask::Area there = modelArea(photo_->size(), area, modelLevelOf(spatial, area.level, *photo_));
    const Staged<Model> gathered = gatheredModel(step, operation, there);
    if (there.level == area.level) return gathered;
    return stage::staged<Model>("model on another level", onOtherLevel, gathered, there, area);
}

std::vector<Staged<Model>> Reader::models(std::size_t step, OperationRange operations, const mask::Area& area) const {
    std::vector<Staged<Model>> models;
    for (std::size_t i = operations.first; i < operations.last; ++i) {
        if (adjust::hasModel(sequence_->steps()[step].operations[i])) models.push_back(model(step, i, area));
    }
    return models;
}

}  // namespace dimhem::render
