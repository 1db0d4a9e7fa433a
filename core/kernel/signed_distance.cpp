#include "core/kernel/signed_distance.h"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <limits>
#include <vector>

namespace dimhem::kernel {

namespace {

constexpr float never = 1e20f;

// For each x: the q that minimises f(q) + (x - q)^2, as the lower envelope of parabolas.
void nearestAlong(const std::vector<float>& f, std::vector<int>& nearest, std::vector<int>& hull,
                  std::vector<float>& from) {
    const int n = static_cast<int>(f.size());
    int k = -1;
    for (int q = 0; q < n; ++q) {
        if (f[static_cast<std::size_t>(q)] >= never) continue;
        float meets = -std::numeric_limits<float>::infinity();
        while (k >= 0) {
            const int p = hull[static_cast<std::size_t>(k)];
            meets = static_cast<float>(((double{f[static_cast<std::size_t>(q)]} + double(q) * q) -
                                        (double{f[static_cast<std::size_t>(p)]} + double(p) * p)) /
                                       (2.0 * (q - p)));
            if (meets > from[static_cast<std::size_t>(k)]) break;
            --k;
            meets = -std::numeric_limits<float>::infinity();
        }
        ++k;
        hull[static_cast<std::size_t>(k)] = q;
        from[static_cast<std::size_t>(k)] = meets;
    }
    const int last = k;
    int at = 0;
    for (int x = 0; x < n; ++x) {
        if (last < 0) {
            nearest[static_cast<std::size_t>(x)] = -1;
            continue;
        }
        while (at < last && from[static_cast<std::size_t>(at + 1)] < static_cast<float>(x)) ++at;
        nearest[static_cast<std::size_t>(x)] = hull[static_cast<std::size_t>(at)];
    }
}

struct Nearest {
    image::Plane<std::int32_t> x, y;  // of the nearest wanted pixel; -1: none
};

Nearest nearestPixels(const image::Plane<float>& mask, bool inside) {
    const base::Size size = mask.size();
    Nearest out{image::Plane<std::int32_t>(size), image::Plane<std::int32_t>(size)};
    const auto longest = static_cast<std::size_t>(std::max(size.width, size.height));
    std::vector<int> hull(longest), nearest(longest);
    std::vector<float> from(longest), f(static_cast<std::size_t>(size.height));
    image::Plane<float> squares(size);
    image::Plane<std::int32_t> rows(size);
    nearest.resize(static_cast<std::size_t>(size.height));
    for (int x = 0; x < size.width; ++x) {
        const auto c = static_cast<std::size_t>(x);
        for (int y = 0; y < size.height; ++y)
            f[static_cast<std::size_t>(y)] = (mask.row(y)[c] > 0.5f) == inside ? 0 : never;
        nearestAlong(f, nearest, hull, from);
        for (int y = 0; y < size.height; ++y) {
            const int q = nearest[static_cast<std::size_t>(y)];
            rows.row(y)[c] = q;
            squares.row(y)[c] = q < 0 ? never : static_cast<float>((y - q) * (y - q));
        }
    }
    f.resize(static_cast<std::size_t>(size.width));
    nearest.resize(static_cast<std::size_t>(size.width));
    for (int y = 0; y < size.height; ++y) {
        std::copy(squares.row(y).begin(), squares.row(y).end(), f.begin());
        nearestAlong(f, nearest, hull, from);
        for (int x = 0; x < size.width; ++x) {
            const int q = nearest[static_cast<std::size_t>(x)];
            out.x.row(y)[static_cast<std::size_t>(x)] = q;
            out.y.row(y)[static_cast<std::size_t>(x)] = q < 0 ? -1 : rows.row(y)[static_cast<std::size_t>(q)];
        }
    }
    return out;
}

}  // namespace

DistanceField signedDistance(const image::Plane<float>& mask) {
    const base::Size size = mask.size();
    DistanceField field{image::Plane<float>(size), image::Plane<float>(size), image::Plane<float>(size), false};
    const Nearest in = nearestPixels(mask, true), out = nearestPixels(mask, false);
    if (in.x.row(0)[0] < 0 || out.x.row(0)[0] < 0) return field;
    field.hasContour = true;
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const auto c = static_cast<std::size_t>(x);
            const float here = mask.row(y)[c];
            const bool inside = here > 0.5f;
            const Nearest& other = inside ? out : in;
            const int ox = other.x.row(y)[c], oy = other.y.row(y)[c];
            const auto dx = static_cast<float>(ox - x), dy = static_cast<float>(oy - y);
            const float d = std::hypot(dx, dy);
            // The contour lies between the other pixel and its neighbour on this side: where the values between them
            // pass one half.
            const int nx = std::clamp(ox - static_cast<int>(std::lround(dx / d)), 0, size.width - 1);
            const int ny = std::clamp(oy - static_cast<int>(std::lround(dy / d)), 0, size.height - 1);
            const float beyond = mask.row(oy)[static_cast<std::size_t>(ox)],
                        before = mask.row(ny)[static_cast<std::size_t>(nx)];
            const float part = beyond != before ? std::clamp((0.5f - beyond) / (before - beyond), 0.0f, 1.0f) : 0.5f;
            const float distance = std::max(d - part, 0.0f);
            field.distance.row(y)[c] = inside ? -distance : distance;
            field.towardsX.row(y)[c] = (inside ? dx : -dx) / d;
            field.towardsY.row(y)[c] = (inside ? dy : -dy) / d;
        }
    }
    return field;
}

}  // namespace dimhem::kernel
