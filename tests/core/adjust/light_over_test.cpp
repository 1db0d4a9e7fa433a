// Veil and shadow lift: their formulas, and what is told from a made photo of known truth.
#include <gtest/gtest.h>

#include <cmath>
#include <functional>
#include <random>

#include "core/adjust/shadow_lift.h"
#include "core/adjust/veil.h"
#include "core/adjust/veil_colour.h"
#include "core/kernel/srgb_rows.h"

namespace dimhem::adjust {
namespace {

constexpr base::Size size{480, 360};

// Textured patches of several colours.
double sceneAt(int x, int y, std::size_t c) {
    const double patch = 0.12 + 0.1 * ((x / 120 + 2 * (y / 90)) % 4) + 0.03 * static_cast<double>(c);
    return patch * (1 + 0.12 * std::sin(x * 1.7 + y * 0.6) * std::sin(y * 1.1));
}

// A photo and a mask, worked out for each place.
class Made final : public Subject {
public:
    using Light = std::function<double(int x, int y, std::size_t c)>;
    using Coverage = std::function<double(int x, int y)>;
    Made(Light light, Coverage coverage) : light_(std::move(light)), coverage_(std::move(coverage)) {}

    base::Size photoSize() const override { return size; }
    image::EncodedPlanes picture(const base::Rect& rect, int level) const override {
        image::LinearPlanes out(rect.size());
        image::Plane<float>* planes[3] = {&out.red, &out.green, &out.blue};
        for (std::size_t c = 0; c < 3; ++c)
            *planes[c] = averaged(rect, level, [&](int x, int y) { return light_(x, y, c); });
        return kernel::encoded(std::move(out));
    }
    image::Plane<float> coverage(const base::Rect& rect, int level) const override {
        return averaged(rect, level, coverage_);
    }

private:
    template <class Value>
    static image::Plane<float> averaged(const base::Rect& rect, int level, const Value& value) {
        const int side = 1 << level;
        return image::planeOf(rect.size(), [&](int x, int y) {
            double sum = 0;
            for (int k = 0; k < side * side; ++k)
                sum += value((rect.x0 + x) * side + k % side, (rect.y0 + y) * side + k / side);
            return static_cast<float>(sum / (side * side));
        });
    }

