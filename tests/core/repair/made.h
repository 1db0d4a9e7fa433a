// Pictures and holes for the tests of filling.
#pragma once

#include <cmath>
#include <functional>
#include <random>

#include "core/image/plane.h"
#include "core/repair/hole.h"

namespace dimhem::repair::tests {

inline Hole holeOf(base::Size size, const std::function<bool(int, int)>& isHole) {
    Hole hole(size);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) hole.view().at(x, y) = isHole(x, y) ? 1 : 0;
    }
    return hole;
}

inline std::function<bool(int, int)> disc(double cx, double cy, double r) {
    return [=](int x, int y) { return std::hypot(x - cx, y - cy) < r; };
}

// Three channels of one function, each a little other.
inline image::EncodedPlanes pictureOf(base::Size size, const std::function<double(int, int)>& value) {
    image::EncodedPlanes out(size);
    out.red = image::planeOf(size, [&](int x, int y) { return static_cast<float>(value(x, y)); });
    out.green = image::planeOf(size, [&](int x, int y) { return static_cast<float>(0.9 * value(x, y)); });
    out.blue = image::planeOf(size, [&](int x, int y) { return static_cast<float>(0.1 + 0.7 * value(x, y)); });
    return out;
}

inline image::EncodedPlanes copyOf(const image::EncodedPlanes& from) {
    image::EncodedPlanes out(from.size());
    const base::Rect all = base::rectOf(from.size());
    image::copyShared(from, all, out, all);
    return out;
}

// Soft-edged stripes, seeded in width and direction, with noise.
inline image::EncodedPlanes stripes(base::Size size, std::uint32_t seed, double noise) {
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> some(0, 1);
    const double angle = 3.14159 * some(random), width = 8 + 20 * some(random), shift = 10 * some(random);
    const double low = 0.2 + 0.2 * some(random), high = 0.6 + 0.3 * some(random);
    std::normal_distribution<double> grain(0, noise > 0 ? noise : 1);
    return pictureOf(size, [&](int x, int y) {
        const double along = std::cos(angle) * x + std::sin(angle) * y + shift;
        const double wave = std::clamp(0.5 + 4 * std::sin(along * 3.14159 / width), 0.0, 1.0);
        return low + (high - low) * wave + (noise > 0 ? grain(random) : 0);
    });
}

// Of the hole's pixels, over the channels.
inline double rmsInHole(const image::EncodedPlanes& a, const image::EncodedPlanes& b, const Hole& hole) {
    double sum = 0, count = 1e-9;
    for (int y = 0; y < hole.size().height; ++y) {
        for (int x = 0; x < hole.size().width; ++x) {
            if (!hole.view().at(x, y)) continue;
            for (const auto plane :
                 {&image::EncodedPlanes::red, &image::EncodedPlanes::green, &image::EncodedPlanes::blue}) {
                const double d = double{(a.*plane).view().at(x, y)} - double{(b.*plane).view().at(x, y)};
                sum += d * d;
                count += 1;
            }
        }
    }
    return std::sqrt(sum / count);
}

inline int pixelsThatDifferOutside(const image::EncodedPlanes& a, const image::EncodedPlanes& b, const Hole& hole) {
    int count = 0;
    for (int y = 0; y < hole.size().height; ++y) {
        for (int x = 0; x < hole.size().width; ++x) {
            count += !hole.view().at(x, y) && (a.red.view().at(x, y) != b.red.view().at(x, y) ||
                                               a.green.view().at(x, y) != b.green.view().at(x, y) ||
                                               a.blue.view().at(x, y) != b.blue.view().at(x, y));
        }
    }
    return count;
}

}  // namespace dimhem::repair::tests
