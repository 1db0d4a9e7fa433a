#include "core/edge/sides.h"

#include <algorithm>

#include "core/edge/grid_cut.h"

namespace dimhem::edge {

namespace {

constexpr float straight = 1.0f, diagonal = 1.37f;  // steps from pixel to pixel

// Steps from the row before.
void fromRow(const float* before, float* here, int width) {
    for (int x = 0; x < width; ++x) here[x] = std::min(here[x], before[x] + straight);
    for (int x = 1; x < width; ++x) here[x] = std::min(here[x], before[x - 1] + diagonal);
    for (int x = 0; x + 1 < width; ++x) here[x] = std::min(here[x], before[x + 1] + diagonal);
}

}  // namespace

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
    for (int y = 0; y < size.height; ++y) {
        float* here = distance.row(y).data();
        if (y > 0) fromRow(distance.row(y - 1).data(), here, size.width);
        for (int x = 1; x < size.width; ++x) here[x] = std::min(here[x], here[x - 1] + straight);
    }
    for (int y = size.height - 1; y >= 0; --y) {
        float* here = distance.row(y).data();
        if (y + 1 < size.height) fromRow(distance.row(y + 1).data(), here, size.width);
        for (int x = size.width - 2; x >= 0; --x) here[x] = std::min(here[x], here[x + 1] + straight);
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
