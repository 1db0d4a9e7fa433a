#include "core/mask/veil_density.h"

#include <gtest/gtest.h>

#include <cmath>
#include <nlohmann/json.hpp>

#include "core/colour/srgb.h"
#include "core/render/renderer.h"
#include "tests/support/documents.h"
#include "tests/support/pictures.h"

namespace dimhem::mask {
namespace {

constexpr base::Size size{480, 240};
constexpr colour::LinearRgb print{0.40, 0.33, 0.24}, veil{0.95, 0.75, 0.45};

double densityAt(double x) {
    return std::exp(-std::pow((x - 300) / 70, 2));
}

// A print of one colour in many tones, under a strip of light of another.
std::shared_ptr<const render::PhotoSource> leaked(double noise) {
    image::Photo photo;
    photo.format = "made";
    photo.samples = image::Samples(size, 3, image::SampleType::f32);
    std::mt19937 random(5);
    std::normal_distribution<double> grain(0, noise);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const double tone = 0.4 + 0.35 * std::sin(0.11 * x + 0.05 * y) * std::cos(0.21 * y), w = 0.6 * densityAt(x);
            const double p[3] = {print.r * tone, print.g * tone, print.b * tone}, v[3] = {veil.r, veil.g, veil.b};
            for (int c = 0; c < 3; ++c) {
                const double light = (1 - w) * p[c] + w * v[c];
                const auto value = static_cast<float>(colour::encodedFromLinear(light) + grain(random));
                std::memcpy(photo.samples.row(y) + (3 * x + c) * 4, &value, 4);
            }
        }
    }
    return *render::PhotoSource::make(std::make_shared<const image::Photo>(std::move(photo)));
}

VeilDensityValues known() {
    VeilDensityValues values;
    const double w = 0.6, tone = 0.4;
    values.dense = colour::LinearRgb{(1 - w) * print.r * tone + w * veil.r, (1 - w) * print.g * tone + w * veil.g,
                                     (1 - w) * print.b * tone + w * veil.b};
    values.clear = colour::LinearRgb{print.r * 0.7, print.g * 0.7, print.b * 0.7};
    values.smoothPx = 6;
    return values;
}

image::Plane<float> rendered(const VeilDensityValues& values, const std::shared_ptr<const render::PhotoSource>& photo,
                             int level = 0) {
    const render::Renderer renderer(photo, std::make_shared<render::TileCache>());
    const render::Sequence sequence(tests::documentOf("[{\"mask\": {}}]"), {});
    const auto context = renderer.maskContext(sequence, sequence.document().corrections[0]->id);
    const base::Size of = image::levelSize(size, level);
    return floatsOf(*VeilDensity(values).over({base::rectOf(of), level}, *context).value(), of);
}

}  // namespace

TEST(VeilDensity, FollowsALeakAcrossThingsOfAllTones) {
    for (const double noise : {0.0, 0.01}) {
        const auto photo = leaked(noise);
        for (const int level : {0, 1, 2}) {
            const image::Plane<float> density = rendered(known(), photo, level);
            double worst = 0;
            for (int y = 0; y < density.size().height; ++y) {
                for (int x = 0; x < density.size().width; ++x)
                    worst = std::max(worst,
                                     std::abs(double{density.view().at(x, y)} - densityAt((x + 0.5) * (1 << level))));
            }
            EXPECT_LT(worst, noise > 0 ? 0.12 : 0.02) << "noise " << noise << ", level " << level;
        }
    }
}

TEST(VeilDensity, WhatIsThinnerThanAskedCountsAsNone) {
    VeilDensityValues values = known();
    values.clearBelowPct = 20;
    const image::Plane<float> density = rendered(values, leaked(0));
    EXPECT_EQ(density.view().at(100, 120), 0.0f);
    EXPECT_NEAR(double{density.view().at(240, 120)}, (densityAt(240.5) - 0.2) / 0.8, 0.03);
    EXPECT_NEAR(double{density.view().at(300, 120)}, 1, 0.02);
}

TEST(VeilDensity, CoversNothingUntilItKnowsTwoColoursThatDiffer) {
    const auto photo = leaked(0);
    VeilDensityValues none, one = known(), alike = known();
    one.clear.reset();
    alike.clear = alike.dense;
    for (const VeilDensityValues& values : {none, one, alike}) {
        EXPECT_FALSE(VeilDensity(values).direction());
        EXPECT_EQ(VeilDensity(values).uniformOn({{0, 0, 9, 9}, 0}), std::uint16_t{0});
        EXPECT_EQ(rendered(values, photo).view().at(300, 120), 0.0f);
    }
}

TEST(VeilDensity, IsKeptInDocuments) {
    VeilDensityValues values = known();
    values.clearBelowPct = 7.5;
    nlohmann::json json;
    VeilDensity(values).toJson(json);
    const auto again = VeilDensity::kindInfo.fromJson(json);
    ASSERT_TRUE(again);
    const auto& read = dynamic_cast<const VeilDensity&>(**again).values();
    EXPECT_EQ(read.dense->g, values.dense->g);
    EXPECT_EQ(read.clearBelowPct, 7.5);
    EXPECT_EQ(read.smoothPx, 6);
    for (const char* wrong : {R"({"dense": [1, 2]})", R"({"clear": [1, 2, "a"]})", R"({"dense": [1, 2, -3]})",
                              R"({"smooth": 1e9})", R"({"clear-below": -1})"}) {
        const auto refused = VeilDensity::kindInfo.fromJson(nlohmann::json::parse(wrong));
        EXPECT_FALSE(refused) << wrong;
    }
}

}  // namespace dimhem::mask
