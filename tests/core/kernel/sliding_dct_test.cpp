#include "core/kernel/sliding_dct.h"

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>
#include <random>
#include <vector>

#include "core/image/tiles.h"
#include "core/kernel/halving.h"

namespace dimhem::kernel {
namespace {

using image::Plane;

Plane<float> anyPlane(base::Size size, std::uint32_t seed) {
    std::mt19937 random(seed);
    return image::planeOf(size, [&](int x, int y) {
        return static_cast<float>(0.5 + 0.3 * std::sin(0.21 * x + 0.13 * y) + 0.1 * (random() % 1000) / 1000.0);
    });
}

PatchNoise anyNoise(base::Size plane, std::uint32_t seed) {
    std::mt19937 random(seed);
    PatchNoise noise;
    for (Plane<float>& variance : noise) {
        variance = image::planeOf(patchCount(plane),
                                  [&](int, int) { return 1e-4f + 1e-3f * static_cast<float>(random() % 100) / 100; });
    }
    return noise;
}

PatchNoise evenNoise(base::Size plane, float variance) {
    PatchNoise noise;
    for (Plane<float>& of : noise) of = image::filled(patchCount(plane), variance);
    return noise;
}

using Patch = std::array<double, 64>;

double basis(int k, int x) {
    return std::sqrt((k == 0 ? 1.0 : 2.0) / 8) * std::cos(std::numbers::pi * (x + 0.5) * k / 8);
}

Patch transformed(const Patch& in, bool back) {
    Patch out{};
    for (int v = 0; v < 8; ++v) {
        for (int u = 0; u < 8; ++u) {
            for (int y = 0; y < 8; ++y) {
                for (int x = 0; x < 8; ++x) {
                    const double by = back ? basis(y, v) * basis(x, u) : basis(v, y) * basis(u, x);
                    out[static_cast<std::size_t>(8 * v + u)] += by * in[static_cast<std::size_t>(8 * y + x)];
                }
            }
        }
    }
    return out;
}

Patch patchAt(const Plane<float>& plane, int x, int y) {
    Patch patch;
    for (int j = 0; j < 8; ++j) {
        for (int i = 0; i < 8; ++i)
            patch[static_cast<std::size_t>(8 * j + i)] = plane.row(y + j)[static_cast<std::size_t>(x + i)];
    }
    return patch;
}

// As the header says it, patch by patch, in double.
Plane<float> reference(const Plane<float>& noisy, const Plane<float>* pilot, const PatchNoise& noise) {
    const base::Size size = noisy.size(), patches = patchCount(size);
    const auto place = [&](int x, int y) { return static_cast<std::size_t>(y * size.width + x); };
    std::vector<double> sums(place(0, size.height)), weights(sums.size());
    for (int row = 0; row < patches.height; ++row) {
        for (int column = 0; column < patches.width; ++column) {
            const int x0 = column * patchStep, y0 = row * patchStep;
            Patch c = transformed(patchAt(noisy, x0, y0), false);
            const Patch p = pilot ? transformed(patchAt(*pilot, x0, y0), false) : c;
            const auto variance = [&](std::size_t band) {
                return double{noise[band].row(row)[static_cast<std::size_t>(column)]};
            };
            double kept = 8;
            for (std::size_t i = 1; i < 64; ++i) {
                const double v = variance(bandOf(static_cast<int>(i % 8 + i / 8)));
                const double gain = pilot ? p[i] * p[i] / (p[i] * p[i] + v) : (c[i] * c[i] > 9 * v ? 1 : 0);
                c[i] *= gain;
                kept += gain * gain;
            }
            const Patch made = transformed(c, true);
            const double weight = 1 / kept;
            for (int j = 0; j < 8; ++j) {
                for (int i = 0; i < 8; ++i) {
                    const double taper =
                        std::sin(std::numbers::pi * (i + 0.5) / 8) * std::sin(std::numbers::pi * (j + 0.5) / 8);
                    sums[place(x0 + i, y0 + j)] += taper * weight * made[static_cast<std::size_t>(8 * j + i)];
                    weights[place(x0 + i, y0 + j)] += taper * weight;
                }
            }
        }
    }
    return image::planeOf(size,
                          [&](int x, int y) { return static_cast<float>(sums[place(x, y)] / weights[place(x, y)]); });
}

double farthest(const Plane<float>& a, const Plane<float>& b) {
    double worst = 0;
    for (int y = 0; y < a.size().height; ++y) {
        for (std::size_t x = 0; x < a.row(y).size(); ++x)
            worst = std::max(worst, std::abs(double{a.row(y)[x]} - double{b.row(y)[x]}));
    }
    return worst;
}

TEST(SlidingDct, IsWhatThePatchesOneByOneMake) {
    for (const base::Size size : {base::Size{8, 8}, {10, 12}, {42, 26}, {70, 40}, {136, 18}}) {
        const Plane<float> noisy = anyPlane(size, 3), pilot = anyPlane(size, 4);
        const PatchNoise noise = anyNoise(size, 5);
        // Pixels whose coefficients lie just at the limit may fall on either side of it in floats.
        EXPECT_LT(farthest(wienerFiltered(noisy, pilot, noise), reference(noisy, &pilot, noise)), 2e-5) << size.width;
        EXPECT_LT(farthest(withoutSmallCoefficients(noisy, noise), reference(noisy, nullptr, noise)), 2e-5)
            << size.width;
    }
}

TEST(SlidingDct, WithoutNoiseThePlaneStays) {
    const base::Size size{50, 30};
    const Plane<float> plane = anyPlane(size, 8);
    const PatchNoise none = evenNoise(size, 0);
    EXPECT_LT(farthest(withoutSmallCoefficients(plane, none), plane), 1e-5);
    EXPECT_LT(farthest(wienerFiltered(plane, plane, none), plane), 1e-5);
}

TEST(SlidingDct, APatchKeepsItsMean) {
    const Plane<float> plane = anyPlane({24, 16}, 2), means = patchMeans(plane);
    for (int row = 0; row < means.size().height; ++row) {
        for (int column = 0; column < means.size().width; ++column) {
            double sum = 0;
            for (const double v : patchAt(plane, column * patchStep, row * patchStep)) sum += v;
            EXPECT_NEAR(means.row(row)[static_cast<std::size_t>(column)], sum / 64, 1e-6);
        }
    }
    const PatchNoise all = evenNoise(plane.size(), 1e6f);  // nothing but the mean is left
    const Plane<float> flat = withoutSmallCoefficients(image::filled(plane.size(), 0.3f), all);
    EXPECT_LT(farthest(flat, image::filled(plane.size(), 0.3f)), 1e-6);
}

TEST(Halving, MeansOfFourAndBackAlongARamp) {
    const base::Size size{22, 14};
    const Plane<float> ramp = image::planeOf(size, [](int x, int y) { return 0.25f * static_cast<float>(x + 2 * y); });
    const Plane<float> half = halved(ramp);
    EXPECT_FLOAT_EQ(half.row(1)[2], 0.25f * (4.5f + 2 * 2.5f));
    // Between the middles of a ramp's pixels lies the ramp itself.
    for (const base::Size inner : {base::Size{18, 10}, {17, 9}}) {
        Plane<float> out = image::filled(inner, 1.0f);
        addDoubled(half, 1, -1, out);
        const Plane<float> own = image::cropped(ramp, {2, 2, 2 + inner.width, 2 + inner.height});
        EXPECT_LT(farthest(out, image::planeOf(
                                    inner, [&](int x, int y) { return 1 - own.row(y)[static_cast<std::size_t>(x)]; })),
                  1e-6);
    }
}

}  // namespace
}  // namespace dimhem::kernel
