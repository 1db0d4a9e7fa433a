// What a document must not say, and that the error names the place; members nobody knows; ids that are never reused.
#include <gtest/gtest.h>

#include <fstream>
#include <nlohmann/json.hpp>
#include <set>

#include "core/adjust/light.h"
#include "core/document/edits.h"
#include "core/document/json_format.h"
#include "core/document/json_schema.h"
#include "core/mask/borrowed_mask.h"
#include "core/mask/brush.h"
#include "core/mask/colour_range.h"
#include "core/mask/outline.h"
#include "core/mask/region.h"
#include "tests/support/documents.h"

namespace dimhem::document {

namespace {

using nlohmann::json;

json fileOf(const std::string& name) {
    std::ifstream file(std::string(DIMHEM_SOURCE_DIR) + "/" + name);
    return json::parse(file);
}

std::vector<std::string> warningsOf(const std::string& corrections) {
    std::vector<std::string> warnings;
    const auto read = fromJsonText(
        R"({"format": "dim-hem-document", "version": 1, "photo": {"path": "a"}, "corrections": )" + corrections + "}",
        &warnings);
    EXPECT_TRUE(read) << read.error().message;
    return warnings;
}

}  // namespace

TEST(StrictReading, EachBadDocumentIsRefusedWithItsPlaceNamed) {
    const json cases = fileOf("tests/data/bad_documents.json");
    ASSERT_GT(cases.size(), 50u);
    for (const json& bad : cases) {
        const std::string what = bad["what"];
        const std::string text = bad.contains("text") ? bad["text"].get<std::string>() : bad["document"].dump();
        const auto read = fromJsonText(text);
        ASSERT_FALSE(read) << what;
        const std::string& sentence = read.error().message;
        EXPECT_TRUE(sentence.ends_with(".")) << what << ": " << sentence;
        for (const json& name : bad["names"])
            EXPECT_NE(sentence.find(name.get<std::string>()), std::string::npos) << what << ": " << sentence;
    }
}

TEST(StrictReading, MembersThatNobodyKnowsAreNamedWithWhatIsMeant) {
    const auto warnings = warningsOf(R"([{"name": "Sky", "strenght": 40, "mask": {"parts": [
        {"kind": "brush", "strokes": [{"points": [[1, 2]], "softnes": 3}]}]},
        "adjustments": [{"kind": "light", "exposre": 1, "walrus": 2}]}])");
    ASSERT_EQ(warnings.size(), 4u);
    const auto any = [&](const std::string& a, const std::string& b) {
        return std::any_of(warnings.begin(), warnings.end(), [&](const std::string& w) {
            return w.find(a) != std::string::npos && w.find(b) != std::string::npos;
        });
    };
    EXPECT_TRUE(any("\"strenght\"", "\"strength\" is perhaps meant"));
    EXPECT_TRUE(any("correction 1 (Sky)", "\"softnes\""));
    EXPECT_TRUE(any("stroke 1", "\"softness\" is perhaps meant"));
    EXPECT_TRUE(any("adjustment 1 (light)", "\"exposure\""));
    EXPECT_TRUE(any("\"walrus\"", "has no effect."));
}

TEST(StrictReading, WhatTheProgramWritesAndTheDemosHaveNothingUnknown) {
    std::vector<std::string> warnings;
    for (const auto& entry : std::filesystem::directory_iterator(std::string(DIMHEM_SOURCE_DIR) + "/demo/documents")) {
        std::ifstream file(entry.path());
        const std::string text(std::istreambuf_iterator<char>(file), {});
        const auto read = fromJsonText(text, &warnings);
        ASSERT_TRUE(read) << entry.path() << read.error().message;
        EXPECT_TRUE(warnings.empty()) << entry.path() << warnings.front();
        ASSERT_TRUE(fromJsonText(toJsonText(**read), &warnings));
        EXPECT_TRUE(warnings.empty()) << entry.path() << warnings.front();
    }
}

TEST(StrictReading, TheSchemaInDocsIsTheProgramsOwn) {
    EXPECT_EQ(fileOf("docs/document.schema.json"), json(documentSchema())) << "hem schema > docs/document.schema.json";
}

