// Several corrections under one strength and switch.
#include "core/document/bracket.h"

#include <gtest/gtest.h>

#include "core/document/edits.h"
#include "core/render/sequence.h"
#include "tests/support/documents.h"

namespace dimhem::document {

namespace {

const Correction& of(const DocumentPtr& document, Id id) {
    return *findCorrection(*document, id);
}

DocumentPtr three() {
    return tests::documentOf(R"([
      {"id": 1, "mask": {"starts": "everywhere"}, "strength": 80, "adjustments": [{"kind": "light", "exposure": 1}]},
      {"id": 2, "mask": {"starts": "everywhere"}, "enabled": false, "adjustments": [{"kind": "light", "exposure": 1}]},
      {"id": 3, "mask": {"starts": "everywhere"}, "adjustments": [{"kind": "light", "exposure": 1}]}])");
}

DocumentPtr with(const DocumentPtr& document, Id bracket, double strengthPct, bool enabled = true) {
    return withBracket(*document, bracket, [=](Bracket& b) {
        b.strengthPct = strengthPct;
        b.enabled = enabled;
    });
}

}  // namespace

TEST(Bracket, ItsStrengthIsTimesEachOnesOwn) {
    const Added added = withNewBracket(*three(), std::vector<Id>{1, 2});
    ASSERT_NE(added.id, 0);
    const DocumentPtr half = with(added.document, added.id, 50);
    EXPECT_DOUBLE_EQ(shareOf(*half, of(half, 1)), 0.4);
    EXPECT_EQ(shareOf(*half, of(half, 2)), 0) << "off by itself";
    EXPECT_EQ(shareOf(*half, of(half, 3)), 1) << "not under it";
    const render::Sequence sequence(half, {});
    ASSERT_EQ(sequence.steps().size(), 2u);
    EXPECT_FLOAT_EQ(sequence.steps()[0].strength, 0.4f);
    EXPECT_FLOAT_EQ(sequence.steps()[1].strength, 1);
    const DocumentPtr off = with(added.document, added.id, 100, false);
    EXPECT_EQ(render::Sequence(off, {}).steps().size(), 1u);
    EXPECT_FALSE(isActive(*off, of(off, 1)));
    EXPECT_TRUE(isActive(of(off, 1))) << "by itself it is on";
    // At full strength nothing is different from having none.
    EXPECT_EQ(render::Sequence(added.document, {}).steps()[0].key, render::Sequence(three(), {}).steps()[0].key);
}

TEST(Bracket, GoesWithTheLastThatStandsUnderIt) {
    const Added first = withNewBracket(*three(), std::vector<Id>{1, 2});
    const Added second = withNewBracket(*first.document, std::vector<Id>{2, 3});
    EXPECT_EQ(second.document->brackets.size(), 2u);
    EXPECT_EQ(of(second.document, 2).bracket, second.id) << "out of the one it stood under";
    const DocumentPtr without = withoutCorrection(*second.document, 1);
    ASSERT_EQ(without->brackets.size(), 1u);
    EXPECT_EQ(without->brackets[0].id, second.id);
    const DocumentPtr none = withoutBracket(*without, second.id);
    EXPECT_TRUE(none->brackets.empty());
    EXPECT_EQ(none->corrections.size(), 2u);
    EXPECT_EQ(of(none, 2).bracket, 0);
    EXPECT_FALSE(isSame(*without, *none));
}

TEST(Bracket, IsKeptInDocumentAndStates) {
    const Added added = withNewBracket(*three(), std::vector<Id>{1, 3});
    const DocumentPtr kept = withStateKept(*with(added.document, added.id, 30), "a");
    const DocumentPtr changed = with(kept, added.id, 100);
    const auto again = fromJsonText(toJsonText(*changed));
    ASSERT_TRUE(again) << again.error().message;
    EXPECT_EQ((*again)->brackets, changed->brackets);
    EXPECT_EQ((*again)->states[0].brackets, kept->brackets);
    const DocumentPtr taken = withStateTaken(**again, 0);
    EXPECT_DOUBLE_EQ(shareOf(*taken, of(taken, 3)), 0.3) << "as it was when it was kept";
    // Ids are given out anew beyond it.
    EXPECT_GT((*again)->ids->next(), added.id);
}

TEST(Bracket, BadOnesAreRefused) {
    for (const char* brackets :
         {"3", "[3]", "[{}]", R"([{"id": 0}])", R"([{"id": 1.5}])", R"([{"id": 4}, {"id": 4}])",
          R"([{"id": 4, "strength": 101}])", R"([{"id": 4, "enabled": 1}])", R"([{"id": 1e300}])"}) {
        const std::string text =
            std::string(R"({"format": "dim-hem-document", "version": 1, "photo": {"path": "a"}, "corrections": [],
            "brackets": )") +
            brackets + "}";
        const auto read = fromJsonText(text);
        ASSERT_FALSE(read) << brackets;
        EXPECT_TRUE(read.error().message.ends_with(".")) << read.error().message;
    }
    // One that a correction names and that is not there counts for nothing.
    const DocumentPtr document = tests::documentOf(R"([{"id": 1, "bracket": 77, "strength": 40}])");
    EXPECT_DOUBLE_EQ(shareOf(*document, of(document, 1)), 0.4);
}

}  // namespace dimhem::document
