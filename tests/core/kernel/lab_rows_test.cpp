#include "core/kernel/lab_rows.h"

#include <gtest/gtest.h>

#include <cmath>
#include <random>
#include <vector>

#include "core/colour/lab.h"

namespace dimhem::kernel {
namespace {

struct Pixels {
    std::vector<float> r, g, b;
    EncodedRow row() { return {r.data(), g.data(), b.data()}; }
};

// Random colours, and those about black, white and the curve's break, below 0 and above 1 among them.
Pixels pixels() {
    std::mt19937 random(2);
    Pixels out;
    for (int i = 0; i < 4001; ++i) {
        const auto any = [&] { return static_cast<float>(random() % 3000) / 1000 - 1; };
        const float grey = static_cast<float>(i) / 4000;
        const bool near = i % 2 == 0;
        out.r.push_back(near ? grey : any());
        out.g.push_back(near ? grey * grey : any());
        out.b.push_back(near ? grey / 50 : any());
    }
    return out;
}

TEST(LabRows, AreThoseOfTheReference) {
    Pixels p = pixels();
    const Pixels in = p;
    std::vector<float> lightness(p.r.size());
    lightnessRow(p.row(), lightness.data(), p.r.size());
    labRow(p.row(), p.r.size());
    for (std::size_t i = 0; i < p.r.size(); ++i) {
        const colour::Lab lab = colour::labFromEncoded({in.r[i], in.g[i], in.b[i]});
        ASSERT_NEAR(p.r[i], lab.l, labMaxError) << i;
        ASSERT_NEAR(p.g[i], lab.a, labMaxError) << i;
        ASSERT_NEAR(p.b[i], lab.b, labMaxError) << i;
        ASSERT_NEAR(lightness[i], lab.l, labMaxError) << i;
    }
}

TEST(LabRows, TheNearestOfSomeColours) {
    Pixels p = pixels();
    labRow(p.row(), p.r.size());
    const std::vector<colour::Lab> colours = {{50, 10, -20}, {80, -5, 30}, {20, 40, 0}};
    std::vector<float> distance(p.r.size());
    nearestColourRow(p.r.data(), p.g.data(), p.b.data(), colours, 0.6f, distance.data(), p.r.size());
    for (std::size_t i = 0; i < p.r.size(); ++i) {
        double nearest = 1e9;
        for (const colour::Lab& c : colours)
            nearest = std::min(nearest, std::hypot(0.6 * (p.r[i] - c.l), p.g[i] - c.a, p.b[i] - c.b));
        ASSERT_NEAR(distance[i], nearest, 1e-3) << i;
    }
    nearestColourRow(p.r.data(), p.g.data(), p.b.data(), {}, 0.6f, distance.data(), p.r.size());
    EXPECT_GT(distance[7], 1e8f);
}

}  // namespace
}  // namespace dimhem::kernel
