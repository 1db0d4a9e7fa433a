// Every adjustment over the whole cube: neighbouring colours stay neighbours, all is finite, neutral is identity.
#include <gtest/gtest.h>

#include <cmath>
#include <map>
#include <random>

#include "core/adjust/colour_balance.h"
#include "core/adjust/hue_bands.h"
#include "core/adjust/light.h"
#include "core/adjust/registry.h"
#include "core/adjust/tone_curve.h"
#include "tests/support/adjustments.h"

namespace dimhem::adjust {

namespace {

constexpr double step = 1.0 / 255;

double between(std::mt19937& random, double low, double high) {
    return low + (high - low) * static_cast<double>(random() % 1001) / 1000;
}

// Curves whose points are not nearly above one another, which are as steep as they look.
Table anyCurve(std::mt19937& random) {
    Table points;
    double in = between(random, 0, 20);
    while (in <= 100 && points.size() < 12) {
        points.insert(points.end(), {in, between(random, 0, 100)});
        in += between(random, 20, 50);
    }
    if (points.size() < 4) points = {0, 20, 100, 70};
    return points;
}

// Bands that lead in and out over 20 degrees at least: the hue of a dark colour is known to a few.
Table anyBands(std::mt19937& random) {
    Table bands;
    for (unsigned i = 0; i <= random() % 3; ++i) {
        const double from = between(random, 0, 200), in = between(random, 20, 60), full = between(random, 0, 40),
                     out = between(random, 20, 60);
        bands.insert(bands.end(), {from, from + in, from + in + full, from + in + full + out, between(random, -60, 60),
                                   between(random, -100, 100), between(random, -60, 60), between(random, 0, 360),
                                   random() % 2 ? between(random, 0, 100) : 0});
    }
    return bands;
}

// Numbers of a kind, anywhere in their ranges; every third at an end, every third neutral.
Settings anySettings(const AdjustmentKind& kind, std::mt19937& random) {
    Settings settings = neutralSettings(kind);
    for (std::size_t i = 0; i < kind.params.size(); ++i) {
        const base::ParamSpec& spec = kind.params[i];
        double v = between(random, spec.min, spec.max);
        if (random() % 3 == 0) v = random() % 2 ? spec.min : spec.max;
        if (random() % 3 == 0) v = spec.neutral;
        if (spec.toggle) v = static_cast<double>(random() % 2);
        settings.values[i] = v;
    }
    if (kind.id == light.id) {
        // Levels pulled nearly onto one another are as steep as they look.
        settings.values[0] = std::clamp(settings.values[0], -2.0, 2.0);
        settings.values[4] = std::min(settings.values[4], 25.0);
        settings.values[5] = std::max(settings.values[5], 75.0);
    }
    // One curve: their slopes multiply.
    if (kind.id == toneCurve.id) settings.tables[random() % settings.tables.size()] = anyCurve(random);
    if (kind.id == hueBands.id) settings.tables[0] = anyBands(random);
    return settings;
}

// Colours where formulas change their form: blacks, greys, pure colours, ends; and anywhere.
colour::EncodedRgb anyColour(std::mt19937& random) {
    const auto any = [&] { return static_cast<double>(random() % 256) / 255; };
    const auto dark = [&] { return static_cast<double>(random() % 12) / 255; };
    switch (random() % 6) {
        case 0: return {dark(), dark(), dark()};
        case 1: {
            const double v = any();
            return {v, v, v};
        }
        case 2: {
            const double v = dark();
            return {v, v, v};
        }
        case 3: return {random() % 2 ? any() : 0, random() % 2 ? any() : 0, random() % 2 ? any() : 1};
        case 4: {
            const double v = any();
            return {v, std::min(1.0, v + dark()), std::max(0.0, v - dark())};
        }
        default: return {any(), any(), any()};
    }
}

double farthest(const colour::EncodedRgb& a, const colour::EncodedRgb& b) {
    return std::max({std::abs(a.r - b.r), std::abs(a.g - b.g), std::abs(a.b - b.b)});
}

// As stated in the page of each adjustment: how many times the distance of neighbouring colours grows, at most.
const std::map<std::string_view, double> statedSlope = {
    {"light", 45},      {"tone-curve", 35},    {"white-balance", 21}, {"colour-balance", 5}, {"hue-bands", 60},
    {"saturation", 35}, {"ink-table", 6},      {"match-area", 1.1},   {"tint", 1.1},         {"spill-suppression", 6},
    {"veil", 215},      {"shadow-lift", 60},   {"noise", 1.1},        {"banding", 1.1},      {"grain", 1.1},
    {"haze", 1.1},      {"detail", 1.1},       {"glow", 1.1},         {"soften", 1.1},       {"smooth-fill", 1.1},
    {"line-fill", 1.1}, {"texture-fill", 1.1}, {"paint", 1.1}};

// Colours and, after each, its neighbours one step up in red, in green and in blue.
struct Neighbours {
    static constexpr std::size_t each = 4;
    std::vector<float> r, g, b;

