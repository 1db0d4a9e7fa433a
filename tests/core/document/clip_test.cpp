// What is copied from one correction and put on another, as text of the document's own form.
#include "core/document/clip.h"

#include <gtest/gtest.h>

#include <filesystem>
#include <fstream>
#include <set>

#include "core/adjust/registry.h"
#include "core/mask/borrowed_mask.h"
#include "core/mask/brush.h"
#include "core/mask/registry.h"
#include "tests/support/documents.h"

namespace dimhem::document {

namespace {

using What = Clip::What;

DocumentPtr two() {
    return tests::documentOf(R"([
      {"id": 1, "name": "Sky", "strength": 60, "blend": "multiply", "mixing": "light", "clean-edge": true,
       "mask": {"starts": "everywhere", "inverted": true, "refine": {"feather": 3}, "parts": [
         {"kind": "linear-gradient", "full": [20, 20], "none": [20, 180],
          "limit": {"kind": "luminosity-range", "tones": [10, 20, 60, 70]}},
         {"kind": "brush", "combine": "subtract", "strokes": [{"size": 60, "points": [[120, 20], [130, 160]]}]}]},
       "adjustments": [{"kind": "light", "exposure": -1.2}, {"kind": "saturation", "amount": 20, "enabled": false}]},
      {"id": 2, "name": "Wall", "mask": {"parts": [{"kind": "radial-gradient", "centre": [50, 50], "half-width": 30, "half-height": 20}]},
       "adjustments": [{"kind": "white-balance", "temperature": 8200}]}])");
}

const Correction& of(const DocumentPtr& document, Id id) {
    return *findCorrection(*document, id);
}

Clip clipOf(const Correction& correction, What what) {
    return {what, correction};
}

// By way of its text, as it goes over the clipboard.
Added pasted(const DocumentPtr& document, Id to, const Clip& clip) {
    const auto read = clipFromJsonText(toJsonText(clip));
    EXPECT_TRUE(read) << (read ? "" : read.error().message);
    EXPECT_EQ(read->what, clip.what);
    return withClip(*document, to, *read);
}

bool sameAdjustments(const Correction& a, const Correction& b) {
    return std::ranges::equal(a.adjustments, b.adjustments, [](const AdjustmentUse& x, const AdjustmentUse& y) {
        return x.kind == y.kind && x.enabled == y.enabled && x.settings == y.settings;
    });
}

// As text, without the ids, which are each one's own.
std::string textOf(const mask::Mask& mask) {
    Clip clip{What::mask, {}};
    clip.of.mask = mask;
    return toJsonText(clip);
}

void expectOwnIds(const DocumentPtr& document) {
    std::set<Id> ids;
    std::size_t count = 0;
    for (const CorrectionPtr& correction : document->corrections) {
        ids.insert(correction->id);
        count += 1 + correction->mask.parts.size() + correction->adjustments.size();
        for (const auto& part : correction->mask.parts) ids.insert(part->id);
        for (const auto& use : correction->adjustments) ids.insert(use.id);
    }
    EXPECT_EQ(ids.size(), count);
}

}  // namespace

TEST(Clip, AnEffectTakesThePlaceOfTheOtherAndLeavesItsMask) {
    const DocumentPtr document = two();
    const Added added = pasted(document, 2, clipOf(of(document, 1), What::effect));
    ASSERT_EQ(added.id, 2);
    const Correction &from = of(document, 1), &to = of(added.document, 2);
    EXPECT_TRUE(sameAdjustments(from, to));
    EXPECT_EQ(to.strengthPct, 60);
    EXPECT_EQ(to.blend, from.blend);
    EXPECT_EQ(to.mixing, from.mixing);
    EXPECT_TRUE(to.cleanEdge);
    EXPECT_EQ(to.mask, of(document, 2).mask);
    EXPECT_EQ(to.name, "Wall");
    expectOwnIds(added.document);
}

TEST(Clip, AMaskTakesThePlaceOfTheOtherAndLeavesItsEffect) {
    const DocumentPtr document = two();
    const Added added = pasted(document, 2, clipOf(of(document, 1), What::mask));
    EXPECT_EQ(textOf(of(added.document, 2).mask), textOf(of(document, 1).mask));
    EXPECT_TRUE(of(added.document, 2).mask.parts[0]->limit);
    EXPECT_EQ(of(added.document, 2).adjustments, of(document, 2).adjustments);
    expectOwnIds(added.document);
}

