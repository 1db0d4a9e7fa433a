#include "core/adjust/haze.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>

#include "core/edge/transmission.h"
#include "core/kernel/blend_rows.h"
#include "core/kernel/extreme_filter.h"
#include "core/kernel/srgb_rows.h"

namespace dimhem::adjust {
namespace {

constexpr colour::LinearRgb air{0.7, 0.66, 0.6};

Settings withAmount(double percent, double near = 0, double scale = 1, double floorPct = 3) {
    Settings settings = neutralSettings(haze);
    settings.values = {percent, floorPct};
    settings = withAirLight(settings, air);
    settings.tables[static_cast<std::size_t>(HazeTable::measured)] = {0, near, scale, 0};
    return settings;
}

// One pixel under lines that say t, whatever its colour.
colour::LinearRgb cleared(const Settings& settings, const colour::LinearRgb& seen, double t) {
    const Operations operations = haze.prepare(settings);
    const auto& spatial = *std::get<std::unique_ptr<const SpatialOperation>>(operations[0]);
    const float zero = 0, offset = static_cast<float>(t);
    const float* lines[6] = {&zero, &zero, &zero, &offset, &offset, &zero};
    float r = static_cast<float>(seen.r), g = static_cast<float>(seen.g), b = static_cast<float>(seen.b);
    kernel::ConvertibleRow row(kernel::LinearRow{&r, &g, &b}, 1);
    spatial.row(row, lines);
    return {double{r}, double{g}, double{b}};
}

colour::LinearRgb through(const colour::LinearRgb& scene, double t) {
    return {t * scene.r + (1 - t) * air.r, t * scene.g + (1 - t) * air.g, t * scene.b + (1 - t) * air.b};
}

// Nothing in it is darker than what the bound expects, so that t is within it.
constexpr colour::LinearRgb scene{0.3, 0.12, 0.04};

TEST(HazeAdjustment, UndoesHazeThatIsKnown) {
    for (const double t : {0.9, 0.6, 0.3, 0.12, 0.05}) {
        const colour::LinearRgb back = cleared(withAmount(100), through(scene, t), t);
        EXPECT_NEAR(back.r, scene.r, 1e-3) << t;
        EXPECT_NEAR(back.g, scene.g, 1e-3) << t;
        EXPECT_NEAR(back.b, scene.b, 1e-3) << t;
    }
}

// Compositing and Blending Level 1, 10.1: colour burn of a grey t over a picture is 1 - (1 - P) / t: haze of white air
// taken off.
TEST(HazeAdjustment, OfWhiteAirIsAColourBurn) {
    const colour::LinearRgb white{1, 1, 1};
    for (const double t : {0.9, 0.5, 0.2}) {
        const colour::LinearRgb seen{t * scene.r + 1 - t, t * scene.g + 1 - t, t * scene.b + 1 - t};
        Settings settings = withAirLight(withAmount(100), white);
        settings.tables[static_cast<std::size_t>(HazeTable::measured)] = {0, 0, 1, 0};
        const colour::LinearRgb back = cleared(settings, seen, t);
        float lower[3] = {static_cast<float>(seen.r), static_cast<float>(seen.g), static_cast<float>(seen.b)};
        float upper[3] = {static_cast<float>(t), static_cast<float>(t), static_cast<float>(t)};
        kernel::blendRow(kernel::BlendMode::colourBurn, {lower, lower + 1, lower + 2}, {upper, upper + 1, upper + 2},
                         1);
        EXPECT_NEAR(back.r, upper[0], 1e-5) << t;
        EXPECT_NEAR(back.g, upper[1], 1e-5) << t;
        EXPECT_NEAR(back.b, upper[2], 1e-5) << t;
    }
}

TEST(HazeAdjustment, BelowNoneItLaysOnAsMuch) {
    const double t = 0.5;
    const colour::LinearRgb more = cleared(withAmount(-100), through(scene, t), t), twice = through(scene, t * t);
    EXPECT_NEAR(more.r, twice.r, 1e-3);
    EXPECT_NEAR(more.b, twice.b, 1e-3);
}

TEST(HazeAdjustment, NearMarksProtectAndTheFloorHolds) {
    const double t = 0.6;
    const colour::LinearRgb seen = through(scene, t), kept = cleared(withAmount(100, -std::log(t)), seen, t);
    EXPECT_NEAR(kept.r, seen.r, 1e-6);
    // At a floor of 30 % light is amplified 1 / 0.3 times at most; what is haze and nothing else is left alone.
    double most = 0;
    for (double depth = 0; depth < 4; depth += 0.05) {
        const colour::LinearRgb thick = through(scene, std::exp(-depth)),
                                held = cleared(withAmount(100, 0, 1, 30), thick, std::exp(-depth));
        most = std::max(most, (air.r - held.r) / (air.r - thick.r));
    }
    EXPECT_NEAR(most, 1 / 0.3, 0.1);
    const colour::LinearRgb sky = through(scene, 0.03), same = cleared(withAmount(100, 0, 1, 30), sky, 0.03);
    EXPECT_NEAR(same.r, sky.r, 1e-5);
}

TEST(HazeAdjustment, MarksAreMeasuredAnew) {
    Settings settings = withAmount(50);
    EXPECT_FALSE(lacksMeasuring(haze, settings));
    EXPECT_FALSE(isNeutral(haze, settings));
    settings = withNearMark(settings, 10, 20);
    EXPECT_TRUE(lacksMeasuring(haze, settings));
    EXPECT_TRUE(isNeutral(haze, settings)) << "until it is measured";
    settings = withFarMark(settings, 30, 40);
    for (int i = 0; i < 20; ++i) settings = withFarMark(withNearMark(settings, i, i), i, i);
    EXPECT_TRUE(isValid(haze, settings));
    settings = withoutMarks(settings);
    EXPECT_TRUE(settings.tables[1].empty());
    EXPECT_TRUE(airLightOf(settings));
}

// Bands of ever more haze over a scene with something dark everywhere.
class HazyBands : public adjust::Subject {
public:
    static constexpr base::Size size{640, 400};
    static double t(int y) { return y < 40 ? 0.02 : 1 - 0.7 * (400 - y) / 400.0; }
    base::Size photoSize() const override { return size; }
    image::EncodedPlanes picture(const base::Rect& rect, int) const override {
        image::LinearPlanes out(rect.size());
        for (int y = 0; y < rect.height(); ++y) {
            for (int x = 0; x < rect.width(); ++x) {
                const int px = rect.x0 + x, py = rect.y0 + y;
                const bool dark = (px / 5 + py / 5) % 2 == 0;
                const colour::LinearRgb p = through(dark ? colour::LinearRgb{0.05, 0.06, 0.04} : scene, t(py));
                const auto i = static_cast<std::size_t>(x);
                out.red.row(y)[i] = static_cast<float>(p.r);
                out.green.row(y)[i] = static_cast<float>(p.g);
                out.blue.row(y)[i] = static_cast<float>(p.b);
            }
        }
        return kernel::encoded(std::move(out));
    }
    image::Plane<float> coverage(const base::Rect& rect, int) const override {
        return image::filled(rect.size(), 1.0f);
    }
};

TEST(HazeAdjustment, FindsAirLightAndDepth) {
    const HazyBands subject;
    const Settings found = haze.measure(neutralSettings(haze), subject);
    ASSERT_TRUE(airLightOf(found));
    EXPECT_NEAR(airLightOf(found)->r, air.r, 0.03 * air.r);
    EXPECT_NEAR(airLightOf(found)->b, air.b, 0.05 * air.b);
    EXPECT_LT(*leastHaze(found), muchHaze);
    // A near mark in the middle counts what is there as none; a far mark sets the scale.
    const Settings near = haze.measure(withNearMark(found, 320, 200), subject);
    const double expected = -std::log(HazyBands::t(200));
    EXPECT_NEAR(near.tables[static_cast<std::size_t>(HazeTable::measured)][1], expected, 0.15);
    Settings far = withFarMark(found, 320, 100);
    far.tables[static_cast<std::size_t>(HazeTable::far)][2] = 100 * (1 - std::pow(HazyBands::t(100), 2));
    EXPECT_NEAR(haze.measure(far, subject).tables[static_cast<std::size_t>(HazeTable::measured)][2], 2, 0.35);
}

// From the foot of the photo to where the bands end.
TEST(HazeAdjustment, ADistanceMakesHalfOfTheDepth) {
    const HazyBands subject;
    const Settings found = haze.measure(withDistance(neutralSettings(haze), {320, 400}, {320, 40}), subject);
    ASSERT_TRUE(isValid(haze, found));
    const Table& depths = found.tables[static_cast<std::size_t>(HazeTable::depths)];
    ASSERT_EQ(depths.size(), 12u);
    EXPECT_EQ(depths.front(), 0);
    EXPECT_TRUE(std::ranges::is_sorted(depths));
    const auto depthAt = [](double y) { return -std::log(1 - 0.7 * (400 - y) / 400.0); };
    for (std::size_t i = 0; i < depths.size(); ++i) {
        const double y = 400 - (static_cast<double>(i) + 0.5) * 30;
        EXPECT_NEAR(depths[i], depthAt(y) - depthAt(385), 0.15) << y;
    }
    // Half of its own depth and half of what is usual; but what is dark has no haze before it.
    Settings all = found;
    all.values[0] = 100;
    const Operations operations = haze.prepare(all);
    const auto& spatial = *std::get<std::unique_ptr<const SpatialOperation>>(operations[0]);
    const colour::LinearRgb a = *airLightOf(found);
    const double near = found.tables[static_cast<std::size_t>(HazeTable::measured)][1];
    const auto clearedOf = [&](double share, float t, float usual) {
        const float zero = 0;
        const float* lines[6] = {&zero, &zero, &zero, &t, &t, &usual};
        auto r = static_cast<float>(share * a.r), g = static_cast<float>(share * a.g),
             b = static_cast<float>(share * a.b);
        kernel::ConvertibleRow row(kernel::LinearRow{&r, &g, &b}, 1);
        spatial.row(row, lines);
        return double{r};
    };
    const double own = -std::log(0.5) - near, depth = 0.5 * own + 0.5 * 0.2;
    EXPECT_NEAR(clearedOf(0.55, 0.5f, 0.2f), a.r + (0.55 - 1) * a.r * std::exp(depth), 1e-3);
    for (const float usual : {0.0f, 0.5f, 1.5f}) EXPECT_NEAR(clearedOf(0.03, 1.0f, usual), 0.03 * a.r, 1e-5) << usual;
    EXPECT_TRUE(withoutMarks(found).tables[static_cast<std::size_t>(HazeTable::distance)].empty());
}

TEST(ExtremeFilter, TakesTheLeastAndTheGreatestOfEachWindow) {
    const base::Size size{37, 23};
    const auto plane =
        image::planeOf(size, [](int x, int y) { return static_cast<float>((x * 7919 + y * 104729) % 997); });
    for (const int radius : {1, 2, 3, 7}) {
        const auto least = kernel::leastAround(plane, radius), greatest = kernel::greatestAround(plane, radius);
        for (int y = 0; y < size.height; ++y) {
            for (int x = 0; x < size.width; ++x) {
                float low = 1e9f, high = -1e9f;
                for (int j = std::max(0, y - radius); j <= std::min(size.height - 1, y + radius); ++j) {
                    for (int i = std::max(0, x - radius); i <= std::min(size.width - 1, x + radius); ++i) {
                        low = std::min(low, plane.row(j)[static_cast<std::size_t>(i)]);
                        high = std::max(high, plane.row(j)[static_cast<std::size_t>(i)]);
                    }
                }
                ASSERT_EQ(least.row(y)[static_cast<std::size_t>(x)], low) << radius;
                ASSERT_EQ(greatest.row(y)[static_cast<std::size_t>(x)], high) << radius;
            }
        }
    }
}

}  // namespace
}  // namespace dimhem::adjust
