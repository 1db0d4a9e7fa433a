#include <gtest/gtest.h>

#include <set>

#include "core/adjust/light.h"
#include "core/colour/thread_colours.h"
#include "core/document/edits.h"
#include "core/document/history.h"
#include "core/document/json_format.h"
#include "core/mask/brush.h"
#include "core/mask/linear_gradient.h"

#include "tests/support/documents.h"

namespace dimhem::document {

namespace {

// Two corrections; the first with a gradient and two strokes and an adjustment.
DocumentPtr someDocument() {
    Document empty;
    empty.photo = {"photos/a.jpg", false, "00ff", {640, 480}};
    const Added first = withNewCorrection(empty, 9);
    const Added gradient =
        withNewPart(*first.document, first.id, mask::LinearGradient::kindInfo.makeFor({640, 480}), mask::Combine::add);
    const mask::StrokePoint points[] = {{{10, 10}, 1}, {{50, 60.5}, 0.5}};
    const auto brush = std::make_shared<mask::Brush>(
        std::vector<mask::StrokePtr>{mask::Stroke::through({}, points), mask::Stroke::through({}, points)});
    const Added painted = withNewPart(*gradient.document, first.id, brush, mask::Combine::subtract);
    const Added adjusted = withNewAdjustment(*painted.document, first.id, adjust::light);
    const DocumentPtr set = withAdjustment(*adjusted.document, first.id, adjusted.id,
                                           [](AdjustmentUse& use) { use.settings.values[0] = -0.35; });
    return withNewCorrection(*set, 9).document;
}

}  // namespace

TEST(DocumentEdits, LeaveTheOldVersionAsItWasAndShareTheRest) {
    const DocumentPtr before = someDocument();
    const std::string text = toJsonText(*before);
    const Id second = before->corrections[1]->id;
    const DocumentPtr after = withCorrection(*before, second, [](Correction& c) { c.strengthPct = 40; });
    EXPECT_EQ(toJsonText(*before), text);
    EXPECT_EQ(after->corrections[0], before->corrections[0]);  // the same object
    EXPECT_EQ(after->corrections[1]->strengthPct, 40);
}

TEST(DocumentEdits, UnknownIdsChangeNothing) {
    const DocumentPtr document = someDocument();
    const std::string text = toJsonText(*document);
    EXPECT_EQ(toJsonText(*withoutCorrection(*document, 999)), text);
    EXPECT_EQ(toJsonText(*withoutPart(*document, 999, 1)), text);
    EXPECT_EQ(toJsonText(*withCorrectionMoved(*document, 999, 0)), text);
    EXPECT_EQ(withCopyOfCorrection(*document, 999).id, 0);
}

TEST(DocumentEdits, CopiesHaveIdsOfTheirOwn) {
    const DocumentPtr document = someDocument();
    const Added copy = withCopyOfCorrection(*document, document->corrections[0]->id);
    ASSERT_EQ(copy.document->corrections.size(), 3u);
    std::set<Id> ids;
    std::size_t count = 0;
    for (const auto& correction : copy.document->corrections) {
        ids.insert(correction->id);
        ++count;
        for (const auto& part : correction->mask.parts) {
            ids.insert(part->id);
            ++count;
        }
        for (const auto& use : correction->adjustments) {
            ids.insert(use.id);
            ++count;
        }
    }
    EXPECT_EQ(ids.size(), count);
    EXPECT_EQ(copy.document->corrections[1]->id, copy.id);
    EXPECT_NE(copy.document->corrections[1]->name, document->corrections[0]->name);
    EXPECT_NE(copy.document->corrections[1]->threadColour, document->corrections[0]->threadColour);
}

TEST(DocumentEdits, MoveReorders) {
    const DocumentPtr document = someDocument();
    const Id first = document->corrections[0]->id, second = document->corrections[1]->id;
    EXPECT_EQ(withCorrectionMoved(*document, first, 1)->corrections[1]->id, first);
    EXPECT_EQ(withCorrectionMoved(*document, second, 0)->corrections[0]->id, second);
    const auto& parts = document->corrections[0]->mask.parts;
    EXPECT_EQ(withPartMoved(*document, first, parts[1]->id, 0)->corrections[0]->mask.parts[0]->id, parts[1]->id);
}

TEST(History, UndoRestoresTheSerialisedDocumentByteForByte) {
    History history(someDocument());
    const std::string first = toJsonText(*history.current());
    history.commit(withNewCorrection(*history.current(), 0).document, "new correction");
    const std::string second = toJsonText(*history.current());
    history.undo();
    EXPECT_EQ(toJsonText(*history.current()), first);
    EXPECT_EQ(history.redoName(), "new correction");
    history.redo();
    EXPECT_EQ(toJsonText(*history.current()), second);
    EXPECT_EQ(history.undoName(), "new correction");
}

TEST(History, AGestureIsOneStepAndCanBeDropped) {
    History history(someDocument());
    const std::string first = toJsonText(*history.current());
    const Id id = history.current()->corrections[0]->id;
    for (int i = 0; i < 10; ++i)
        history.preview(withCorrection(*history.current(), id, [i](Correction& c) { c.strengthPct = i; }));
    EXPECT_FALSE(history.canUndo());
    history.commitPreview("strength");
    history.preview(withoutCorrection(*history.current(), id));
    history.dropPreview();
    EXPECT_EQ(history.current()->corrections[0]->strengthPct, 9);
    history.undo();
    EXPECT_EQ(toJsonText(*history.current()), first);
    EXPECT_FALSE(history.canUndo());
}

TEST(History, AnEditThatLeavesEverythingAsItIsMakesNoStep) {
    History history(someDocument());
    const Document& d = *history.current();
    const Id first = d.corrections[0]->id, use = d.corrections[0]->adjustments[0].id;
    history.commit(withCorrection(d, first, [](Correction&) {}), "a");
    history.commit(withCorrection(d, first, [](Correction& c) { c.strengthPct = 100; }), "the same strength");
    history.commit(withAdjustment(d, first, use, [](AdjustmentUse& u) { u.settings.values[0] = -0.35; }),
                   "the same value");
    history.commit(withoutCorrection(d, 999), "none of that id");
    history.commit(withPart(d, first, 999, [](mask::Part& p) { p.flipped = true; }), "none of that id");
    EXPECT_FALSE(history.canUndo());
}

TEST(History, NothingChangedIsNoStepAndANewStepEndsRedo) {
    History history(someDocument());
    history.commitPreview("nothing");
    EXPECT_FALSE(history.canUndo());
    history.commit(withNewCorrection(*history.current(), 0).document, "a");
    history.undo();
    history.commit(withNewCorrection(*history.current(), 0).document, "b");
    EXPECT_FALSE(history.canRedo());
    EXPECT_EQ(history.undoName(), "b");
}

TEST(History, KnowsWhetherItIsSaved) {
    History history(someDocument());
    history.markSaved();
    EXPECT_TRUE(history.isSaved());
    history.commit(withNewCorrection(*history.current(), 0).document, "a");
    EXPECT_FALSE(history.isSaved());
    history.undo();
    EXPECT_TRUE(history.isSaved());
}

TEST(History, WhatIsMeasuredWhileItIsWrittenLeavesItSaved) {
    History history(someDocument());
    history.beginSaving();
    const DocumentPtr written = history.current();
    history.amendAll([](const DocumentPtr& version) {
        return withCorrection(*version, version->corrections[0]->id, [](Correction& c) { c.strengthPct = 77; });
    });
    history.markSaved(written);
    EXPECT_TRUE(history.isSaved());
    // What is done meanwhile is not saved with it, and another version is no more than itself.
    history.beginSaving();
    const DocumentPtr second = history.current();
    history.commit(withNewCorrection(*history.current(), 0).document, "a");
    history.markSaved(second);
    EXPECT_FALSE(history.isSaved());
    history.markSaved(written);
    EXPECT_FALSE(history.isSaved());
}

// What is measured in the background is told in every version; it makes none of them unsaved.
TEST(History, WhatWasSavedIsSavedAfterSomethingIsMeasured) {
    const auto measured = [](const DocumentPtr& version) {
        return withCorrection(*version, version->corrections[0]->id, [](Correction& c) { c.strengthPct = 77; });
    };
    History history(someDocument());
    history.markSaved();
    history.amendAll(measured);
    EXPECT_TRUE(history.isSaved());
    history.amend(measured(history.current()));
    EXPECT_TRUE(history.isSaved());
    history.commit(withoutCorrection(*history.current(), history.current()->corrections[0]->id), "remove");
    history.amendAll([](const DocumentPtr& version) { return withStateKept(*version, "a"); });
    EXPECT_FALSE(history.isSaved());
    history.undo();
    EXPECT_TRUE(history.isSaved()) << "also where it was saved before the newest step";
    History never(someDocument());
    never.amendAll(measured);
    EXPECT_FALSE(never.isSaved());
}

TEST(JsonFormat, AThreadColourThatIsGivenWasChosen) {
    const auto correction = [](const std::string& members) {
        return tests::documentOf("[{" + members + "}]")->corrections[0];
    };
    const auto orange = correction(R"("thread": "orange")");
    EXPECT_EQ(colour::threadColours[static_cast<std::size_t>(orange->threadColour)].id, "orange");
    EXPECT_TRUE(orange->threadColourChosen);
    EXPECT_FALSE(correction(R"("thread": "orange", "thread-chosen": false)")->threadColourChosen);
    EXPECT_FALSE(correction("")->threadColourChosen) << "by its position";
}

TEST(JsonFormat, ComesBackAsItWas) {
    const std::string text = toJsonText(*someDocument());
    const auto back = fromJsonText(text);
    ASSERT_TRUE(back) << back.error().message;
    EXPECT_EQ(toJsonText(**back), text);
}

TEST(JsonFormat, WhatIsLeftOutTakesItsUsualValue) {
    const auto document = fromJsonText(R"({"format": "dim-hem-document", "version": 1, "photo": {"path": "a.png"},
        "corrections": [{"mask": {"parts": [{"kind": "brush"}]}, "adjustments": [{"kind": "light", "exposure": 1}]}]})");
    ASSERT_TRUE(document) << document.error().message;
    const Correction& correction = *(*document)->corrections[0];
    EXPECT_TRUE(correction.enabled);
    EXPECT_EQ(correction.strengthPct, 100);
    EXPECT_FALSE(correction.mask.startsEverywhere);
    EXPECT_EQ(correction.mask.parts[0]->opacityPct, 100);
    EXPECT_EQ(correction.adjustments[0].settings.values[5], 100);  // white point
}