TEST(Clip, PartsAndAdjustmentsAreAdded) {
    const DocumentPtr document = two();
    Clip parts = clipOf(of(document, 1), What::parts);
    parts.of.mask.parts.erase(parts.of.mask.parts.begin());
    const Added withPart = pasted(document, 2, parts);
    ASSERT_EQ(of(withPart.document, 2).mask.parts.size(), 2u);
    EXPECT_EQ(of(withPart.document, 2).mask.parts[1]->combine, mask::Combine::subtract);
    Clip one = clipOf(of(document, 1), What::adjustments);
    one.of.adjustments.resize(1);
    const Added both = pasted(withPart.document, 2, one);
    ASSERT_EQ(of(both.document, 2).adjustments.size(), 2u);
    EXPECT_EQ(of(both.document, 2).adjustments[1].settings, of(document, 1).adjustments[0].settings);
    expectOwnIds(both.document);
}

TEST(Clip, AWholeCorrectionComesAfterTheOneItIsPutOn) {
    const DocumentPtr document = two();
    const Added added = pasted(document, 1, clipOf(of(document, 1), What::correction));
    ASSERT_EQ(added.document->corrections.size(), 3u);
    const Correction& copy = *added.document->corrections[1];
    EXPECT_EQ(copy.id, added.id);
    EXPECT_EQ(copy.name, "Sky 2");
    EXPECT_TRUE(sameAdjustments(copy, of(document, 1)));
    EXPECT_EQ(textOf(copy.mask), textOf(of(document, 1).mask));
    expectOwnIds(added.document);
}

// Whatever the demos hold comes back from its text as it was, each correction, and again.
TEST(Clip, EveryCorrectionOfTheDemosComesBackAsItWas) {
    int count = 0;
    for (const auto& entry : std::filesystem::directory_iterator(std::string(DIMHEM_SOURCE_DIR) + "/demo/documents")) {
        std::ifstream file(entry.path());
        const std::string text(std::istreambuf_iterator<char>(file), {});
        const auto document = fromJsonText(text);
        ASSERT_TRUE(document) << entry.path() << ": " << document.error().message;
        for (const CorrectionPtr& correction : (*document)->corrections) {
            for (const What what : {What::adjustments, What::parts, What::effect, What::mask, What::correction}) {
                if (what == What::parts && correction->mask.parts.empty()) continue;
                const std::string once = toJsonText(clipOf(*correction, what));
                const auto read = clipFromJsonText(once);
                ASSERT_TRUE(read) << entry.path() << ": " << read.error().message;
                EXPECT_EQ(toJsonText(*read), once) << entry.path() << " " << correction->name;
                ++count;
            }
        }
    }
    EXPECT_GT(count, 50);
}

// What an editor of text gives: a piece of document.json, as it stands there.
TEST(Clip, APieceOfADocumentIsTakenAsItStandsThere) {
    const auto whatOf = [](const char* text) {
        const auto clip = clipFromJsonText(text);
        return clip ? static_cast<int>(clip->what) : -1;
    };
    EXPECT_EQ(whatOf(R"({"kind": "light", "exposure": 1})"), static_cast<int>(What::adjustments));
    EXPECT_EQ(whatOf(R"([{"kind": "light"}, {"kind": "saturation"}])"), static_cast<int>(What::adjustments));
    EXPECT_EQ(whatOf(R"({"kind": "brush"})"), static_cast<int>(What::parts));
    EXPECT_EQ(whatOf(R"({"mask": {"starts": "everywhere"}})"), static_cast<int>(What::mask));
    EXPECT_EQ(whatOf(R"({"adjustments": [{"kind": "light"}]})"), static_cast<int>(What::effect));
    EXPECT_EQ(whatOf(R"({"id": 7, "counterpart-of": 7, "name": "A", "mask": {}, "adjustments": []})"),
              static_cast<int>(What::correction));
}

TEST(Clip, NoKindOfPartIsCalledLikeAnAdjustment) {
    for (const mask::ShapeKind* kind : mask::shapeKinds()) EXPECT_FALSE(adjust::findAdjustmentKind(kind->id));
}

