#include "core/render/step_scene.h"

#include <algorithm>

#include "core/base/cancel.h"
#include "core/image/tiles.h"
#include "core/kernel/coverage_rows.h"
#include "core/mask/painted.h"
#include "core/render/beyond_edge.h"
#include "core/repair/hole.h"

namespace dimhem::render {

namespace {

mask::Area areaOf(const adjust::LevelArea& area) {
    return {area.rect, area.level};
}

// Where a tile is covered enough, in pixels of its level.
base::Rect coveredIn(const mask::Coverage& coverage, const base::Rect& tile) {
    constexpr auto least = static_cast<std::uint16_t>(repair::leastCovered * kernel::fullCoverage);
    if (coverage.isConstant()) return coverage.value() >= least ? tile : base::Rect{};
    base::Rect found;
    for (int y = 0; y < tile.height(); ++y) {
        const std::uint16_t *row = coverage.row(y), *end = row + tile.width();
        const std::uint16_t* first = std::find_if(row, end, [=](std::uint16_t c) { return c >= least; });
        if (first == end) continue;
        const std::uint16_t* last = end;
        while (last[-1] < least) --last;
        const int x0 = tile.x0 + static_cast<int>(first - row), x1 = tile.x0 + static_cast<int>(last - row);
        found = base::united(found, {x0, tile.y0 + y, x1, tile.y0 + y + 1});
    }
    return found;
}

}  // namespace

Renderer::StepScene::StepScene(const Renderer& renderer, const Sequence& sequence, std::size_t step,
                               std::size_t operation)
    : renderer_(renderer),
      sequence_(sequence),
      step_(step),
      operation_(operation),
      context_(renderer.maskContext(sequence, sequence.steps()[step].correction->id)) {}

const mask::Mask& Renderer::StepScene::mask() const {
    return sequence_.steps()[step_].correction->mask;
}

base::Size Renderer::StepScene::photoSize() const {
    return renderer_.photo().size();
}

void Renderer::StepScene::throwIfCancelled() const {
    base::throwIfCancelled(sequence_.cancel());
}

base::ContentKey Renderer::StepScene::pictureKey(const adjust::LevelArea& area) const {
    // What lies beyond the photo follows from what is on it and from where the area begins.
    return mask::keyOf(areaOf(area))
        .add(renderer_.insideKey(sequence_, step_, operation_, onPhoto(photoSize(), areaOf(area))))
        .key();
}

image::EncodedPlanes Renderer::StepScene::picture(const adjust::LevelArea& area) const {
    const mask::Area inside = onPhoto(photoSize(), areaOf(area));
    image::EncodedPlanes picture(inside.rect.size());
    renderer_.readInside(sequence_, step_, operation_, inside, picture);
    if (inside.rect == area.rect) return picture;
    image::EncodedPlanes out(area.rect.size());
    extend(picture, inside, out, areaOf(area));
    return out;
}

base::ContentKey Renderer::StepScene::coverageKey(const adjust::LevelArea& area) const {
    const mask::Area inside = onPhoto(photoSize(), areaOf(area));
    base::KeyBuilder key;
    renderer_.gridOf(area.level).forEach(inside.rect, [&](const base::Rect& tile) {
        key.add(mask::keyOn(mask(), {tile, area.level}, *context_));
    });
    return key.key();
}

image::Plane<float> Renderer::StepScene::coverage(const adjust::LevelArea& area) const {
    const mask::Area inside = onPhoto(photoSize(), areaOf(area));
    image::Plane<float> gathered(inside.rect.size());
    renderer_.gridOf(area.level).forEach(inside.rect, [&](const base::Rect& tile) {
        throwIfCancelled();
        const mask::CoveragePtr covered = mask::render(mask(), {tile, area.level}, *context_);
        image::copyShared(mask::floatsOf(*covered, tile.size()), tile, gathered, inside.rect);
    });
    if (inside.rect == area.rect) return gathered;
    image::Plane<float> out(area.rect.size());
    extend(gathered, inside, out, areaOf(area));
    return out;
}

std::shared_ptr<const adjust::Covered> Renderer::StepScene::covered(int level) const {
    const document::Id id = sequence_.steps()[step_].correction->id;
    if (auto known = sequence_.covered(id, level)) return known;
    const base::Size size = image::levelSize(photoSize(), level);
    auto found = std::make_shared<const adjust::Covered>(adjust::Covered::lookFor(size, [&](const base::Rect& tile) {
        throwIfCancelled();
        return coveredIn(*mask::render(mask(), {tile, level}, *context_), tile);
    }));
    sequence_.keepCovered(id, level, found);
    return found;
}

base::ContentKey Renderer::StepScene::paintedKey(const adjust::LevelArea& area) const {
    return mask::paintedKey(mask(), areaOf(area), *context_);
}

image::RgbaPlanes Renderer::StepScene::painted(const adjust::LevelArea& area) const {
    return mask::painted(mask(), areaOf(area), *context_);
}

std::shared_ptr<const void> Renderer::StepScene::once(const base::ContentKey& key,
                                                      const std::function<Made()>& make) const {
    return renderer_.cache_->once(
        key,
        [&]() -> mask::CoverageStore::Made {
            Made made = make();
            return {std::move(made.value), made.bytes};
        },
        sequence_.cancel());
}

}  // namespace dimhem::render
