#include "core/document/starter.h"

#include <gtest/gtest.h>

#include <set>

#include "core/adjust/registry.h"
#include "core/mask/brush.h"
#include "core/mask/linear_gradient.h"
#include "core/mask/outline.h"
#include "core/mask/radial_gradient.h"
#include "core/mask/region.h"
#include "core/mask/wire.h"
#include "tests/support/documents.h"

namespace dimhem::document {

namespace {

DocumentPtr withRangesAndShapes() {
    return tests::documentOf(R"([{"name": "Keys", "strength": 60, "blend": "soft-light", "mask": {"parts": [
        {"kind": "brush", "name": "Painted", "strokes": [{"points": [[1, 2], [3, 4]]}]},
        {"kind": "linear-gradient", "full": [1, 2], "none": [3, 40]},
        {"kind": "luminosity-range", "name": "Dark", "combine": "overlap", "tones": [0, 0, 50, 70]}],
        "refine": {"feather": 4}},
        "adjustments": [{"kind": "hue-bands", "bands": [[20, 30, 60, 80, 0, -35, 15]]}]}])");
}

}  // namespace

TEST(Starter, KeepsWhatSuitsAnotherPhoto) {
    mask::BrushSettings brush;
    brush.sizePx = 60;
    brush.strengthPct = 10;
    const Starter starter = starterOf(*withRangesAndShapes()->corrections[0], brush, {1200, 800});
    EXPECT_EQ(starter.name, "Keys");
    ASSERT_EQ(starter.correction->mask.parts.size(), 3u);
    const auto painted = std::dynamic_pointer_cast<const mask::Brush>(starter.correction->mask.parts[0]->shape);
    ASSERT_TRUE(painted);
    EXPECT_TRUE(painted->strokes().empty());
    EXPECT_EQ(starter.correction->mask.parts[2]->combine, mask::Combine::overlap);
    EXPECT_EQ(starter.brushSizePct, 5);
    EXPECT_EQ(brushFor(starter, {4000, 6000})->sizePx, 300);
    EXPECT_EQ(brushFor(starter, {4000, 6000})->strengthPct, 10);
}

// Another photo has other places: what is drawn is drawn anew there, with the settings it had. What shows this photo's
// own pixels is of no use.
TEST(Starter, WhatIsDrawnIsDrawnAnewForEachPhoto) {
    const DocumentPtr document = tests::documentOf(R"([{"mask": {"parts": [
        {"kind": "linear-gradient", "full": [1, 2], "none": [3, 40], "profile": "linear"},
        {"kind": "radial-gradient", "centre": [7, 8], "half-width": 5, "half-height": 6, "angle": 30, "feather": 77},
        {"kind": "outline", "points": [[0, 0], [9, 0], [9, 9]], "feather": 12, "snap": 5, "curved": true, "corners": [1]},
        {"kind": "region", "drags": [{"points": [[1, 1]]}], "reach": 64, "apart": true},
        {"kind": "wire", "lines": [{"points": [[1, 1], [5, 5]]}], "width": 130},
        {"kind": "matte", "source": "alpha"}, {"kind": "borrowed", "from": 0}]}}])");
    const Starter starter = starterOf(*document->corrections[0], {}, {1200, 800});
    ASSERT_EQ(starter.correction->mask.parts.size(), 5u);
    const auto read = starterFromJsonText(toJsonText(starter));
    ASSERT_TRUE(read) << read.error().message;
    const Correction begun = begunFor(*read, {400, 200});
    const auto part = [&](std::size_t i) { return begun.mask.parts[i]->shape; };
    const auto gradient = std::dynamic_pointer_cast<const mask::LinearGradient>(part(0));
    EXPECT_EQ(gradient->profile(), mask::GradientProfile::linear);
    EXPECT_EQ(gradient->full().x, 200) << "in the middle of the photo it is for";
    const auto oval = std::dynamic_pointer_cast<const mask::RadialGradient>(part(1))->oval();
    EXPECT_EQ(oval.centre.y, 100);
    EXPECT_EQ(oval.featherPct, 77);
    const auto outline = std::dynamic_pointer_cast<const mask::Outline>(part(2));
    EXPECT_TRUE(outline->points().empty());
    EXPECT_EQ(outline->featherPx(), 12);
    EXPECT_EQ(outline->snapPx(), 5);
    EXPECT_TRUE(outline->joining().curved);
    EXPECT_TRUE(outline->joining().corners.empty());
    const auto region = std::dynamic_pointer_cast<const mask::Region>(part(3));
    EXPECT_TRUE(region->drags().empty());
    EXPECT_EQ(region->reachPct(), 64);
    EXPECT_TRUE(region->takesApart());
    const auto wire = std::dynamic_pointer_cast<const mask::Wire>(part(4));
    EXPECT_TRUE(wire->lines().empty());
    EXPECT_EQ(wire->widthPct(), 130);
    EXPECT_EQ(firstPart(begun), begun.mask.parts[0]->id);
    Correction ranges = *document->corrections[0];
    ranges.mask = withRangesAndShapes()->corrections[0]->mask;
    ranges.mask.parts.erase(ranges.mask.parts.begin(), ranges.mask.parts.begin() + 2);
    EXPECT_EQ(firstPart(ranges), ranges.mask.parts[0]->id) << "where nothing is drawn, the last";
    EXPECT_EQ(firstPart(Correction{}), 0);
}