TEST(JsonFormat, EachWrongDocumentGetsItsCodeAndOneSentence) {
    const auto with = [](const std::string& corrections) {
        return R"({"format": "dim-hem-document", "version": 1, "photo": {"path": "a.png"}, "corrections": )" +
               corrections + "}";
    };
    const std::pair<std::string, base::ErrorCode> cases[] = {
        {"", base::ErrorCode::damaged},
        {"{\"format\": ", base::ErrorCode::damaged},
        {"[]", base::ErrorCode::unknownFormat},
        {R"({"format": "something"})", base::ErrorCode::unknownFormat},
        {R"({"format": 3})", base::ErrorCode::unknownFormat},
        {R"({"format": "dim-hem-document", "version": 2, "photo": {"path": "a"}})", base::ErrorCode::newerVersion},
        {R"({"format": "dim-hem-document", "version": "1"})", base::ErrorCode::invalidValue},
        {R"({"format": "dim-hem-document", "version": 1})", base::ErrorCode::invalidValue},
        {R"({"format": "dim-hem-document", "version": 1, "photo": {"path": 4}})", base::ErrorCode::invalidValue},
        {with("7"), base::ErrorCode::invalidValue},
        {with("[7]"), base::ErrorCode::invalidValue},
        {with(R"([{"strength": 400}])"), base::ErrorCode::invalidValue},
        {with(R"([{"thread": "plaid"}])"), base::ErrorCode::invalidValue},
        {with(R"([{"mask": []}])"), base::ErrorCode::invalidValue},
        {with(R"([{"mask": {"starts": "somewhere"}}])"), base::ErrorCode::invalidValue},
        {with(R"([{"mask": {"parts": [{"kind": "cloud"}]}}])"), base::ErrorCode::invalidValue},
        {with(R"([{"mask": {"parts": [{"kind": "brush", "combine": "multiply"}]}}])"), base::ErrorCode::invalidValue},
        {with(R"([{"adjustments": [{"kind": "light", "exposure": "up"}]}])"), base::ErrorCode::invalidValue},
        {with(R"([{"adjustments": [{"kind": "light", "exposure": 50}]}])"), base::ErrorCode::invalidValue},
        {with(R"([{"adjustments": [{"kind": "magic"}]}])"), base::ErrorCode::invalidValue},
    };
    for (const auto& [text, code] : cases) {
        const auto result = fromJsonText(text);
        ASSERT_FALSE(result) << text;
        EXPECT_EQ(result.error().code, code) << text;
        EXPECT_TRUE(result.error().message.ends_with(".")) << result.error().message;
    }
}

