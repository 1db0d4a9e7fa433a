// A rectangle in pixels of a level (tiles.h), which may reach beyond the photo.
#pragma once

#include "core/base/content_key.h"
#include "core/image/tiles.h"

namespace dimhem::image {

struct Area {
    base::Rect rect;
    int level = 0;

    // The photo's pixels per pixel of this area, and a place of the photo in its pixels.
    double scale() const { return static_cast<double>(1 << level); }
    base::Point toLevel(base::Point photo) const { return {photo.x / scale(), photo.y / scale()}; }
    friend bool operator==(const Area&, const Area&) = default;
};

inline void addTo(base::KeyBuilder& key, const Area& area) {
    key.add(area.level);
    addTo(key, area.rect);
}

inline Area grown(const Area& area, int by) {
    return {base::grown(area.rect, by), area.level};
}

// All of a photo's level.
inline Area wholeAt(base::Size photo, int level) {
    return {base::rectOf(levelSize(photo, level)), level};
}

// The part of an area that lies on the photo; of one that lies beside it, the nearest pixels of its edge.
inline Area onPhoto(base::Size photo, const Area& area) {
    const base::Size size = levelSize(photo, area.level);
    const int x0 = std::clamp(area.rect.x0, 0, size.width - 1), y0 = std::clamp(area.rect.y0, 0, size.height - 1);
    return {{x0, y0, std::clamp(area.rect.x1, x0 + 1, size.width), std::clamp(area.rect.y1, y0 + 1, size.height)},
            area.level};
}

// The tiles of a grid through the origin of the level that touch an area, also outside the photo: visit(Area).
template <class Visit>
void forEachTile(const Area& area, int tilePx, Visit visit) {
    forEachTile(area.rect, tilePx, [&](const base::Rect& tile) { visit(Area{tile, area.level}); });
}

}  // namespace dimhem::image