    Light light_;
    Coverage coverage_;
};

double smooth(double t) {
    t = std::clamp(t, 0.0, 1.0);
    return t * t * (3 - 2 * t);
}

// One pixel of linear light.
colour::LinearRgb after(const AdjustmentKind& kind, const Settings& settings, colour::LinearRgb light, double weight) {
    const Operations operations = kind.prepare(settings);
    const auto& by = *std::get<std::unique_ptr<const CoverageOperation>>(operations[0]);
    auto r = static_cast<float>(light.r), g = static_cast<float>(light.g), b = static_cast<float>(light.b);
    const auto w = static_cast<float>(weight);
    by.row({&r, &g, &b}, &w, 1);
    return {double{r}, double{g}, double{b}};
}

constexpr colour::LinearRgb gains{3.4, 2.9, 2.3};
constexpr double gainOfChannel[3] = {gains.r, gains.g, gains.b};

Settings lifted(double percent, const colour::LinearRgb& k = gains) {
    Settings settings = withGains(neutralSettings(shadowLift), k);
    settings.values[0] = percent;
    return settings;
}

}  // namespace

TEST(ShadowLift, IsTheExactInverseOfAShadowAtAnyCoverage) {
    for (const double m : {0.0, 0.1, 0.5, 0.9, 1.0}) {
        const colour::LinearRgb scene{0.42, 0.3, 0.07};
        const auto shaded = [&](double v, double k) { return v * (1 - m + m / k); };
        const colour::LinearRgb seen{shaded(scene.r, gains.r), shaded(scene.g, gains.g), shaded(scene.b, gains.b)};
        const colour::LinearRgb back = after(shadowLift, lifted(100), seen, m),
                                down = after(shadowLift, lifted(-100), scene, m);
        EXPECT_NEAR(back.r, scene.r, 1.0 / 65535) << m;
        EXPECT_NEAR(back.g, scene.g, 1.0 / 65535) << m;
        EXPECT_NEAR(back.b, scene.b, 1.0 / 65535) << m;
        EXPECT_NEAR(down.r, seen.r, 1.0 / 65535) << "laid on";
        EXPECT_NEAR(down.b, seen.b, 1.0 / 65535);
    }
}

TEST(ShadowLift, HalfOfItIsTheRootOfTheGain) {
    EXPECT_NEAR(after(shadowLift, lifted(50), {0.1, 0.1, 0.1}, 1).r, 0.1 * std::sqrt(gains.r), 1e-5);
    EXPECT_TRUE(isNeutral(shadowLift, lifted(0)));
    EXPECT_TRUE(isNeutral(shadowLift, lifted(80, {1, 1, 1})));
}

class Penumbra : public testing::TestWithParam<double> {};

// Of borders of three widths, in pixels.
TEST_P(Penumbra, TellsTheGainOfEachChannel) {
    const double width = GetParam();
    const auto covered = [=](int x, int y) { return smooth((x - 200 + 0.2 * y) / width); };
    const Made subject(
        [&](int x, int y, std::size_t c) {
            const double m = covered(x, y);
            return sceneAt(x, y, c) * (1 - m + m / gainOfChannel[c]);
        },
        covered);
    const auto found = gainsFromBorder(subject);
    ASSERT_TRUE(found);
    EXPECT_NEAR(found->r, gains.r, 0.04 * gains.r);
    EXPECT_NEAR(found->g, gains.g, 0.04 * gains.g);
    EXPECT_NEAR(found->b, gains.b, 0.04 * gains.b);
}

INSTANTIATE_TEST_SUITE_P(Widths, Penumbra, testing::Values(12.0, 30.0, 80.0));

TEST(ShadowLift, WithoutASoftBorderNothingIsMeasured) {
    const Made even([](int x, int y, std::size_t c) { return sceneAt(x, y, c); }, [](int, int) { return 1.0; });
    EXPECT_FALSE(gainsFromBorder(even));
    const Settings settings = lifted(100);
    EXPECT_EQ(shadowLift.measure(settings, even), settings);
    const Made unshaded([](int x, int y, std::size_t c) { return sceneAt(x, y, c); },
                        [](int x, int) { return smooth((x - 200) / 40.0); });
    EXPECT_FALSE(gainsFromBorder(unshaded)) << "a mask where there is no shadow";
}

class KnownVeil : public testing::Test {
protected:
    static constexpr double colour[3] = {0.72, 0.4, 0.16};
    static double covered(int x, int y) { return 0.85 * smooth((300 - std::hypot(x - 60.0, 0.7 * (y - 180.0))) / 260); }
    static double veiled(int x, int y, std::size_t c, double w) { return (1 - w) * sceneAt(x, y, c) + w * colour[c]; }
};

TEST_F(KnownVeil, IsFoundWithTheDensityOfItsMask) {
    for (const double density : {1.0, 0.8}) {
        const Made subject([&](int x, int y, std::size_t c) { return veiled(x, y, c, density * covered(x, y)); },
                           covered);
        const auto found = foundVeil(subject);
        ASSERT_TRUE(found);
        EXPECT_NEAR(found->density, density, 0.05);
        EXPECT_NEAR(found->colour.r, colour[0], 0.04);
        EXPECT_NEAR(found->colour.g, colour[1], 0.04);
        EXPECT_NEAR(found->colour.b, colour[2], 0.04);
        const Settings settings = veil.measure(neutralSettings(veil), subject);
        EXPECT_NEAR(settings.values[0], 100 * density, 5);
        EXPECT_NEAR(veilColourOf(settings).r, found->colour.r, 1e-3);
    }
}

TEST_F(KnownVeil, IsWorkedOutFromOnePlace) {
    const Made subject([&](int x, int y, std::size_t c) { return veiled(x, y, c, covered(x, y)); }, covered);
    const auto picked = pickedVeil(subject, {70, 185}, 1);
    ASSERT_TRUE(picked);
    EXPECT_NEAR(picked->r, colour[0], 0.05);
    EXPECT_NEAR(picked->g, colour[1], 0.05);
    EXPECT_NEAR(picked->b, colour[2], 0.05);
    EXPECT_FALSE(pickedVeil(subject, {470, 20}, 1)) << "no veil there";
    const Made everywhere([](int x, int y, std::size_t c) { return sceneAt(x, y, c); }, [](int, int) { return 0.5; });
    EXPECT_FALSE(pickedVeil(everywhere, {70, 185}, 1)) << "nothing without a veil";
    EXPECT_FALSE(foundVeil(everywhere)) << "too even to tell";
}

TEST(Veil, SaysWhatItMakesOfNoise) {
    Settings settings = neutralSettings(veil);
    EXPECT_EQ(noiseGainOf(settings, 1), 1);
    settings.values[0] = 75;
    EXPECT_NEAR(noiseGainOf(settings, 1), 4, 1e-9);
    EXPECT_NEAR(noiseGainOf(settings, 0.5), 1.6, 1e-9);
}

}  // namespace dimhem::adjust