TEST(Document, OnlyWhatCanChangeAPixelIsActive) {
    const DocumentPtr document = someDocument();
    EXPECT_TRUE(isActive(*document->corrections[0]));
    EXPECT_FALSE(isActive(*document->corrections[1]));  // no adjustment
    Correction off = *document->corrections[0];
    off.enabled = false;
    EXPECT_FALSE(isActive(off));
    off.enabled = true;
    off.strengthPct = 0;
    EXPECT_FALSE(isActive(off));
    off.strengthPct = 50;
    off.adjustments[0].settings.values[0] = 0;
    EXPECT_FALSE(isActive(off));
}

TEST(JsonFormat, KeepsRefineAndIds) {
    const auto document =
        fromJsonText(R"({"format": "dim-hem-document", "version": 1, "photo": {"path": "a.png"}, "corrections": [
        {"id": 40, "mask": {"refine": {"feather": 12.5, "expand": -3, "floor": 10}}}, {"name": "Second"}]})");
    ASSERT_TRUE(document) << document.error().message;
    EXPECT_EQ((*document)->corrections[0]->id, 40);
    EXPECT_GT((*document)->corrections[1]->id, 40) << "those given out come after those given";
    EXPECT_EQ((*document)->corrections[0]->mask.refine, (mask::Refine{12.5, -3, 0, 0, 0, 10, 100}));
    const std::string text = toJsonText(**document);
    EXPECT_EQ(toJsonText(**fromJsonText(text)), text);
}

