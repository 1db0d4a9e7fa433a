// Counterparts: what each adjustment's opposite is, and what makes two corrections a pair.
#include "core/document/pair.h"

#include <gtest/gtest.h>

#include <cmath>
#include <random>

#include "core/adjust/registry.h"
#include "core/document/naming.h"
#include "tests/support/documents.h"

namespace dimhem::document {

namespace {

using adjust::AdjustmentKind;
using adjust::Settings;

// Settings anywhere within the ranges, as far as a rule beside the ranges allows.
Settings anySettings(const AdjustmentKind& kind, std::mt19937& random) {
    Settings settings = adjust::neutralSettings(kind);
    for (std::size_t i = 0; i < kind.params.size(); ++i) {
        const base::ParamSpec& spec = kind.params[i];
        const double value = std::uniform_real_distribution(spec.min, spec.max)(random);
        settings.values[i] = spec.toggle ? std::round(value) : value;
    }
    return settings;
}

DocumentPtr oneOf(const char* adjustments) {
    return tests::documentOf(std::string(R"([{"id": 5, "name": "Leaves", "name-given": false, "strength": 80,
        "mask": {"parts": [{"kind": "brush", "strokes": [{"size": 9, "points": [[1, 1]]}]}]}, "adjustments": )") +
                             adjustments + "}, {\"id\": 9, \"name\": \"Other\"}]");
}

}  // namespace

TEST(Opposite, IsValidAndOfWhatDoesNothingDoesNothing) {
    std::mt19937 random(4);
    int count = 0;
    for (const AdjustmentKind* kind : adjust::adjustmentKinds()) {
        if (!kind->opposite) continue;
        ++count;
        EXPECT_TRUE(adjust::isNeutral(*kind, kind->opposite(adjust::neutralSettings(*kind)))) << kind->id;
        for (int i = 0; i < 50; ++i) {
            const Settings settings = anySettings(*kind, random);
            if (!adjust::isValid(*kind, settings)) continue;
            EXPECT_TRUE(adjust::isValid(*kind, kind->opposite(settings))) << kind->id;
        }
    }
    EXPECT_GE(count, 9);
}

// Where the range goes as far on both sides, the opposite of the opposite is what it was.
TEST(Opposite, TwiceIsWhatItWas) {
    const auto twice = [](const AdjustmentKind& kind, Settings settings) {
        return kind.opposite(kind.opposite(std::move(settings)));
    };
    const DocumentPtr document = oneOf(R"([
        {"kind": "light", "exposure": 1.5, "contrast": -30, "shadow-lift": 20, "midtone": 5, "white-point": 80},
        {"kind": "saturation", "amount": 40}, {"kind": "white-balance", "temperature": 8000, "tint": -20},
        {"kind": "hue-bands", "bands": [[-30, -10, 10, 30, 15, 20, -5]]},
        {"kind": "tone-curve", "luminance": [[0, 0], [40, 60], [100, 100]]},
        {"kind": "colour-balance", "shadows-red": 10, "highlights-blue": -60},
        {"kind": "haze", "amount": 35}, {"kind": "veil", "amount": -10}, {"kind": "detail", "local-contrast": 25}])");
    for (const AdjustmentUse& use : findCorrection(*document, Id{5})->adjustments) {
        ASSERT_TRUE(use.kind->opposite) << use.kind->id;
        const Settings again = twice(*use.kind, use.settings), once = use.kind->opposite(use.settings);
        EXPECT_NE(once, use.settings) << use.kind->id;
        EXPECT_EQ(again.tables, use.settings.tables) << use.kind->id;
        for (std::size_t i = 0; i < again.values.size(); ++i)
            EXPECT_NEAR(again.values[i], use.settings.values[i], 1e-6) << use.kind->id << " " << i;
    }
}

