// Ink table and match to area.
#include <gtest/gtest.h>

#include "core/adjust/tone_curve.h"

#include "core/adjust/registry.h"

#include <algorithm>
#include <cmath>

#include "core/adjust/ink_table.h"
#include "core/adjust/match_area.h"
#include "core/adjust/tint.h"
#include "core/colour/ciede2000.h"
#include "core/colour/hsl.h"
#include "core/colour/lab.h"
#include "tests/support/adjustments.h"

namespace dimhem::adjust {

namespace {

using colour::EncodedRgb;
using tests::applied;

enum Family { reds, yellows, greens, cyans, blues, magentas, whites, neutrals, blacks };
enum Ink { cyan, magenta, yellow, black };

Settings ink(Family family, Ink which, double amount, bool absolute = true) {
    Settings settings = neutralSettings(inkTable);
    settings.values[inkParam(family, which)] = amount;
    settings.values.back() = absolute;
    return settings;
}

colour::Lab moved(const Settings& settings, const colour::Lab& in) {
    const EncodedRgb encoded = colour::encodedFromLinear(colour::linearFromXyz(colour::xyzFromLab(in)));
    return colour::labFromEncoded(applied(matchArea, settings, encoded));
}

constexpr ColourSpread own{{45, 12, 18}, {8, 3, 4}}, reference{{60, 2, 6}, {12, 2, 3}};

Settings match(double tone, double colourAmount) {
    Settings settings = matchArea.matching(neutralSettings(matchArea), {10, 20, 30, 40}, own, reference);
    settings.values = {tone, colourAmount};
    return settings;
}

}  // namespace

TEST(InkTable, FamiliesBelongingSumsToOne) {
    for (const EncodedRgb& c :
         {EncodedRgb{0.7, 0.4, 0.3}, {0.2, 0.5, 0.8}, {0.5, 0.5, 0.5}, {0.9, 0.9, 0.2}, {0.05, 0.02, 0.1}}) {
        double sum = 0;
        for (int family = reds; family <= blacks; ++family) {
            // 1 % of cyan takes what belongs to the family from red.
            const double taken = c.r - applied(inkTable, ink(static_cast<Family>(family), cyan, 1), c).r;
            EXPECT_GE(taken, -1e-6);
            sum += taken / 0.01;
        }
        EXPECT_NEAR(sum, 1, 1e-4);
    }
}

TEST(InkTable, GivesEachFamilyItsInk) {
    const EncodedRgb red = colour::rgbFromHsl(0, 1, 0.5), white{1, 1, 1}, blackest{0, 0, 0}, grey{0.5, 0.5, 0.5};
    EXPECT_NEAR(applied(inkTable, ink(reds, cyan, 40), red).r, 0.6, 1e-5);
    EXPECT_NEAR(applied(inkTable, ink(greens, cyan, 40), red).r, 1, 1e-6);
    EXPECT_NEAR(applied(inkTable, ink(whites, yellow, 30), white).b, 0.7, 1e-5);
    EXPECT_NEAR(applied(inkTable, ink(blacks, yellow, -30), blackest).b, 0.3, 1e-5);
    EXPECT_NEAR(applied(inkTable, ink(neutrals, black, 20), grey).g, 0.5 - 0.2 * 0.5, 1e-5) << "half of it is neutral";
    const EncodedRgb black3 = applied(inkTable, ink(whites, black, 20), white);
    EXPECT_NEAR(black3.r, 0.8, 1e-5);
    EXPECT_NEAR(black3.b, 0.8, 1e-5);
}

TEST(InkTable, RelativeCountsTheInkThatIsThere) {
    EXPECT_EQ(applied(inkTable, ink(whites, yellow, 50, false), {1, 1, 1}).b, 1) << "a white stays white";
    const EncodedRgb orange = colour::rgbFromHsl(60, 1, 0.5);
    EXPECT_NEAR(applied(inkTable, ink(yellows, yellow, -30, false), orange).b, 0.3, 1e-5);
    EXPECT_NEAR(applied(inkTable, ink(yellows, magenta, 50, false), orange).g, 1, 1e-5) << "no magenta to grow";
}

TEST(InkTable, HoldsInkToItsScaleAndCarriesWhatLiesBeyond) {
    EXPECT_NEAR(applied(inkTable, ink(whites, black, -100), {0.95, 0.95, 0.95}).r, 1, 1e-6);
    const EncodedRgb beyond = applied(inkTable, ink(whites, black, 20), {1.5, 1, 1});
    EXPECT_NEAR(beyond.r, 1.3, 1e-5);
}

// Common practice: yellow is pulled out of whites first, then of yellows, then of neutrals.
TEST(InkTable, PullsYellowOutOfYellowedWhites) {
    Settings settings = neutralSettings(inkTable);
    settings.values[inkParam(whites, yellow)] = -25;
    settings.values[inkParam(yellows, yellow)] = -20;
    settings.values[inkParam(neutrals, yellow)] = -10;
    settings.values.back() = 0;
    const EncodedRgb ivory{0.80, 0.75, 0.60};
    const auto before = colour::labFromEncoded(ivory),
               after = colour::labFromEncoded(applied(inkTable, settings, ivory));
    EXPECT_LT(after.b, 0.85 * before.b);
    EXPECT_GT(after.b, 0.3 * before.b);
    EXPECT_GE(after.l, before.l);
}

TEST(MatchArea, MovesMeanAndSpreadToTheReference) {
    const Settings settings = match(100, 100);
    for (const auto& [k, expected] : {std::pair{0.0, 0.0}, {1.0, 1.0}, {-1.0, -1.0}, {0.5, 0.5}}) {
        const colour::Lab out = moved(settings, {45 + 8 * k, 12 + 3 * k, 18 + 4 * k});
        EXPECT_NEAR(out.l, 60 + 12 * expected, 0.02);
        EXPECT_NEAR(out.a, 2 + 2 * expected, 0.02);
        EXPECT_NEAR(out.b, 6 + 3 * expected, 0.02);
    }
}

TEST(MatchArea, ToneAndColourApartAndByTheirAmounts) {
    const colour::Lab in{45, 12, 18};
    const colour::Lab tone = moved(match(50, 0), in), colours = moved(match(0, 50), in);
    EXPECT_NEAR(tone.l, 52.5, 0.02);
    EXPECT_NEAR(tone.a, 12, 0.02);
    EXPECT_NEAR(colours.l, 45, 0.02);
    EXPECT_NEAR(colours.a, 7, 0.02);
    EXPECT_NEAR(colours.b, 12, 0.02);
    EXPECT_LT(colour::ciede2000(moved(match(100, 100), in), {60, 2, 6}), 0.05);
}

TEST(MatchArea, ASpreadGrowsAtMostThreefold) {
    Settings settings = neutralSettings(matchArea);
    settings.values = {100, 0};
    settings = matchArea.matching(settings, {0, 0, 1, 1}, {{50, 0, 0}, {1, 1, 1}}, {{50, 0, 0}, {20, 1, 1}});
    EXPECT_NEAR(moved(settings, {51, 0, 0}).l, 53, 0.02);
}

TEST(MatchArea, DoesNothingBeforeItIsMeasured) {
    Settings settings = neutralSettings(matchArea);
    settings.values = {100, 100};
    EXPECT_TRUE(isNeutral(matchArea, settings));
    EXPECT_FALSE(isNeutral(matchArea, match(100, 0)));
    EXPECT_TRUE(isNeutral(matchArea, match(0, 0)));
    EXPECT_EQ(measuredIn(match(1, 1), MatchTable::own)->mean, own.mean);
    EXPECT_EQ(measuredIn(match(1, 1), MatchTable::reference)->spread, reference.spread);
    EXPECT_FALSE(measuredIn(neutralSettings(matchArea), MatchTable::own));
}

// What a float photo may hold must not reach a document, which could not be opened again.
TEST(Settings, OnlyWhatADocumentCanHoldIsValid) {
    for (const AdjustmentKind* kind : adjustmentKinds()) {
        const Settings neutral = neutralSettings(*kind);
        EXPECT_TRUE(isValid(*kind, neutral)) << kind->id;
        for (std::size_t i = 0; i < neutral.values.size(); ++i) {
            for (const double wrong : {std::nan(""), kind->params[i].max + 1, kind->params[i].min - 1}) {
                Settings changed = neutral;
                changed.values[i] = wrong;
                EXPECT_FALSE(isValid(*kind, changed)) << kind->id << " " << kind->params[i].id << " " << wrong;
            }
        }
    }
    const ColourSpread fine{{50, 0, 0}, {10, 5, 5}}, odd{{std::nan(""), 0, 0}, {10, 5, 5}};
    EXPECT_TRUE(isValid(matchArea, matchArea.matching(neutralSettings(matchArea), {1, 2, 3, 4}, fine, fine)));
    EXPECT_FALSE(isValid(matchArea, matchArea.matching(neutralSettings(matchArea), {1, 2, 3, 4}, fine, odd)));
    EXPECT_FALSE(isValid(matchArea, matchArea.matching(neutralSettings(matchArea), {1, 2, 3, 4}, odd, fine)));
    Settings curve = neutralSettings(toneCurve);
    curve.tables[0] = {0, 0, 50, 20, 50, 30};
    EXPECT_FALSE(isValid(toneCurve, curve)) << "does not rise";
}

}  // namespace dimhem::adjust
