#include "core/edge/sides.h"

#include <algorithm>

#include "core/edge/grid_cut.h"

namespace dimhem::edge {

Sides sidesOf(const image::Plane<float>& mask) {
    Sides sides(mask.size());
    for (int y = 0; y < mask.size().height; ++y) {
        std::transform(mask.row(y).begin(), mask.row(y).end(), sides.row(y).begin(), [](float v) {
            return v < 0 ? Side::unknown : v > 0.5f ? Side::inside : Side::outside;
        });
    }
    return sides;
}

// Two passes of a chamfer, which is within 8 % of the Euclidean distance.
image::Plane<float> distanceToEdge(const Sides& sides, double limit) {
    const base::Size size = sides.size();
    const auto far = static_cast<float>(limit + 2);
    image::Plane<float> distance(size);
    const auto differs = [&](Side side, int x, int y) {
        return isWithin(size, x, y) && sides.row(y)[x] != Side::unknown && sides.row(y)[x] != side;
    };
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const Side side = sides.row(y)[x];
            const bool edge = side != Side::unknown && (differs(side, x - 1, y) || differs(side, x + 1, y) ||
                                                        differs(side, x, y - 1) || differs(side, x, y + 1));
            distance.row(y)[x] = edge ? 0.5f : far;
        }
    }
    const auto pass = [&](int x, int y, int first, int last) {
        float& here = distance.row(y)[x];
        for (int k = first; k < last; ++k) {
            const Step& step = directions[static_cast<std::size_t>(k)];
            if (!isWithin(size, x + step.x, y + step.y)) continue;
            const float length = step.x != 0 && step.y != 0 ? 1.37f : 1.0f;
            here = std::min(here, distance.row(y + step.y)[x + step.x] + length);
        }
    };
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) pass(x, y, 0, 4);
    }
    for (int y = size.height - 1; y >= 0; --y) {
        for (int x = size.width - 1; x >= 0; --x) pass(x, y, 4, 8);
    }
    return distance;
}

void fillUnknown(Sides& sides) {
    const base::Size size = sides.size();
    const auto take = [&](int x, int y, std::size_t first, std::size_t last) {
        Side& here = sides.row(y)[x];
        for (std::size_t k = first; k < last && here == Side::unknown; ++k) {
            if (isWithin(size, x + directions[k].x, y + directions[k].y))
                here = sides.row(y + directions[k].y)[x + directions[k].x];
        }
    };
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) take(x, y, 0, 4);
    }
    for (int y = size.height - 1; y >= 0; --y) {
        for (int x = size.width - 1; x >= 0; --x) take(x, y, 4, 8);
    }
}

}  // namespace dimhem::edge
