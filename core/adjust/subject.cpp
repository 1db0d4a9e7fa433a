#include "core/adjust/subject.h"

#include <algorithm>

#include "core/image/tiles.h"

namespace dimhem::adjust {

std::vector<base::Rect> measuredTiles(const Subject& subject, int level, bool everywhere) {
    constexpr std::size_t most = 144;
    constexpr int tilePx = 128;
    const base::Size size = image::levelSize(subject.photoSize(), level);
    std::vector<base::Rect> all;
    image::TileGrid(size, tilePx).forEach(base::rectOf(size), [&](const base::Rect& tile) {
        if (everywhere) return all.push_back(tile);
        const image::Plane<float> covered = subject.coverage(image::levelRect(tile, 3), level + 3);
        bool any = false;
        for (int y = 0; y < covered.size().height; ++y)
            any = any || std::ranges::any_of(covered.row(y), [](float c) { return c > 0.9f; });
        if (any) all.push_back(tile);
    });
    const std::size_t step = (all.size() + most - 1) / most;
    std::vector<base::Rect> some;
    for (std::size_t i = step / 2; i < all.size(); i += std::max<std::size_t>(1, step)) some.push_back(all[i]);
    return some;
}

}  // namespace dimhem::adjust