    void add(const colour::EncodedRgb& c) {
        for (std::size_t n = 0; n < each; ++n) {
            r.push_back(static_cast<float>(c.r + (n == 1 ? step : 0)));
            g.push_back(static_cast<float>(c.g + (n == 2 ? step : 0)));
            b.push_back(static_cast<float>(c.b + (n == 3 ? step : 0)));
        }
    }
    colour::EncodedRgb at(std::size_t i) const { return {r[i], g[i], b[i]}; }
};

std::string wordsOf(const colour::EncodedRgb& c) {
    return "(" + std::to_string(c.r * 255) + ", " + std::to_string(c.g * 255) + ", " + std::to_string(c.b * 255) + ")";
}

struct Worst {
    double slope = 0;
    std::string where;
};

void look(const AdjustmentKind& kind, const Settings& settings, std::mt19937& random, Worst& worst) {
    constexpr std::size_t count = 512;
    Neighbours in;
    for (std::size_t i = 0; i < count; ++i) in.add(anyColour(random));
    Neighbours out = in;
    apply(kind.prepare(settings), {out.r.data(), out.g.data(), out.b.data()}, out.r.size());
    for (std::size_t i = 0; i < out.r.size(); ++i) {
        const colour::EncodedRgb now = out.at(i), first = out.at(i / Neighbours::each * Neighbours::each);
        ASSERT_TRUE(std::isfinite(now.r) && std::isfinite(now.g) && std::isfinite(now.b)) << kind.id;
        if (const double slope = farthest(now, first) / step; slope > worst.slope)
            worst = {slope, wordsOf(in.at(i)) + " -> " + wordsOf(now) + " beside " + wordsOf(first)};
    }
}

}  // namespace

TEST(Continuity, NeighbouringColoursStayNeighboursUnderEveryAdjustment) {
    for (const AdjustmentKind* kind : adjustmentKinds()) {
        std::mt19937 random(11);
        Worst worst;
        for (int round = 0; round < 500; ++round) look(*kind, anySettings(*kind, random), random, worst);
        std::printf("%s: %.1f at %s\n", std::string(kind->id).c_str(), worst.slope, worst.where.c_str());
        EXPECT_LE(worst.slope, statedSlope.at(kind->id)) << kind->id << " at " << worst.where;
    }
}

TEST(Continuity, ColoursBeyondAllMeasureStayFinite) {
    for (const AdjustmentKind* kind : adjustmentKinds()) {
        std::mt19937 random(12);
        for (int round = 0; round < 200; ++round) {
            const Settings settings = anySettings(*kind, random);
            for (const colour::EncodedRgb& c :
                 {colour::EncodedRgb{65504, 0, -65504}, {1e-30, 0, 0}, {-1, -1, -1}, {40, 41, 42}}) {
                const colour::EncodedRgb out = tests::applied(*kind, settings, c);
                for (const double v : {out.r, out.g, out.b}) {
                    EXPECT_TRUE(std::isfinite(v)) << kind->id;
                    EXPECT_TRUE(std::isfinite(static_cast<float>(c.r + 3 * (v - c.r)))) << kind->id << ", pushed";
                }
            }
        }
    }
}

TEST(Continuity, NeutralSettingsChangeNoBit) {
    for (const AdjustmentKind* kind : adjustmentKinds()) {
        std::mt19937 random(13);
        const Settings neutral = neutralSettings(*kind);
        EXPECT_TRUE(isNeutral(*kind, neutral)) << kind->id << ": it is not run at all";
        for (int i = 0; i < 500; ++i) {
            const colour::EncodedRgb c = anyColour(random);
            EXPECT_LT(farthest(tests::applied(*kind, neutral, c), c), 1e-5) << kind->id << ", and if it were";
        }
    }
}

// The green of every grey of 8 bits.
std::vector<float> greysUnder(const AdjustmentKind& kind, const Settings& settings) {
    std::vector<float> r(256), g, b;
    for (std::size_t v = 0; v < r.size(); ++v) r[v] = static_cast<float>(v) / 255;
    g = b = r;
    apply(kind.prepare(settings), {r.data(), g.data(), b.data()}, r.size());
    return g;
}

// Light says that no tone overtakes a lighter one, whatever is set; a curve, where its points rise.
TEST(Continuity, GreysKeepTheirOrderUnderToneAdjustments) {
    std::mt19937 random(14);
    for (int round = 0; round < 500; ++round) {
        Settings settings = anySettings(light, random);
        Settings curves = neutralSettings(toneCurve);
        Table& points = curves.tables[random() % 2] = anyCurve(random);
        for (std::size_t i = 3; i < points.size(); i += 2) points[i] = std::max(points[i], points[i - 2]);
        const std::vector<float> lit = greysUnder(light, settings), bent = greysUnder(toneCurve, curves);
        for (std::size_t v = 1; v < lit.size(); ++v) {
            EXPECT_GE(lit[v], lit[v - 1] - 1e-5f) << v;
            EXPECT_GE(bent[v], bent[v - 1] - 1e-5f) << v;
        }
    }
}

// Holding the luminance, shadows pushed hard: dark greys neither jump nor turn into colours of their own.
TEST(Continuity, ColourBalanceIsCalmDownToBlack) {
    const auto magenta = tests::with(colourBalance, {{"shadows-green", -100}});
    const auto all = tests::with(colourBalance, {{"shadows-red", -50}, {"shadows-green", -50}, {"shadows-blue", -50}});
    double before = 0;
    for (int v = 0; v <= 60; ++v) {
        const colour::EncodedRgb grey{v * step, v * step, v * step};
        const colour::EncodedRgb out = tests::applied(colourBalance, magenta, grey);
        EXPECT_LE(out.r * 255 - before, 3) << v;
        EXPECT_LE(out.r * 255, 2.5 * v + 1) << v;
        before = out.r * 255;
        EXPECT_LT(farthest(tests::applied(colourBalance, all, grey), grey), 1e-4) << v << ": grey shifts cancel";
    }
}

}  // namespace dimhem::adjust