TEST(Clip, AnyOtherTextIsRefusedInOneSentence) {
    for (const char* text :
         {"", "hello", "{", "[]", "{}", "[1]", "[[]]", "7", "null", R"({"kind": "nothing"})", R"({"kind": 3})",
          R"([{"kind": "light"}, {"kind": "brush"}])", R"({"kind": "light", "exposure": 99})", R"({"mask": 3})",
          R"({"adjustments": {}})", R"({"kind": "brush", "strokes": 5})",
          R"({"kind": "linear-gradient", "full": [0, 0], "none": [1, 1], "limit": {"kind": "brush"}})"}) {
        const auto clip = clipFromJsonText(text);
        ASSERT_FALSE(clip) << text;
        EXPECT_TRUE(clip.error().message.ends_with(".")) << clip.error().message;
    }
}

TEST(Clip, WhatBelongsToAPhotoOrADocumentStaysThere) {
    const DocumentPtr document = tests::documentOf(R"([
      {"id": 1, "name": "Lent", "mask": {"starts": "everywhere"}},
      {"id": 2, "name": "Borrows", "mask": {"parts": [{"kind": "borrowed", "from": 1}]},
       "adjustments": [{"kind": "noise", "measured": [[0, 1, 1, 1, 1, 1, 1, 1, 1, 1, 1, 1, 1, 1, 1, 1, 1, 1, 1]]}]}])");
    const Clip clip = clipOf(of(document, 2), What::correction);
    const auto lender = [](const Clip& c) {
        return dynamic_cast<const mask::BorrowedMask&>(*c.of.mask.parts[0]->shape).from();
    };
    EXPECT_EQ(lender(clip), 1);
    EXPECT_EQ(lender(forAnotherDocument(clip)), 0);
    EXPECT_EQ(forAnotherPhoto(clip).of.adjustments[0].settings,
              adjust::forAnotherPhoto(*clip.of.adjustments[0].kind, clip.of.adjustments[0].settings));
    // Within the document too, nothing comes to borrow its own mask.
    const DocumentPtr onItself = withMaskOf(*document, 1, of(document, 2).mask);
    EXPECT_EQ(dynamic_cast<const mask::BorrowedMask&>(*of(onItself, 1).mask.parts[0]->shape).from(), 0);
    EXPECT_FALSE(borrowsItself(*onItself));
    EXPECT_FALSE(borrowsItself(*withCopyOfMask(*document, 2, 1)));
    const Id part = of(document, 2).mask.parts[0]->id;
    EXPECT_FALSE(borrowsItself(*withCopyOfPart(*document, 2, part, 1).document));
}

TEST(Clip, NothingIsPutOnWhatIsNotThere) {
    const DocumentPtr document = two();
    for (const What what : {What::adjustments, What::parts, What::effect, What::mask}) {
        const Added added = withClip(*document, 99, clipOf(of(document, 1), what));
        EXPECT_EQ(added.id, 0);
        EXPECT_TRUE(isSame(*added.document, *document));
    }
}

// New parts stay within the mask that another lends.
TEST(MaskInside, PartsThatComeLaterStayWithinIt) {
    const DocumentPtr document = two();
    DocumentPtr inside = withMaskInside(*document, 2, 1);
    ASSERT_EQ(of(inside, 2).mask.parts.size(), 2u);
    inside = withNewPart(*inside, 2, std::make_shared<mask::Brush>(), mask::Combine::add).document;
    const auto& parts = of(inside, 2).mask.parts;
    ASSERT_EQ(parts.size(), 3u);
    EXPECT_EQ(&parts[1]->shape->kind(), &mask::Brush::kindInfo);
    EXPECT_EQ(&parts[2]->shape->kind(), &mask::BorrowedMask::kindInfo);
    EXPECT_EQ(parts[2]->combine, mask::Combine::overlap);
    EXPECT_TRUE(isSame(*withMaskInside(*inside, 1, 2), *inside)) << "each would need the other first";
    EXPECT_TRUE(isSame(*withMaskInside(*inside, 1, 1), *inside));
    EXPECT_TRUE(isSame(*withMaskInside(*inside, 1, 99), *inside));
    // What is solved along the edge is solved of all of it.
    const DocumentPtr solved =
        withNewPart(*inside, 2, mask::Brush::fineDetail.makeFor({}), mask::Combine::add).document;
    EXPECT_TRUE(of(solved, 2).mask.parts.back()->shape->isZone());
}

}  // namespace dimhem::document