TEST(JsonFormat, WrongIdsAndRefineAreRefused) {
    for (const char* corrections :
         {R"([{"id": 0}])", R"([{"id": 1.5}])", R"([{"id": 3}, {"id": 3}])", R"([{"id": "a"}])",
          R"([{"mask": {"refine": 4}}])", R"([{"mask": {"refine": {"feather": -1}}}])",
          R"([{"mask": {"refine": {"ceiling": 101}}}])",
          R"([{"id": 1, "mask": {"parts": [{"kind": "borrowed", "from": 1}]}}])"}) {
        const auto result =
            fromJsonText(R"({"format": "dim-hem-document", "version": 1, "photo": {"path": "a"}, "corrections": )" +
                         std::string(corrections) + "}");
        ASSERT_FALSE(result) << corrections;
        EXPECT_EQ(result.error().code, base::ErrorCode::invalidValue) << corrections;
    }
}

TEST(DocumentEdits, PartsAndMasksAreCopiedWithIdsOfTheirOwn) {
    const DocumentPtr document = someDocument();
    const Id first = document->corrections[0]->id, second = document->corrections[1]->id;
    const mask::PartId part = document->corrections[0]->mask.parts[1]->id;
    const Added copied = withCopyOfPart(*document, first, part, second);
    ASSERT_EQ(copied.document->corrections[1]->mask.parts.size(), 1u);
    EXPECT_EQ(copied.document->corrections[1]->mask.parts[0]->id, copied.id);
    EXPECT_EQ(copied.document->corrections[1]->mask.parts[0]->shape, document->corrections[0]->mask.parts[1]->shape)
        << "shared";
    const DocumentPtr masked = withCopyOfMask(*document, first, second);
    ASSERT_EQ(masked->corrections[1]->mask.parts.size(), 2u);
    EXPECT_NE(masked->corrections[1]->mask.parts[0]->id, masked->corrections[0]->mask.parts[0]->id);
    EXPECT_EQ(withCopyOfPart(*document, first, 999, second).id, 0);
}

