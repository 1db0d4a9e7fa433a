#include "core/adjust/grain.h"

#include <gtest/gtest.h>

#include <array>
#include <cmath>
#include <complex>
#include <numbers>
#include <random>

#include "core/kernel/gaussian.h"

namespace dimhem::adjust {
namespace {

constexpr base::Size size{384, 256};

GrainLevel levelOf(double sigmaLevels, double sizePx, double colour) {
    GrainLevel level;
    level.sigma.fill(sigmaLevels / 255);
    level.sizePx = sizePx;
    level.colour = colour;
    return level;
}

Settings laidOn(const GrainLevel& level, double amount = 100) {
    Settings settings = withGrain(neutralSettings(grain), level);
    settings.values[0] = amount;
    return settings;
}

image::EncodedPlanes plain(base::Size of, float value) {
    image::EncodedPlanes out(of);
    for (image::Plane<float>* plane : {&out.red, &out.green, &out.blue}) *plane = image::filled(of, value);
    return out;
}

// A rectangle of a level of a plain picture with grain on it.
image::EncodedPlanes grained(const Settings& settings, const image::Area& area, float value = 0.4f) {
    const Operations operations = grain.prepare(settings);
    const auto& spatial = *std::get<std::unique_ptr<const SpatialOperation>>(operations[0]);
    image::EncodedPlanes out = plain(area.rect.size(), value);
    std::vector<image::Plane<float>> model;
    for (std::size_t i = 0; i < spatial.planes(); ++i) model.emplace_back(area.rect.size());
    spatial.makeModel(plain(area.rect.size(), value), area, {}, model);
    for (int y = 0; y < area.rect.height(); ++y) {
        std::vector<const float*> rows;
        for (const auto& plane : model) rows.push_back(plane.row(y).data());
        kernel::ConvertibleRow row(kernel::rowOf(out, y), static_cast<std::size_t>(area.rect.width()));
        spatial.row(row, rows);
    }
    return out;
}

struct Statistics {
    double mean = 0, sigma = 0, beside = 0;  // of luma; beside: the correlation of neighbours
};

Statistics of(const image::EncodedPlanes& picture) {
    double sum = 0, squares = 0, pairs = 0, count = 0;
    const auto luma = [&](int y, std::size_t x) {
        return (double{picture.red.row(y)[x]} + double{picture.green.row(y)[x]} + double{picture.blue.row(y)[x]}) / 3;
    };
    for (int y = 0; y < picture.size().height; ++y) {
        for (std::size_t x = 0; x + 1 < picture.red.row(y).size(); ++x) {
            sum += luma(y, x);
            squares += luma(y, x) * luma(y, x);
            pairs += luma(y, x) * luma(y, x + 1);
            ++count;
        }
    }
    Statistics s;
    s.mean = sum / count;
    const double variance = squares / count - s.mean * s.mean;
    s.sigma = 255 * std::sqrt(variance);
    s.beside = (pairs / count - s.mean * s.mean) / variance;
    return s;
}

}  // namespace

class GrainLaid : public testing::TestWithParam<double> {};

TEST_P(GrainLaid, HasTheStrengthAndSizeItWasGivenAndIsMeasuredSoAgain) {
    const double sizePx = GetParam();
    const image::EncodedPlanes picture = grained(laidOn(levelOf(5, sizePx, 0.5)), {base::rectOf(size), 0});
    const Statistics s = of(picture);
    EXPECT_NEAR(s.mean, 0.4, 0.002);
    EXPECT_NEAR(s.sigma, 5, 0.25);
    EXPECT_NEAR(s.beside, sizePx > 0.3 ? std::exp(-1 / (4 * sizePx * sizePx)) : 0, 0.06);
    GrainMeter meter;
    meter.add(picture);
    const GrainLevel found = meter.level();
    // Below a third of a pixel all sizes are alike: neighbours have nothing in common.
    EXPECT_NEAR(std::max(found.sizePx, 0.3), std::max(sizePx, 0.3), 0.15);
    EXPECT_NEAR(255 * found.sigma[6], 5, 0.6);
    EXPECT_NEAR(found.colour, 0.5, 0.08);
}

INSTANTIATE_TEST_SUITE_P(Sizes, GrainLaid, testing::Values(0.0, 0.6, 1.0, 1.6));

// Grain not of our making: white noise under a Gaussian, summed up here directly. What is measured of it and laid on a
// plain has its power in the same rings of frequency, over 64 patches of 32 by 32.
std::array<double, 8> ringsOfPower(const image::EncodedPlanes& picture) {
    constexpr int side = 32, patches = 8;
    std::array<double, 8> rings{}, counts{};
    std::vector<std::complex<double>> turns(side);
    for (int k = 0; k < side; ++k)
        turns[static_cast<std::size_t>(k)] = std::polar(1.0, -2 * std::numbers::pi * k / side);
    const auto along = [&](const std::vector<std::complex<double>>& from, int step, int across) {
        std::vector<std::complex<double>> out(from.size());
        for (int line = 0; line < side; ++line) {
            for (int u = 0; u < side; ++u) {
                for (int x = 0; x < side; ++x)
                    out[static_cast<std::size_t>(line * across + u * step)] +=
                        from[static_cast<std::size_t>(line * across + x * step)] *
                        turns[static_cast<std::size_t>(u * x % side)];
            }
        }
        return out;
    };
    for (int patch = 0; patch < patches * patches; ++patch) {
        const int x0 = patch % patches * side, y0 = patch / patches * side;
        std::vector<std::complex<double>> values(side * side);
        double mean = 0;
        for (int i = 0; i < side * side; ++i) {
            const double v = double{picture.green.view().at(x0 + i % side, y0 + i / side)};
            values[static_cast<std::size_t>(i)] = v;
            mean += v / (side * side);
        }
        for (auto& v : values) v -= mean;
        const auto spectrum = along(along(values, 1, side), side, 1);
        for (int v = 0; v < side; ++v) {
            for (int u = 0; u < side; ++u) {
                const double f = std::hypot(std::min(u, side - u), std::min(v, side - v));
                const auto ring = static_cast<std::size_t>(f / 2.0);
                if (f == 0 || ring >= rings.size()) continue;
                rings[ring] += std::norm(spectrum[static_cast<std::size_t>(v * side + u)]);
                counts[ring] += 1;
            }
        }
    }
    for (std::size_t i = 0; i < rings.size(); ++i) rings[i] /= counts[i];
    return rings;
}

TEST(Grain, LaidOnHasThePowerOfWhatWasMeasuredAtEveryFrequency) {
    constexpr base::Size of{256, 256};
    for (const double size : {0.5, 0.9, 1.5}) {
        std::mt19937 random(11);
        std::normal_distribution<float> white(0, 0.06f);
        image::EncodedPlanes photo = plain(of, 0.45f);
        image::Plane<float> noise = image::planeOf(of, [&](int, int) { return white(random); });
        kernel::gaussianBlur(noise, size);
        for (image::Plane<float>* plane : {&photo.red, &photo.green, &photo.blue}) {
            for (int y = 0; y < of.height; ++y)
                std::ranges::transform(plane->row(y), noise.row(y), plane->row(y).begin(), std::plus<>());
        }
        GrainMeter meter;
        meter.add(photo);
        const auto given = ringsOfPower(photo),
                   made = ringsOfPower(grained(laidOn(meter.level()), {base::rectOf(of), 0}, 0.45f));
        double all = 0;
        for (const double ring : given) all = std::max(all, ring);
        for (std::size_t i = 0; i < given.size(); ++i) {
            if (given[i] < 0.1 * all) continue;  // hardly any there
            std::printf("size %g ring %zu: %.2f of the strongest, laid on %.2f of it\n", size, i, given[i] / all,
                        made[i] / given[i]);
            EXPECT_NEAR(made[i] / given[i], 1, 0.25) << "size " << size << ", ring " << i;
        }
    }
}

TEST(Grain, OnCoarserLevelsItIsThatOfTheMean) {
    for (const double sizePx : {0.0, 0.8, 2.0}) {
        const Settings settings = laidOn(levelOf(8, sizePx, 0));
        const image::EncodedPlanes fine = grained(settings, {base::rectOf(size), 0});
        image::EncodedPlanes mean(base::Size{size.width / 4, size.height / 4});
        for (auto [to, from] :
             {std::pair{&mean.red, &fine.red}, {&mean.green, &fine.green}, {&mean.blue, &fine.blue}}) {
            *to = image::planeOf(mean.size(), [&, from = from](int x, int y) {
                float sum = 0;
                for (int k = 0; k < 16; ++k) sum += from->row(4 * y + k / 4)[static_cast<std::size_t>(4 * x + k % 4)];
                return sum / 16;
            });
        }
        const Statistics wanted = of(mean), seen = of(grained(settings, {base::rectOf(size), 2}));
        EXPECT_NEAR(seen.sigma, wanted.sigma, 0.1 * wanted.sigma) << sizePx;
    }
}

TEST(Grain, GoesByThePlaceAlone) {
    const Settings settings = laidOn(levelOf(6, 1.2, 0.4));
    const image::EncodedPlanes whole = grained(settings, {base::rectOf(size), 0}),
                               part = grained(settings, {{100, 60, 180, 90}, 0});
    for (int y = 0; y < 30; ++y) {
        for (std::size_t x = 0; x < 80; ++x) ASSERT_EQ(part.blue.row(y)[x], whole.blue.row(60 + y)[100 + x]);
    }
}

TEST(Grain, FollowsTheTone) {
    GrainLevel level = levelOf(2, 0.8, 0);
    for (std::size_t tone = 8; tone < grainTones; ++tone) level.sigma[tone] = 8.0 / 255;
    EXPECT_NEAR(of(grained(laidOn(level), {base::rectOf(size), 0}, 0.2f)).sigma, 2, 0.15);
    EXPECT_NEAR(of(grained(laidOn(level), {base::rectOf(size), 0}, 0.8f)).sigma, 8, 0.5);
    EXPECT_NEAR(of(grained(laidOn(level, 50), {base::rectOf(size), 0}, 0.8f)).sigma, 4, 0.3);
}

TEST(Grain, IsMeasuredOnFlatPlacesBesideSlopesAndEdges) {
    std::mt19937 random(9);
    std::normal_distribution<float> normal;
    image::Plane<float> noise = image::planeOf(size, [&](int, int) { return normal(random); });
    kernel::gaussianBlur(noise, 1);
    image::EncodedPlanes picture(size);
    for (auto* plane : {&picture.red, &picture.green, &picture.blue}) {
        *plane = image::planeOf(size, [&](int x, int y) {
            const float scene = 0.3f + 0.0004f * static_cast<float>(x) + (x % 97 < 12 ? 0.2f : 0.0f);
            return scene + 4.0f / 255 * 3.545f * noise.row(y)[static_cast<std::size_t>(x)];
        });
    }
    GrainMeter meter;
    meter.add(picture);
    const GrainLevel found = meter.level();
    EXPECT_NEAR(found.sizePx, 1, 0.2);
    EXPECT_NEAR(255 * found.sigma[6], 4, 0.7);
    EXPECT_LT(found.colour, 0.05);
}

TEST(Grain, ATonePresentInTextureAloneIsHeldByTheOthers) {
    image::EncodedPlanes picture = grained(laidOn(levelOf(3, 0.8, 0)), {base::rectOf(size), 0});
    for (auto* plane : {&picture.red, &picture.green, &picture.blue}) {
        for (int y = 0; y < 64; ++y) {
            for (std::size_t x = 0; x < 96; ++x)
                plane->row(y)[x] += (x / 3 + static_cast<std::size_t>(y) / 3) % 2 ? 0.1f : 0.6f;
        }
    }
    GrainMeter meter;
    meter.add(picture);
    for (const double sigma : meter.level().sigma) EXPECT_LT(255 * sigma, 3 * 3.3);
}

TEST(Grain, WithoutAnyNothingIsLaidOn) {
    EXPECT_TRUE(isNeutral(grain, laidOn(levelOf(0, 1, 1))));
    EXPECT_TRUE(isNeutral(grain, laidOn(levelOf(4, 1, 1), 0)));
    Settings unmeasured = neutralSettings(grain);
    unmeasured.values[0] = 100;
    EXPECT_TRUE(isNeutral(grain, unmeasured));
    EXPECT_TRUE(lacksMeasuring(grain, unmeasured));
    GrainMeter meter;
    meter.add(plain(size, 0.5f));
    EXPECT_EQ(meter.level().sigma[8], 0);
}

}  // namespace dimhem::adjust
