// Areas of any size put together from tiles, which are found again by their neighbours.
#pragma once

#include <vector>

#include "core/mask/coverage.h"

namespace dimhem::mask {

struct CoverageTile {
    Area area;
    stage::Staged<Coverage> coverage;
};
inline void addTo(base::KeyBuilder& key, const CoverageTile& tile) {
    addTo(key, tile.area);
    key.add(tile.coverage.key());
}

// The tiles must cover the area.
stage::Staged<Coverage> gathered(std::vector<CoverageTile> tiles, const Area& area);

// The tiles of a grid through the origin of the level that touch an area; `over(tile)` tells each.
template <class Over>
std::vector<CoverageTile> tilesOf(const Area& area, int tilePx, Over over) {
    std::vector<CoverageTile> tiles;
    forEachTile(area, tilePx, [&](const Area& tile) { tiles.push_back({tile, over(tile)}); });
    return tiles;
}

// An area's part on the photo and near it; of one that lies far from it, the nearest pixels of that.
Area nearPhoto(base::Size photo, const Area& area);
stage::Staged<image::Plane<float>> valuesNearPhoto(std::vector<CoverageTile> tiles, const Area& near, const Area& area);

// As values, 0..1, put together from such tiles. Beyond the photo a mask goes on as it is drawn, but not for ever: what
// looks a little further than what looks a little further would have no end. From some way off on, what lies there goes
// on.
template <class Over>
stage::Staged<image::Plane<float>> gatheredValues(base::Size photo, const Area& area, int tilePx, Over over) {
    const Area near = nearPhoto(photo, area);
    return valuesNearPhoto(tilesOf(near, tilePx, over), near, area);
}

// Of a tile what lies within an area, as values.
void copyInto(image::Plane<float>& out, const base::Rect& outRect, const Coverage& from, const base::Rect& fromRect);

}  // namespace dimhem::mask