// A curve and its opposite one after the other leave a tone where it was.
TEST(Opposite, OfARisingCurveUndoesIt) {
    const DocumentPtr document =
        oneOf(R"([{"kind": "tone-curve", "channels": [[0, 0], [30, 50], [70, 80], [100, 100]]}])");
    const AdjustmentUse& use = findCorrection(*document, Id{5})->adjustments[0];
    std::vector<float> red{0.1f, 0.3f, 0.55f, 0.7f, 0.95f}, green = red, blue = red;
    const std::vector<float> before = red;
    for (const Settings& settings : {use.settings, use.kind->opposite(use.settings)}) {
        const auto operations = use.kind->prepare(settings);
        adjust::apply(operations, {red.data(), green.data(), blue.data()}, red.size());
    }
    for (std::size_t i = 0; i < red.size(); ++i) EXPECT_NEAR(red[i], before[i], 0.03) << i;
}

TEST(Opposite, OfAFallingCurveLiesAsFarOnTheOtherSide) {
    const DocumentPtr document = oneOf(R"([{"kind": "tone-curve", "red": [[0, 20], [50, 10], [100, 90]]}])");
    const AdjustmentUse& use = findCorrection(*document, Id{5})->adjustments[0];
    EXPECT_EQ(use.kind->opposite(use.settings).tables[2], (adjust::Table{0, 0, 50, 90, 100, 100}));
}

TEST(Pair, ACounterpartDoesTheOppositeUnderAMaskOfItsOwn) {
    const DocumentPtr document =
        oneOf(R"([{"kind": "saturation", "amount": 40}, {"kind": "noise"}, {"kind": "detail", "sharpen": 50}])");
    const AddedCounterpart added = withCounterpart(*document, 5);
    ASSERT_NE(added.id, 0);
    const Correction& turned = *added.document->corrections[1];
    EXPECT_EQ(turned.id, added.id) << "right after the other";
    ASSERT_EQ(turned.adjustments.size(), 1u);
    EXPECT_EQ(turned.adjustments[0].settings.values[0], -40);
    ASSERT_EQ(added.leftOut.size(), 2u);
    EXPECT_EQ(added.leftOut[0]->id, "noise");
    EXPECT_EQ(added.leftOut[1]->id, "detail") << "sharpening has no opposite";
    EXPECT_EQ(turned.strengthPct, 80);
    EXPECT_NE(turned.threadColour, document->corrections[0]->threadColour);
    ASSERT_TRUE(paintedPart(turned));
    EXPECT_EQ(turned.mask.parts.size(), 1u);
    EXPECT_EQ(otherOfPair(*added.document, 5), added.id);
    EXPECT_EQ(otherOfPair(*added.document, added.id), 5);
    EXPECT_EQ(otherOfPair(*added.document, 9), 0);
    EXPECT_EQ(withCounterpart(*added.document, 5).id, 0) << "it has one";
    EXPECT_EQ(withCounterpart(*added.document, added.id).id, 0);
    EXPECT_EQ(withCounterpart(*added.document, 77).id, 0);
}

TEST(Pair, IsEndedByWhatEndsEither) {
    const AddedCounterpart added = withCounterpart(*oneOf(R"([{"kind": "saturation", "amount": 40}])"), 5);
    EXPECT_EQ(otherOfPair(*withoutCorrection(*added.document, 5), added.id), 0);
    EXPECT_EQ(otherOfPair(*withoutCorrection(*added.document, added.id), 5), 0);
    // A copy is in no pair; nor does it part the two.
    for (const Id id : {Id{5}, added.id}) {
        const Added copy = withCopyOfCorrection(*added.document, id);
        EXPECT_EQ(otherOfPair(*copy.document, copy.id), 0);
        EXPECT_EQ(otherOfPair(*copy.document, 5), added.id);
    }
    // The freed one can have another.
    const DocumentPtr alone = withoutCorrection(*added.document, 5);
    const AddedCounterpart again = withCounterpart(*alone, added.id);
    EXPECT_EQ(otherOfPair(*again.document, added.id), again.id);
}