// What was measured in one photo, or marked on it, says nothing of another: the starter's adjustments measure anew.
TEST(Starter, HoldsNothingOfThePhotoItCameFrom) {
    const DocumentPtr document = tests::documentOf("[{}]");
    Correction correction = *document->corrections[0];
    std::size_t filledIn = 0;
    for (const adjust::AdjustmentKind* kind : adjust::adjustmentKinds()) {
        AdjustmentUse use{1, kind, true, adjust::startingSettings(*kind)};
        for (std::size_t i = 0; i < kind->tables.size(); ++i) {
            const adjust::TableSpec& table = kind->tables[i];
            if (!table.measured && !table.ofThisPhoto) continue;
            use.settings.tables[i].clear();
            for (std::size_t row = 0; row < std::max<std::size_t>(1, table.leastRows); ++row) {
                for (const base::ParamSpec& column : table.columns)
                    use.settings.tables[i].push_back(column.neutral + column.step);
            }
            ++filledIn;
        }
        correction.adjustments.push_back(use);
    }
    EXPECT_GE(filledIn, 12u);
    const Starter starter = starterOf(correction, {}, {1200, 800});
    for (const AdjustmentUse& use : starter.correction->adjustments) {
        const adjust::Settings neutral = adjust::neutralSettings(*use.kind);
        for (std::size_t i = 0; i < use.kind->tables.size(); ++i) {
            const adjust::TableSpec& table = use.kind->tables[i];
            if (table.measured || table.ofThisPhoto) {
                EXPECT_EQ(use.settings.tables[i], neutral.tables[i]) << use.kind->id << " " << table.id;
            }
        }
        if (use.kind->measure && std::ranges::any_of(use.kind->tables, &adjust::TableSpec::measured)) {
            EXPECT_TRUE(adjust::lacksMeasuring(*use.kind, use.settings)) << use.kind->id;
        }
    }
    // Which these are, said once more: places and measures, no others.
    std::set<std::string> ofThePhoto;
    for (const adjust::AdjustmentKind* kind : adjust::adjustmentKinds()) {
        for (const adjust::TableSpec& table : kind->tables) {
            if (table.measured || table.ofThisPhoto)
                ofThePhoto.insert(std::string(kind->id) + "/" + std::string(table.id));
        }
    }
    for (const char* wanted : {"haze/near", "haze/far", "haze/distance", "haze/depths", "haze/measured",
                               "line-fill/directions", "match-area/place", "match-area/own", "match-area/reference"})
        EXPECT_TRUE(ofThePhoto.contains(wanted)) << wanted;
    for (const char* unwanted : {"tone-curve/tone", "hue-bands/bands"}) EXPECT_FALSE(ofThePhoto.contains(unwanted));
}

