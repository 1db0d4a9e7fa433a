// Probes, kept states and dismissed notes in a document: edits, reading and writing.
#include "core/document/judging.h"

#include <gtest/gtest.h>

#include "core/document/edits.h"
#include "core/document/json_format.h"
#include "tests/support/documents.h"

namespace dimhem::document {

namespace {

DocumentPtr roundTrip(const DocumentPtr& document) {
    std::vector<std::string> warnings;
    const auto back = fromJsonText(toJsonText(*document), &warnings);
    EXPECT_TRUE(back) << (back ? "" : back.error().message);
    EXPECT_EQ(warnings, std::vector<std::string>());
    return back ? *back : nullptr;
}

std::string refused(const std::string& members) {
    const auto read = fromJsonText(
        R"({"format": "dim-hem-document", "version": 1, "photo": {"path": "p.png"}, "corrections": [{"id": 3}], )" +
        members + "}");
    return read ? "" : read.error().message;
}

}  // namespace

TEST(Judging, IsKeptInTheDocument) {
    DocumentPtr document = tests::threeCorrections();
    Probe point, area;
    point.place = {120.5, 40};
    point.sizePx = 15;
    point.neutral = true;
    area.area = base::Rect{10, 20, 60, 50};
    document = withNewProbe(*withNewProbe(*document, point), area);
    document =
        withDismissed(*document, {NoteKind::opposed, document->corrections[1]->id, document->corrections[0]->id});
    document = withStateKept(*document, "First look");
    document = withCorrection(*document, document->corrections[0]->id, [](Correction& c) { c.strengthPct = 40; });
    document = withStateKept(*document, "Weaker");
    const DocumentPtr back = roundTrip(document);
    ASSERT_TRUE(back);
    EXPECT_EQ(back->probes, document->probes);
    EXPECT_EQ(back->dismissed, document->dismissed);
    ASSERT_EQ(back->states.size(), 2u);
    EXPECT_EQ(back->states[0].name, "First look");
    EXPECT_EQ(back->states[0].corrections[0]->strengthPct, 100);
    EXPECT_EQ(back->states[1].corrections[0]->strengthPct, 40);
    EXPECT_EQ(toJsonText(*back), toJsonText(*document));
    // What is given out later has no id of a kept state either.
    EXPECT_EQ(indexOf(*back, withNewCorrection(*back, 0).id), -1);
}

TEST(Judging, NothingIsWrittenOfEmptyLists) {
    const std::string text = toJsonText(*tests::threeCorrections());
    for (const char* member : {"probes", "states", "dismissed"}) EXPECT_EQ(text.find(member), std::string::npos);
}

TEST(Judging, AStateGoesBackAsItWas) {
    const DocumentPtr first = tests::threeCorrections();
    DocumentPtr document = withStateKept(*first, "A");
    document = withoutCorrection(*document, first->corrections[1]->id);
    EXPECT_EQ(document->corrections.size(), 2u);
    document = withStateTaken(*document, 0);
    EXPECT_EQ(document->corrections, first->corrections) << "the same objects";
    EXPECT_EQ(document->states.size(), 1u) << "and the state stays";
    EXPECT_TRUE(withoutState(*document, 0)->states.empty());
    EXPECT_EQ(withStateRenamed(*document, 0, "B")->states[0].name, "B");
    EXPECT_TRUE(isSame(*withStateTaken(*document, 7), *document)) << "there is none";
}

TEST(Judging, ThereIsAMostOfEach) {
    DocumentPtr document = tests::documentOf("[]");
    for (int i = 0; i < 20; ++i) document = withStateKept(*withNewProbe(*document, {}), "S");
    EXPECT_EQ(document->probes.size(), mostProbes);
    EXPECT_EQ(document->states.size(), mostStates);
    EXPECT_TRUE(roundTrip(document));
    EXPECT_EQ(withDismissed(*withDismissed(*document, {}), {})->dismissed.size(), 1u) << "once is enough";
    EXPECT_TRUE(withNoneDismissed(*withDismissed(*document, {}))->dismissed.empty());
    EXPECT_EQ(withoutProbe(*document, 99)->probes.size(), mostProbes);
}

TEST(Judging, WhatIsWrongIsSaid) {
    EXPECT_NE(refused(R"("probes": [{"at": [1]}])"), "");
    EXPECT_NE(refused(R"("probes": [{"at": [1, 2], "size": 4}])").find("51"), std::string::npos);
    EXPECT_NE(refused(R"("probes": [{"area": [9, 0, 3, 4]}])"), "") << "empty";
    EXPECT_NE(refused(R"("probes": [{"at": [1e300, 2]}])"), "");
    EXPECT_NE(refused(R"("probes": 7)"), "");
    EXPECT_NE(refused(R"("dismissed": [{"note": "gone-green", "correction": 3}])"), "");
    EXPECT_NE(refused(R"("dismissed": [{"note": "clipped", "correction": -3}])"), "");
    EXPECT_NE(refused(R"("dismissed": [3])").find("a list of objects"), std::string::npos);
    EXPECT_NE(refused(R"("probes": [[3]])"), "");
    EXPECT_NE(refused(R"("states": [{"name": "A"}, {}, {}, {}, {}])"), "");
    EXPECT_NE(refused(R"("states": [{"corrections": [{"strength": 400}]}])"), "");
    EXPECT_NE(refused(R"("states": [{"corrections": [{"mask": {"parts": [{"kind": "borrowed", "from": 88}]}}]}])"), "")
        << "borrows from a correction that is not in the state";
    EXPECT_EQ(refused(R"("states": [{"name": "A", "corrections": [{"id": 3}]}])"), "")
        << "the ids of the state's own time";
    std::string nine;
    for (int i = 0; i < 9; ++i) nine += std::string(i ? "," : "") + R"({"at": [1, 2]})";
    EXPECT_NE(refused("\"probes\": [" + nine + "]"), "");
}

TEST(Judging, EachNoteHasANameOfItsOwn) {
    for (const NoteKind kind : noteKinds()) EXPECT_EQ(noteKindOf(idOf(kind)), kind);
    EXPECT_FALSE(noteKindOf("greener"));
    EXPECT_EQ(noteKinds().size(), 13u);
}

// A version that differs in these alone is another version: saved, undone and journalled as such.
TEST(Judging, AProbeIsAChange) {
    const DocumentPtr document = tests::threeCorrections();
    EXPECT_FALSE(isSame(*withNewProbe(*document, {}), *document));
    EXPECT_FALSE(isSame(*withStateKept(*document, "A"), *document));
    EXPECT_FALSE(isSame(*withDismissed(*document, {}), *document));
}

}  // namespace dimhem::document
