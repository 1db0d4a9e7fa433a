#include "core/adjust/subject.h"

#include <algorithm>

#include "core/image/tiles.h"

namespace dimhem::adjust {

namespace {

constexpr int tilePx = image::defaultTilePx;

// Tiles with more than so much coverage somewhere, as seen on a level three coarser.
std::vector<base::Rect> tilesCovered(const Subject& subject, int level, float least) {
    const base::Size size = image::levelSize(subject.photoSize(), level);
    std::vector<base::Rect> out;
    image::TileGrid(size, tilePx).forEach(base::rectOf(size), [&](const base::Rect& tile) {
        const image::Plane<float> covered = subject.coverage(image::levelRect(tile, 3), level + 3);
        bool any = false;
        for (int y = 0; y < covered.size().height; ++y)
            any = any || std::ranges::any_of(covered.row(y), [=](float c) { return c > least; });
        if (any) out.push_back(tile);
    });
    return out;
}

std::vector<base::Rect> someOf(const std::vector<base::Rect>& all, std::size_t most) {
    const std::size_t step = (all.size() + most - 1) / most;
    std::vector<base::Rect> some;
    for (std::size_t i = step / 2; i < all.size(); i += std::max<std::size_t>(1, step)) some.push_back(all[i]);
    return some;
}

}  // namespace

std::vector<base::Rect> measuredTiles(const Subject& subject, int level, bool everywhere) {
    constexpr std::size_t most = 144;
    if (!everywhere) return someOf(tilesCovered(subject, level, 0.9f), most);
    std::vector<base::Rect> all;
    const base::Size size = image::levelSize(subject.photoSize(), level);
    image::TileGrid(size, tilePx).forEach(base::rectOf(size), [&](const base::Rect& tile) { all.push_back(tile); });
    return someOf(all, most);
}

std::vector<base::Rect> tilesBeside(const Subject& subject, int level) {
    constexpr std::size_t most = 64;
    const base::Rect whole = base::rectOf(image::levelSize(subject.photoSize(), level));
    std::vector<base::Rect> all;
    for (const base::Rect& tile : someOf(tilesCovered(subject, level, 0.1f), most)) {
        image::forEachTile(base::intersected(base::grown(tile, tilePx), whole), tilePx, [&](const base::Rect& next) {
            const base::Rect inside = base::intersected(next, whole);
            if (std::ranges::find(all, inside) == all.end()) all.push_back(inside);
        });
    }
    return someOf(all, most);
}

image::Plane<float> uncovered(const Subject& subject, const base::Rect& tile, int level) {
    constexpr float none = 1.0f / 64;
    image::Plane<float> coverage = subject.coverage(tile, level);
    for (int y = 0; y < coverage.size().height; ++y) {
        for (float& c : coverage.row(y)) c = c < none ? 1.0f : 0.0f;
    }
    return coverage;
}

}  // namespace dimhem::adjust