TEST(Starter, IsNotAddedToADocumentThatIsFull) {
    Document full = *tests::documentOf("[{}]");
    full.corrections.assign(mostItems, full.corrections[0]);
    const Starter starter = starterOf(*full.corrections[0], {}, {1200, 800});
    const Added added = withStarter(full, starter, 0, {1200, 800});
    EXPECT_EQ(added.id, 0);
    EXPECT_EQ(added.document->corrections.size(), mostItems);
    Correction crowded = *full.corrections[0];
    crowded.adjustments.assign(
        mostItems, {1, adjust::adjustmentKinds()[0], true, adjust::startingSettings(*adjust::adjustmentKinds()[0])});
    full.corrections = {std::make_shared<const Correction>(crowded)};
    EXPECT_EQ(withNewAdjustment(full, crowded.id, *adjust::adjustmentKinds()[0]).id, 0);
}

TEST(Starter, ComesBackFromItsTextAsItWas) {
    Starter starter = starterOf(*withRangesAndShapes()->corrections[0], {}, {1200, 800});
    starter.about = "What it is for.";
    starter.first = "What to do first.";
    const auto back = starterFromJsonText(toJsonText(starter));
    ASSERT_TRUE(back) << back.error().message;
    EXPECT_EQ(toJsonText(*back), toJsonText(starter));
    EXPECT_EQ(back->correction->strengthPct, 60);
    EXPECT_EQ(back->correction->blend, kernel::BlendMode::softLight);
    EXPECT_EQ(back->correction->mask.refine.featherPx, 4);
}

TEST(Starter, BeginsANewCorrectionWithIdsOfItsOwn) {
    const DocumentPtr document = withRangesAndShapes();
    Starter starter = starterOf(*document->corrections[0], {}, {1200, 800});
    const Added once = withStarter(*document, starter, 9, {1200, 800});
    const Added twice = withStarter(*once.document, starter, 9, {1200, 800});
    ASSERT_EQ(twice.document->corrections.size(), 3u);
    std::set<Id> ids;
    std::size_t count = 0;
    for (const auto& correction : twice.document->corrections) {
        ids.insert(correction->id);
        ++count;
        for (const auto& part : correction->mask.parts) ids.insert(part->id), ++count;
        for (const auto& use : correction->adjustments) ids.insert(use.id), ++count;
    }
    EXPECT_EQ(ids.size(), count);
    EXPECT_EQ(findCorrection(*twice.document, twice.id)->adjustments[0].settings.tables[0][5], -35);
    EXPECT_NE(twice.document->corrections[1]->name, "Keys") << "that name is taken";
    starter.name = "Other";
    EXPECT_EQ(findCorrection(*withStarter(*document, starter, 0, {1200, 800}).document, std::string_view("Other"))
                  ->strengthPct,
              60);
}

TEST(Starter, EachWrongOneGetsItsCodeAndOneSentence) {
    const std::pair<const char*, base::ErrorCode> cases[] = {
        {"", base::ErrorCode::damaged},
        {"{\"format\":", base::ErrorCode::damaged},
        {"[]", base::ErrorCode::unknownFormat},
        {R"({"format": "dim-hem-document"})", base::ErrorCode::unknownFormat},
        {R"({"format": "dim-hem-starter"})", base::ErrorCode::invalidValue},
        {R"({"format": "dim-hem-starter", "version": 2})", base::ErrorCode::newerVersion},
        {R"({"format": "dim-hem-starter", "version": 1, "name": "a"})", base::ErrorCode::invalidValue},
        {R"({"format": "dim-hem-starter", "version": 1, "name": "", "correction": {}})", base::ErrorCode::invalidValue},
        {R"({"format": "dim-hem-starter", "version": 1, "name": "a", "correction": {"id": 4}})",
         base::ErrorCode::invalidValue},
        {R"({"format": "dim-hem-starter", "version": 1, "name": "a", "correction": {"strength": 400}})",
         base::ErrorCode::invalidValue},
        {R"({"format": "dim-hem-starter", "version": 1, "name": "a", "brush": {"size": 900}, "correction": {}})",
         base::ErrorCode::invalidValue},
        {R"({"format": "dim-hem-starter", "version": 1, "name": "a", "brush": 3, "correction": {}})",
         base::ErrorCode::invalidValue},
    };
    for (const auto& [text, code] : cases) {
        const auto result = starterFromJsonText(text);
        ASSERT_FALSE(result) << text;
        EXPECT_EQ(result.error().code, code) << text;
        EXPECT_TRUE(result.error().message.ends_with(".")) << result.error().message;
    }
}

}  // namespace dimhem::document
