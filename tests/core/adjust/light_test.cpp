#include "core/adjust/light.h"

#include <gtest/gtest.h>

#include <random>

#include "core/adjust/registry.h"
#include "tests/support/reference.h"

namespace dimhem::adjust {

namespace {

using colour::EncodedRgb;

std::vector<double> values(const tests::ReferenceLight& r) {
    return {r.exposure, r.contrast, r.lift, r.hold, r.black, r.white, r.midtone, r.holdColour ? 1.0 : 0.0};
}

EncodedRgb apply(const AdjustmentKind& kind, const std::vector<double>& values, const EncodedRgb& in) {
    float r = static_cast<float>(in.r), g = static_cast<float>(in.g), b = static_cast<float>(in.b);
    adjust::apply(kind.prepare(values), {&r, &g, &b}, 1);
    return {r, g, b};
}

tests::ReferenceLight random(std::mt19937& generator) {
    const auto pick = [&](double low, double high) {
        return std::uniform_real_distribution<double>(low, high)(generator);
    };
    return {pick(-3, 3),   pick(-100, 100), pick(-100, 100),  pick(0, 100),
            pick(-30, 40), pick(60, 150),   pick(0, 1) > 0.5, pick(-100, 100)};
}

}  // namespace

TEST(LightAdjustment, MatchesTheReference) {
    std::mt19937 generator(17);
    std::uniform_real_distribution<double> colour(-0.1, 1.2);
    double worst = 0;
    for (int i = 0; i < 3000; ++i) {
        const tests::ReferenceLight reference = random(generator);
        const EncodedRgb in{colour(generator), colour(generator), colour(generator)};
        if (reference.holdColour && std::abs(colour::luminance(colour::linearFromEncoded(in))) < 0.02) continue;
        const EncodedRgb out = apply(light, values(reference), in), expected = reference(in);
        for (const auto& [a, b] : {std::pair{out.r, expected.r}, {out.g, expected.g}, {out.b, expected.b}}) {
            worst = std::max(worst, std::abs(a - b) / std::max(1.0, std::abs(b)));
        }
    }
    std::printf("worst difference %.3g\n", worst);
    EXPECT_LT(worst, 1e-4);
}

TEST(LightAdjustment, OneStopDoublesTheLight) {
    const EncodedRgb out = apply(light, values({1.0}), {0.5, 0.25, 0.1});
    EXPECT_NEAR(colour::linearFromEncoded(out.r), 2 * colour::linearFromEncoded(0.5), 1e-5);
    EXPECT_NEAR(colour::linearFromEncoded(out.b), 2 * colour::linearFromEncoded(0.1), 1e-5);
}

TEST(LightAdjustment, MidtoneLeavesBlackAndWhiteWhereTheyAre) {
    for (const double midtone : {-100.0, 40.0, 100.0}) {
        tests::ReferenceLight only;
        only.midtone = midtone;
        const EncodedRgb out = apply(light, values(only), {0, 0.5, 1});
        EXPECT_NEAR(out.r, 0, 1e-6);
        EXPECT_NEAR(out.g, 0.5 + 0.9 * midtone / 100 / 4, 1e-6);
        EXPECT_NEAR(out.b, 1, 1e-6);
    }
}

TEST(LightAdjustment, ToneRisesEverywhere) {
    std::mt19937 generator(5);
    for (int i = 0; i < 200; ++i) {
        tests::ReferenceLight settings = random(generator);
        settings.holdColour = false;
        const auto operation = light.prepare(values(settings));
        std::vector<float> r(800), g(800), b(800);
        for (std::size_t k = 0; k < r.size(); ++k) r[k] = g[k] = b[k] = -0.3f + 0.002f * static_cast<float>(k);
        apply(operation, {r.data(), g.data(), b.data()}, r.size());
        for (std::size_t k = 1; k < r.size(); ++k) ASSERT_GE(r[k], r[k - 1] - 1e-5f) << "settings " << i << " at " << k;
    }
}

TEST(LightAdjustment, HoldColourKeepsTheChromaticity) {
    tests::ReferenceLight settings;
    settings.contrast = 60;
    settings.lift = 40;
    settings.black = 4;
    settings.holdColour = true;
    const EncodedRgb in{0.62, 0.41, 0.30};
    const auto before = colour::linearFromEncoded(in),
               after = colour::linearFromEncoded(apply(light, values(settings), in));
    EXPECT_NEAR(after.r / after.g, before.r / before.g, 1e-4);
    EXPECT_NEAR(after.b / after.g, before.b / before.g, 1e-4);
}

TEST(LightAdjustment, BlackAndWhitePointGoToZeroAndOne) {
    tests::ReferenceLight settings;
    settings.black = 10;
    settings.white = 80;
    EXPECT_NEAR(apply(light, values(settings), {0.1, 0.8, 0.45}).r, 0, 1e-6);
    EXPECT_NEAR(apply(light, values(settings), {0.1, 0.8, 0.45}).g, 1, 1e-6);
    EXPECT_NEAR(apply(light, values(settings), {0.1, 0.8, 0.45}).b, 0.5, 1e-6);
}

TEST(LightAdjustment, HighlightHoldBringsValuesAboveWhiteBack) {
    tests::ReferenceLight settings;
    settings.hold = 100;
    const EncodedRgb out = apply(light, values(settings), {1.0, 1.5, 3.0});
    EXPECT_LT(out.b, 1.0001);
    EXPECT_LT(out.r, out.g);
    EXPECT_LT(out.g, out.b);
}

TEST(LightAdjustment, EveryRowLengthGivesTheSamePixels) {
    const auto operation = light.prepare(values({0.7, 30, 20, 10, 2, 95, true}));
    for (std::size_t width = 1; width < 40; ++width) {
        std::vector<float> r(width, 0.4f), g(width, 0.3f), b(width, 0.2f);
        apply(operation, {r.data(), g.data(), b.data()}, width);
        for (std::size_t i = 1; i < width; ++i) {
            EXPECT_EQ(r[i], r[0]);
            EXPECT_EQ(b[i], b[0]);
        }
        EXPECT_NEAR(r[0], apply(light, values({0.7, 30, 20, 10, 2, 95, true}), {0.4f, 0.3f, 0.2f}).r, 1e-7);
    }
}

TEST(AdjustmentKinds, AreFoundByIdAndStartNeutral) {
    for (const AdjustmentKind* kind : adjustmentKinds()) {
        EXPECT_EQ(findAdjustmentKind(kind->id), kind);
        EXPECT_TRUE(isNeutral(*kind, neutralSettings(*kind)));
        for (std::size_t i = 0; i < kind->params.size(); ++i) {
            const base::ParamSpec& spec = kind->params[i];
            EXPECT_TRUE(base::inRange(spec, spec.neutral)) << spec.id;
            EXPECT_FALSE(spec.tip.empty()) << spec.id;
            Settings moved = neutralSettings(*kind);
            moved.values[i] = spec.neutral == spec.max ? spec.min : spec.max;
            if (!spec.toggle && !kind->isIdentity) {
                EXPECT_FALSE(isNeutral(*kind, moved)) << spec.id;
            }
        }
    }
    EXPECT_EQ(findAdjustmentKind("nothing"), nullptr);
}

}  // namespace dimhem::adjust
