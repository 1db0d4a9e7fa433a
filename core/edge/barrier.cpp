#include "core/edge/barrier.h"

#include <algorithm>
#include <cmath>
#include <vector>

#include "core/edge/grid_cut.h"
#include "core/edge/sides.h"

namespace dimhem::edge {

image::Plane<float> barrierFrom(const Guide& guide, const std::function<bool(int x, int y)>& isSource) {
    constexpr int levels = 1024;
    const base::Size size = guide.size();
    image::Plane<std::int32_t> height(size);
    std::vector<std::vector<base::Size>> waiting(levels + 1);  // places, by the height at which they were reached
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const bool source = isSource(x, y);
            height.row(y)[x] = source ? 0 : levels;
            if (source) waiting[0].push_back({x, y});
        }
    }
    for (int level = 0; level < levels; ++level) {
        for (std::size_t i = 0; i < waiting[static_cast<std::size_t>(level)].size(); ++i) {
            const base::Size at = waiting[static_cast<std::size_t>(level)][i];
            if (height.row(at.height)[at.width] != level) continue;  // reached lower meanwhile
            for (const int k : {1, 3, 4, 6}) {
                const int x = at.width + directions[static_cast<std::size_t>(k)].x;
                const int y = at.height + directions[static_cast<std::size_t>(k)].y;
                if (!isWithin(size, x, y)) continue;
                const double step = std::sqrt(squaredDifference(guide, at.width, at.height, x, y));
                const int reached = std::max(level, std::min(levels - 1, static_cast<int>(step * levels)));
                if (reached >= height.row(y)[x]) continue;
                height.row(y)[x] = reached;
                waiting[static_cast<std::size_t>(reached)].push_back({x, y});
            }
        }
    }
    image::Plane<float> out(size);
    for (int y = 0; y < size.height; ++y)
        std::transform(height.row(y).begin(), height.row(y).end(), out.row(y).begin(),
                       [](std::int32_t h) { return static_cast<float>(h) / levels; });
    return out;
}

}  // namespace dimhem::edge
