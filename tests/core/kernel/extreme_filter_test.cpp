#include "core/kernel/extreme_filter.h"

#include <gtest/gtest.h>

#include <random>

namespace dimhem::kernel {

namespace {

image::Plane<float> noise(base::Size size, std::uint32_t seed) {
    std::mt19937 random(seed);
    return image::planeOf(size, [&](int, int) { return static_cast<float>(random() % 1000) - 500; });
}

// Value by value, of what lies in the plane.
template <class Pick>
float bruteForce(const image::Plane<float>& values, int x, int y, int radius, Pick pick) {
    float found = values.row(y)[static_cast<std::size_t>(x)];
    for (int v = std::max(0, y - radius); v <= std::min(values.size().height - 1, y + radius); ++v) {
        for (int u = std::max(0, x - radius); u <= std::min(values.size().width - 1, x + radius); ++u)
            found = pick(found, values.row(v)[static_cast<std::size_t>(u)]);
    }
    return found;
}

}  // namespace

TEST(ExtremeFilter, IsBruteForceAtEveryRadiusAndBorder) {
    for (const base::Size size : {base::Size{23, 17}, {1, 1}, {1, 9}, {14, 1}, {3, 40}}) {
        const image::Plane<float> values = noise(size, 3);
        for (int radius = 0; radius <= 21; ++radius) {
            const image::Plane<float> least = leastAround(values, radius), greatest = greatestAround(values, radius);
            for (int y = 0; y < size.height; ++y) {
                for (int x = 0; x < size.width; ++x) {
                    const auto i = static_cast<std::size_t>(x);
                    ASSERT_EQ(least.row(y)[i],
                              bruteForce(values, x, y, radius, [](float a, float b) { return std::min(a, b); }))
                        << radius << " at " << x << " " << y;
                    ASSERT_EQ(greatest.row(y)[i],
                              bruteForce(values, x, y, radius, [](float a, float b) { return std::max(a, b); }))
                        << radius << " at " << x << " " << y;
                }
            }
        }
    }
}

}  // namespace dimhem::kernel
