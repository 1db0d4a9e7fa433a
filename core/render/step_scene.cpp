#include "core/render/step_scene.h"

#include <algorithm>

#include "core/base/cancel.h"
#include "core/image/tiles.h"
#include "core/kernel/coverage_rows.h"
#include "core/mask/gathered.h"
#include "core/mask/painted.h"
#include "core/render/beyond_edge.h"
#include "core/repair/hole.h"

namespace dimhem::render {

namespace {

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

// Of the tiles of the grid, so that each is worked out once.
constexpr auto gatheredCoverage = [](const std::vector<mask::CoverageTile>& tiles, const Area& inside,
                                     const Area& area) {
    image::Plane<float> gathered(inside.rect.size());
    for (const mask::CoverageTile& tile : tiles)
        mask::copyInto(gathered, inside.rect, *tile.coverage.value(), tile.area.rect);
    if (inside == area) return gathered;
    image::Plane<float> out(area.rect.size());
    extend(gathered, inside, out, area);
    return out;
};

}  // namespace

Reader::StepScene::StepScene(const Reader& reader, std::size_t step, std::size_t operation)
    : reader_(reader), step_(step), operation_(operation), context_(reader.contextOf(correction().id)) {}

const document::Correction& Reader::StepScene::correction() const {
    return *reader_.sequence().steps()[step_].correction;
}

base::Size Reader::StepScene::photoSize() const {
    return reader_.photo().size();
}

Reading<image::EncodedPlanes> Reader::StepScene::picture(const Area& area) const {
    const Area inside = onPhoto(photoSize(), area);
    return goneOn(reader_.inside(step_, operation_, inside), inside, area);
}

Reading<image::Plane<float>> Reader::StepScene::coverage(const Area& area) const {
    const Area inside = onPhoto(photoSize(), area);
    std::vector<mask::CoverageTile> tiles;
    reader_.gridOf(area.level).forEach(inside.rect, [&](const base::Rect& tile) {
        tiles.push_back({{tile, area.level}, reader_.mask(correction().id, {tile, area.level})});
    });
    return stage::reading<image::Plane<float>>("coverage", gatheredCoverage, std::move(tiles), inside, area);
}

std::shared_ptr<const adjust::Covered> Reader::StepScene::covered(int level) const {
    const document::Id id = correction().id;
    const Sequence& sequence = reader_.sequence();
    if (auto known = sequence.covered(id, level)) return known;
    const base::Size size = image::levelSize(photoSize(), level);
    auto found = std::make_shared<const adjust::Covered>(adjust::Covered::lookFor(size, [&](const base::Rect& tile) {
        base::throwIfCancelled(sequence.cancel());
        return coveredIn(*reader_.mask(id, {tile, level}).value(), tile);
    }));
    sequence.keepCovered(id, level, found);
    return found;
}

Staged<image::RgbaPlanes> Reader::StepScene::painted(const Area& area) const {
    return mask::painted(correction().mask, area, *context_).owning(context_);
}

stage::Store& Reader::StepScene::store() const {
    return *context_;
}

const base::CancelToken& Reader::StepScene::cancel() const {
    return reader_.sequence().cancel();
}

}  // namespace dimhem::render