// The most of everything that editing can make is the most that reading takes.
TEST(Limits, TheLargestOfEachKindComesBack) {
    using namespace mask;
    ColourRangeValues colours;
    colours.picks.resize(mostPicks);
    std::vector<base::Point> places(mostOutlinePoints, {3, 4});
    std::vector<RegionDrag> drags(3, {std::vector<base::Point>(mostDragPoints, {1, 2}), false});
    BrushSettings brush;
    StrokePtr stroke = std::make_shared<Stroke>(brush, StrokePoint{{0, 0}, 1});
    std::vector<StrokePoint> way;
    for (int i = 0; i < 200'000; ++i) way.push_back({{i % 7 * 1.0, 0}, 1});
    const ShapePtr shapes[] = {std::make_shared<ColourRange>(colours), std::make_shared<Outline>(places, 2, 0),
                               std::make_shared<Region>(drags, 50),
                               std::make_shared<Brush>(std::vector<StrokePtr>{Stroke::through(brush, way)})};
    DocumentPtr document = tests::documentOf("[{}]");
    const Id correction = document->corrections[0]->id;
    for (const ShapePtr& shape : shapes) document = withNewPart(*document, correction, shape, Combine::add).document;
    const auto back = fromJsonText(toJsonText(*document));
    ASSERT_TRUE(back) << back.error().message;
    EXPECT_EQ(toJsonText(**back), toJsonText(*document));
}

TEST(Limits, AStrokeSaysWhenItIsFull) {
    mask::BrushSettings brush;
    brush.sizePx = 1;
    brush.spacingPct = 1;
    mask::StrokePtr stroke = std::make_shared<mask::Stroke>(brush, mask::StrokePoint{{0, 0}, 1});
    for (int i = 1; !stroke->isFull(); ++i) {
        ASSERT_LT(i, 100);
        stroke = stroke->extended({{i % 2 * 65'500.0, 0}, 1});
    }
    const auto brushPart = std::make_shared<mask::Brush>(std::vector<mask::StrokePtr>{stroke->finished()});
    DocumentPtr document = tests::documentOf("[{}]");
    document = withNewPart(*document, document->corrections[0]->id, brushPart, mask::Combine::add).document;
    EXPECT_TRUE(fromJsonText(toJsonText(*document)));
}

TEST(Ids, AreNeverGivenTwiceNotEvenAfterAnUndo) {
    const DocumentPtr first = tests::documentOf("[{}]");
    std::set<Id> given;
    for (int round = 0; round < 3; ++round) {  // each from the same version, as after an undo
        const Added correction = withNewCorrection(*first, 9);
        const Added part =
            withNewPart(*first, first->corrections[0]->id, std::make_shared<mask::Brush>(), mask::Combine::add);
        const Added use = withNewAdjustment(*first, first->corrections[0]->id, adjust::light);
        for (const Id id : {correction.id, part.id, use.id}) EXPECT_TRUE(given.insert(id).second) << id;
    }
}

namespace {

// Each borrows the one before, twice: 2^n ways lead from the last to the first.
std::string chainOf(int count) {
    std::string text =
        R"([{"id": 1, "mask": {"parts": [{"kind": "radial-gradient", "centre": [20, 20], "half-width": 20, "half-height": 20}]}})";
    for (int id = 2; id <= count; ++id) {
        const std::string part = R"({"kind": "borrowed", "from": )" + std::to_string(id - 1) + "}";
        text += R"(, {"id": )" + std::to_string(id) + R"(, "mask": {"parts": [)" + part + ", " + part + "]}}";
    }
    return text + "]";
}

}  // namespace

TEST(Borrowing, AsFarAsItGoesCostsNoMoreThanThereIs) {
    const DocumentPtr chain = tests::documentOf(chainOf(static_cast<int>(mostBorrowing)));
    EXPECT_TRUE(canBorrow(*chain, mostBorrowing, 1));
    EXPECT_FALSE(canBorrow(*chain, 1, mostBorrowing));
    EXPECT_EQ(borrowsItself(*chain), nullptr);
    EXPECT_EQ(deepestBorrowing(*chain), mostBorrowing);
    // A loop anywhere is found, and the one that is named lies in it.
    const auto looped =
        withPart(*withNewPart(*chain, 70, std::make_shared<mask::BorrowedMask>(90), mask::Combine::add).document, 0, 0,
                 [](mask::Part&) {});
    const Correction* named = borrowsItself(*looped);
    ASSERT_TRUE(named);
    EXPECT_GE(named->id, 70);
    EXPECT_LE(named->id, 90);
}

// Each mask is worked out within that of its borrower: there is an end to how deep that may go.
TEST(Borrowing, DeeperThanCanBeWorkedOutIsRefused) {
    const auto read = [](int count) {
        return fromJsonText(
            R"({"format": "dim-hem-document", "version": 1, "photo": {"path": "photo.png"}, "corrections": )" +
            chainOf(count) + "}");
    };
    EXPECT_TRUE(read(static_cast<int>(mostBorrowing)));
    const auto deeper = read(static_cast<int>(mostBorrowing) + 1);
    ASSERT_FALSE(deeper);
    EXPECT_EQ(deeper.error().message, "In the document, more than 250 masks borrow each from the next.");
    const auto endless = read(9000);
    EXPECT_FALSE(endless);
    // One loan more, between what lends least and what borrows most, in both directions.
    const DocumentPtr document =
        tests::documentOf(R"([{"id": 1}, {"id": 2, "mask": {"parts": [{"kind": "borrowed", "from": 1}]}},
        {"id": 3}, {"id": 4, "mask": {"parts": [{"kind": "borrowed", "from": 3}]}}])");
    EXPECT_EQ(deepestBorrowing(*document), 2u);
    EXPECT_EQ(deepestBorrowing(*document, Loan{3, 2}), 4u);
    EXPECT_EQ(deepestBorrowing(*document, Loan{4, 1}), 2u);
}

TEST(Borrowing, EndsWithTheCorrectionThatLends) {
    const DocumentPtr document = tests::documentOf(
        R"([{"id": 1}, {"id": 2, "mask": {"parts": [{"kind": "borrowed", "from": 1}, {"kind": "brush"}]}}])");
    const DocumentPtr after = withoutCorrection(*document, 1);
    const auto borrowed =
        std::dynamic_pointer_cast<const mask::BorrowedMask>(after->corrections[0]->mask.parts[0]->shape);
    ASSERT_TRUE(borrowed);
    EXPECT_EQ(borrowed->from(), 0);
    EXPECT_TRUE(fromJsonText(toJsonText(*after)));
}

}  // namespace dimhem::document
