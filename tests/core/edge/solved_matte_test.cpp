#include "core/edge/solved_matte.h"

#include <gtest/gtest.h>

#include <cmath>
#include <functional>
#include <random>

namespace dimhem::edge {
namespace {

using image::Plane;
using Matte = std::function<double(int, int)>;

constexpr base::Size size{200, 180};
constexpr float thing[3] = {0.10f, 0.05f, 0.03f}, ground[3] = {0.45f, 0.55f, 0.70f};

// Two colours with a little noise of their own, mixed through a matte in linear light.
image::LinearPlanes mixed(const Matte& matte, double noise, std::uint32_t seed = 1) {
    std::mt19937 random(seed);
    std::normal_distribution<float> some(0, static_cast<float>(noise));
    image::LinearPlanes out(size);
    Plane<float>* planes[3] = {&out.red, &out.green, &out.blue};
    for (int c = 0; c < 3; ++c) {
        *planes[c] = image::planeOf(size, [&](int x, int y) {
            const auto m = static_cast<float>(matte(x, y));
            return m * thing[c] + (1 - m) * ground[c] + (noise > 0 ? some(random) : 0);
        });
    }
    return out;
}

struct Off {
    double mean = 0, worst = 0;
};

// Of the zone.
Off offIn(const Plane<std::uint8_t>& zone, const Plane<float>& made, const Matte& matte) {
    Off off;
    double count = 1e-9;
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            if (!zone.view().at(x, y)) continue;
            const double d = std::abs(double{made.view().at(x, y)} - matte(x, y));
            off.mean += d;
            off.worst = std::max(off.worst, d);
            count += 1;
        }
    }
    off.mean /= count;
    return off;
}

Plane<std::uint8_t> zoneOf(const std::function<bool(int, int)>& is) {
    Plane<std::uint8_t> out(size);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) out.view().at(x, y) = is(x, y) ? 1 : 0;
    }
    return out;
}

Plane<float> hard(const std::function<bool(int, int)>& is) {
    return image::planeOf(size, [&](int x, int y) { return is(x, y) ? 1.0f : 0.0f; });
}

const auto left = [](int x, int) { return x < 100; };
const auto middle = zoneOf([](int x, int) { return x >= 60 && x < 140; });

}  // namespace

// Cases with an exact answer: a ramp between two colours is its own matte.
TEST(SolvedMatte, ARampBetweenTwoColoursIsExact) {
    for (const double width : {1.0, 6.0, 30.0, 60.0}) {
        const Matte ramp = [=](int x, int) { return std::clamp((100 + width / 2 - x - 0.5) / width, 0.0, 1.0); };
        const Off off =
            offIn(middle, solvedMatte(mixed(ramp, 0), {0, 0}, hard(left), middle, base::rectOf(size)), ramp);
        EXPECT_LT(off.mean, 0.004) << width;
        EXPECT_LT(off.worst, 0.03) << width;
    }
}

// Lines of known width and colour, thinner than a pixel and wider, that the mask before knows nothing of.
TEST(SolvedMatte, ThinLinesAreFoundWithTheirWidth) {
    for (const double width : {0.6, 1.5, 4.0}) {
        const Matte lines = [=](int x, int y) {
            if (x < 70) return 1.0;
            double covered = 0;
            for (int line = 0; line < 6; ++line) {
                const double middleOf = 20 + 28 * line + 0.12 * (x - 70);
                const double low = std::max(y + 0.0, middleOf - width / 2),
                             high = std::min(y + 1.0, middleOf + width / 2);
                covered += std::max(0.0, high - low);
            }
            return x < 130 ? std::min(1.0, covered) : 0.0;
        };
        const auto known = hard([](int x, int) { return x < 70; });
        const Off off =
            offIn(middle, solvedMatte(mixed(lines, 0.004), {0, 0}, known, middle, base::rectOf(size)), lines);
        EXPECT_LT(off.mean, 0.03) << width;
    }
}

TEST(SolvedMatte, OneColourOnBothSidesStaysFinite) {
    image::LinearPlanes same(size);
    for (Plane<float>* plane : {&same.red, &same.green, &same.blue}) *plane = image::filled(size, 0.3f);
    const Plane<float> made = solvedMatte(same, {0, 0}, hard(left), middle, base::rectOf(size));
    for (int y = 0; y < size.height; ++y) {
        for (const float v : made.row(y)) {
            EXPECT_TRUE(std::isfinite(v));
            EXPECT_GE(v, 0.0f);
            EXPECT_LE(v, 1.0f);
        }
    }
}

TEST(SolvedMatte, WhatIsKnownStaysAndNothingKnownChangesNothing) {
    const Matte ramp = [](int x, int) { return std::clamp((120.0 - x) / 40, 0.0, 1.0); };
    const Plane<float> soft = image::planeOf(size, [&](int x, int y) { return static_cast<float>(ramp(x, y)); });
    const Plane<float> made = solvedMatte(mixed(ramp, 0.01), {0, 0}, soft, middle, base::rectOf(size));
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            if (!middle.view().at(x, y)) {
                EXPECT_EQ(made.view().at(x, y), soft.view().at(x, y));
            }
        }
    }
    const auto everything = zoneOf([](int, int) { return true; });
    const Plane<float> none = solvedMatte(mixed(ramp, 0.01), {0, 0}, soft, everything, base::rectOf(size));
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) EXPECT_EQ(none.view().at(x, y), soft.view().at(x, y));
    }
}

// Seeded noise: medians and the worst stay near.
TEST(SolvedMatte, NoiseIsAllowedFor) {
    const Matte ramp = [](int x, int) { return std::clamp((110.5 - x) / 20, 0.0, 1.0); };
    for (std::uint32_t seed = 1; seed <= 6; ++seed) {
        const Plane<float> made = solvedMatte(mixed(ramp, 0.015, seed), {0, 0}, hard(left), middle, base::rectOf(size));
        EXPECT_LT(offIn(middle, made, ramp).mean, 0.035) << seed;
    }
}

}  // namespace dimhem::edge