TEST(JsonFormat, KeepsTablesAndTheBackdrop) {
    const auto document = fromJsonText(R"({"format": "dim-hem-document", "version": 1, "photo": {"path": "a.png"},
        "backdrop": {"colour": [0.5, 0.25, 1]}, "corrections": [{"adjustments": [
        {"kind": "tone-curve", "red": [[0, 5], [40, 60], [100, 100]]}, {"kind": "hue-bands", "bands": []},
        {"kind": "match-area", "tone": 40, "place": [[1, 2, 3, 4]]}]}]})");
    ASSERT_TRUE(document) << document.error().message;
    const auto& uses = (*document)->corrections[0]->adjustments;
    EXPECT_EQ(uses[0].settings.tables[2], (adjust::Table{0, 5, 40, 60, 100, 100}));
    EXPECT_EQ(uses[0].settings.tables[0], (adjust::Table{0, 0, 100, 100})) << "left out: straight";
    EXPECT_TRUE(uses[1].settings.tables[0].empty());
    EXPECT_EQ(uses[2].settings.tables[0], (adjust::Table{1, 2, 3, 4}));
    EXPECT_EQ(std::get<colour::EncodedRgb>((*document)->backdrop).g, 0.25);
    const std::string text = toJsonText(**document);
    EXPECT_EQ(toJsonText(**fromJsonText(text)), text);
    const DocumentPtr pictured = withBackdrop(**document, BackdropPicture{"b.png", nullptr, {}});
    EXPECT_EQ(std::get<BackdropPicture>((*fromJsonText(toJsonText(*pictured)))->backdrop).path, "b.png");
}

TEST(JsonFormat, WrongTablesAndBackdropsAreRefused) {
    const auto with = [](const std::string& adjustment) {
        return R"("corrections": [{"adjustments": [)" + adjustment + "]}]";
    };
    for (const std::string& rest :
         {with(R"({"kind": "tone-curve", "red": 4})"), with(R"({"kind": "tone-curve", "red": [[0, 0]]})"),
          with(R"({"kind": "tone-curve", "red": [[0, 0], [50, 20], [50, 30]]})"),
          with(R"({"kind": "tone-curve", "red": [[0, 0], [150, 20]]})"),
          with(R"({"kind": "tone-curve", "red": [[0, 0], ["a", 20]]})"),
          with(R"({"kind": "hue-bands", "bands": [[0, 1, 2, 3]]})"),
          with(R"({"kind": "hue-bands", "bands": [[0, 4, 2, 8, 0, 0, 0]]})"),
          with(R"({"kind": "match-area", "place": [[1, 2, 3, 4], [1, 2, 3, 4]]})"), std::string(R"("backdrop": 3)"),
          std::string(R"("backdrop": {"colour": [0, 0, 2]})"), std::string(R"("backdrop": {"picture": 4})")}) {
        const auto result =
            fromJsonText(R"({"format": "dim-hem-document", "version": 1, "photo": {"path": "a"}, )" + rest + "}");
        ASSERT_FALSE(result) << rest;
        EXPECT_EQ(result.error().code, base::ErrorCode::invalidValue) << rest;
        EXPECT_TRUE(result.error().message.ends_with(".")) << result.error().message;
    }
}

TEST(DocumentEdits, AdjustmentsChangePlaces) {
    const DocumentPtr document = someDocument();
    const Id correction = document->corrections[0]->id, first = document->corrections[0]->adjustments[0].id;
    const Added second = withNewAdjustment(*document, correction, adjust::light);
    const DocumentPtr moved = withAdjustmentMoved(*second.document, correction, second.id, 0);
    EXPECT_EQ(moved->corrections[0]->adjustments[0].id, second.id);
    EXPECT_EQ(moved->corrections[0]->adjustments[1].id, first);
}

}  // namespace dimhem::document
