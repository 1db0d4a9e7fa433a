// How a picture is cut into tiles and scaled into levels.
//
// Level 0 is the photo; each level halves the one before, rounding up, so that pixel (x, y) of level L covers the
// photo's [x 2^L, (x+1) 2^L) x [y 2^L, (y+1) 2^L).
#pragma once

#include <algorithm>
#include <cstddef>

#include "core/base/rect.h"

namespace dimhem::image {

inline constexpr int defaultTilePx = 128;
inline constexpr int maxLevel = 8;

inline base::Size levelSize(base::Size photo, int level) {
    const int round = (1 << level) - 1;
    return {(photo.width + round) >> level, (photo.height + round) >> level};
}

// The finest level that will do; `last` where none before it does.
template <class WillDo>
int finestLevel(WillDo willDo, int last = maxLevel) {
    int level = 0;
    while (level < last && !willDo(level)) ++level;
    return level;
}

// The finest level of at most that many pixels.
inline int levelOfAtMost(base::Size photo, double pixels, int last = maxLevel) {
    return finestLevel(
        [&](int level) {
            const base::Size size = levelSize(photo, level);
            return static_cast<double>(size.width) * size.height <= pixels;
        },
        last);
}

// The finest level whose longer side is at most that long.
inline int levelOfSide(base::Size photo, int mostPx, int last = maxLevel) {
    return finestLevel([&](int level) { return std::max(photo.width, photo.height) >> level <= mostPx; }, last);
}

// The coarsest level whose longer side is still at least that long, level 0 where none is.
inline int levelOfLeastSide(base::Size photo, int leastPx) {
    return finestLevel([&](int level) { return std::max(photo.width, photo.height) >> (level + 1) < leastPx; });
}

// The finest level on which a length of the photo is at most that many pixels.
inline int levelOfLength(double photoPx, double mostPx) {
    return finestLevel([=](int level) { return photoPx / (1 << level) <= mostPx; });
}

// A rectangle of the photo in pixels of a level, grown to whole pixels.
inline base::Rect levelRect(const base::Rect& photoRect, int level) {
    const int round = (1 << level) - 1;
    return {photoRect.x0 >> level, photoRect.y0 >> level, (photoRect.x1 + round) >> level,
            (photoRect.y1 + round) >> level};
}

// The tiles of a grid through the origin that touch `rect`, whole, one after the other: visit(tile).
template <class Visit>
void forEachTile(const base::Rect& rect, int tilePx, Visit visit) {
    for (int y = base::floorDiv(rect.y0, tilePx) * tilePx; y < rect.y1; y += tilePx) {
        for (int x = base::floorDiv(rect.x0, tilePx) * tilePx; x < rect.x1; x += tilePx)
            visit(base::Rect{x, y, x + tilePx, y + tilePx});
    }
}

class TileGrid {
public:
    TileGrid(base::Size size, int tilePx) : size_(size), tilePx_(tilePx) {}

    int columns() const { return (size_.width + tilePx_ - 1) / tilePx_; }
    int rows() const { return (size_.height + tilePx_ - 1) / tilePx_; }
    std::size_t count() const { return static_cast<std::size_t>(columns()) * static_cast<std::size_t>(rows()); }
    base::Rect tile(int column, int row) const {
        return base::intersected({column * tilePx_, row * tilePx_, (column + 1) * tilePx_, (row + 1) * tilePx_},
                                 base::rectOf(size_));
    }
    // The columns and rows of the tiles that touch `rect`, as a half-open rectangle.
    base::Rect touched(const base::Rect& rect) const {
        const base::Rect inside = base::intersected(rect, base::rectOf(size_));
        if (inside.empty()) return {};
        return {inside.x0 / tilePx_, inside.y0 / tilePx_, (inside.x1 - 1) / tilePx_ + 1, (inside.y1 - 1) / tilePx_ + 1};
    }
    // The tiles that touch `rect`, cut at the borders of the picture: visit(tile).
    template <class Visit>
    void forEach(const base::Rect& rect, Visit visit) const {
        forEachTile(base::intersected(rect, base::rectOf(size_)), tilePx_,
                    [&](const base::Rect& tile) { visit(base::intersected(tile, base::rectOf(size_))); });
    }

private:
    base::Size size_;
    int tilePx_;
};

}  // namespace dimhem::image