TEST(Pair, IsKeptInTheDocument) {
    const AddedCounterpart added = withCounterpart(*oneOf(R"([{"kind": "saturation", "amount": 40}])"), 5);
    const auto again = fromJsonText(toJsonText(*added.document));
    ASSERT_TRUE(again);
    EXPECT_EQ(otherOfPair(**again, 5), added.id);
    for (const char* bad : {"0", "-1", "1.5", "\"a\"", "5"}) {
        const std::string text = std::string(R"({"format": "dim-hem-document", "version": 1, "photo": {"path": "a"},
            "corrections": [{"id": 5, "counterpart-of": )") +
                                 bad + "}]}";
        EXPECT_FALSE(fromJsonText(text)) << bad;
    }
}

// Who names whom is symmetrical whatever the links say.
TEST(Pair, IsOfTwoWhateverTheLinks) {
    std::mt19937 random(8);
    for (int round = 0; round < 200; ++round) {
        Document document;
        for (Id id = 1; id <= 6; ++id) {
            Correction correction;
            correction.id = id;
            const Id of = std::uniform_int_distribution<Id>(0, 8)(random);
            correction.counterpartOf = of == id ? 0 : of;
            document.corrections.push_back(std::make_shared<const Correction>(correction));
        }
        for (Id id = 1; id <= 6; ++id) {
            if (const Id other = otherOfPair(document, id)) {
                EXPECT_EQ(otherOfPair(document, other), id);
                EXPECT_NE(other, id);
            }
        }
    }
}

TEST(Naming, SaysWhereAndWhat) {
    const auto name = [](const char* mask, const char* adjustments) {
        const DocumentPtr document =
            tests::documentOf(std::string(R"([{"mask": )") + mask + R"(, "adjustments": )" + adjustments + "}]");
        return automaticName(*document->corrections[0]);
    };
    const char* brush = R"({"parts": [{"kind": "brush"}]})";
    EXPECT_EQ(name(brush, R"([{"kind": "light", "exposure": -1}])"), "Brush darker");
    EXPECT_EQ(name(brush, R"([{"kind": "light"}, {"kind": "saturation", "amount": 10}])"), "Brush more colour");
    EXPECT_EQ(name(brush, R"([{"kind": "light", "exposure": 1, "enabled": false}])"), "");
    EXPECT_EQ(name(R"({"parts": [{"kind": "brush", "name": "Sky"}]})", R"([{"kind": "light", "midtone": 4}])"),
              "Sky lighter");
    EXPECT_EQ(name(R"({"starts": "everywhere"})", R"([{"kind": "white-balance", "temperature": 5000}])"),
              "Whole photo cooler");
    EXPECT_EQ(name("{}", R"([{"kind": "light", "contrast": 5}])"), "More contrast");
}

TEST(Naming, FollowsUntilANameIsGiven) {
    const DocumentPtr before = tests::documentOf(R"([{"id": 1}, {"id": 2}, {"id": 3, "name": "Mine"}])");
    const auto darker = [&](const DocumentPtr& document, Id id, double exposure) {
        const Added added = withNewAdjustment(*document, id, *adjust::findAdjustmentKind("light"));
        const DocumentPtr next = withAdjustment(*added.document, id, added.id,
                                                [=](AdjustmentUse& use) { use.settings.values[0] = exposure; });
        return withNamesFollowing(next, *document);
    };
    const DocumentPtr one = darker(before, 1, -1), both = darker(one, 2, -2), all = darker(both, 3, 1);
    EXPECT_EQ(all->corrections[0]->name, "Darker");
    EXPECT_EQ(all->corrections[1]->name, "Darker 2") << "none twice";
    EXPECT_EQ(all->corrections[2]->name, "Mine");
    // What is not touched keeps its name; what still says the same keeps its number.
    EXPECT_EQ(all->corrections[0], one->corrections[0]);
    const DocumentPtr weaker = withCorrection(*all, 2, [](Correction& c) { c.strengthPct = 50; });
    EXPECT_EQ(withNamesFollowing(weaker, *all), weaker);
    const auto again = fromJsonText(toJsonText(*all));
    ASSERT_TRUE(again);
    EXPECT_FALSE((*again)->corrections[0]->nameGiven);
    EXPECT_TRUE((*again)->corrections[2]->nameGiven);
}

}  // namespace dimhem::document
