// Each note on a made picture where it must be said, and on one much like it where it must not.
#include "core/task/notes.h"

#include <gtest/gtest.h>

#include <cmath>
#include <functional>
#include <random>

#include "core/document/edits.h"
#include "tests/support/documents.h"

namespace dimhem::task {

namespace {

using colour::EncodedRgb;

constexpr base::Size size{360, 240};

render::Renderer pictureOf(const std::function<EncodedRgb(int, int)>& colourAt) {
    image::Photo photo;
    photo.samples = image::Samples(size, 3, image::SampleType::f32);
    for (int y = 0; y < size.height; ++y) {
        auto* row = reinterpret_cast<float*>(photo.samples.row(y));
        for (int x = 0; x < size.width; ++x) {
            const EncodedRgb c = colourAt(x, y);
            for (const double v : {c.r, c.g, c.b}) *row++ = static_cast<float>(v);
        }
    }
    return {*render::PhotoSource::make(std::make_shared<const image::Photo>(std::move(photo))),
            std::make_shared<render::TileCache>()};
}

render::Renderer plain(const EncodedRgb& colour) {
    return pictureOf([=](int, int) { return colour; });
}

// One correction: a soft outline in the middle of the picture, wide enough to make no seam.
document::DocumentPtr inTheMiddle(const std::string& adjustments, const std::string& feather = "60") {
    return tests::documentOf(
        R"([{"id": 1, "name": "It", "mask": {"parts": [{"kind": "outline", "feather": )" + feather +
        R"(, "points": [[90, 60], [270, 60], [270, 180], [90, 180]]}]}, "adjustments": [)" + adjustments + "]}]");
}

std::optional<Note> noteOf(const render::Renderer& renderer, const document::DocumentPtr& document, NoteKind kind) {
    for (const Note& note : notesOf(renderer, document)) {
        if (note.kind == kind) return note;
    }
    return std::nullopt;
}

std::string namesOf(const std::vector<Note>& notes) {
    std::string names;
    for (const Note& note : notes) names += std::string(document::idOf(note.kind)) + " ";
    return names;
}

// The note is said at its strength, its ease is below that, and at the ease nothing is said, just above it is.
void expectEase(const render::Renderer& renderer, const document::DocumentPtr& document, const Note& note) {
    const auto ease = easeOf(renderer, document, note);
    ASSERT_TRUE(ease) << document::idOf(note.kind);
    EXPECT_LT(*ease, 100);
    const auto at = [&](double strengthPct) {
        const auto eased = document::withCorrection(*document, note.correction,
                                                    [=](document::Correction& c) { c.strengthPct = strengthPct; });
        return noteOf(renderer, eased, note.kind).has_value();
    };
    EXPECT_FALSE(at(*ease)) << document::idOf(note.kind) << " at " << *ease;
    EXPECT_TRUE(at(*ease + 1)) << document::idOf(note.kind) << " at " << *ease + 1;
}

}  // namespace

TEST(Notes, AGentleCorrectionHasNone) {
    const auto document = inTheMiddle(R"({"kind": "light", "exposure": 0.3})");
    EXPECT_EQ(namesOf(notesOf(plain({0.5, 0.45, 0.4}), document)), "");
    EXPECT_EQ(namesOf(notesOf(plain({0.5, 0.45, 0.4}), tests::documentOf("[]"))), "");
}

TEST(Notes, NewlyClipped) {
    const auto document = inTheMiddle(R"({"kind": "light", "exposure": 1.6})");
    const render::Renderer bright = plain({0.75, 0.7, 0.7});
    const auto note = noteOf(bright, document, NoteKind::clipped);
    ASSERT_TRUE(note);
    EXPECT_GT(note->amount, 20);
    EXPECT_TRUE((base::Rect{60, 30, 300, 210}).contains(note->place.x0, note->place.y0)) << "where there is most";
    expectEase(bright, document, *note);
    EXPECT_FALSE(noteOf(plain({0.4, 0.35, 0.3}), document, NoteKind::clipped)) << "room enough above it";
    EXPECT_FALSE(noteOf(plain({1, 1, 1}), document, NoteKind::clipped)) << "clipped before: not its doing";
}

TEST(Notes, NewlyBlocked) {
    const auto document = inTheMiddle(R"({"kind": "light", "black-point": 10})");
    const render::Renderer dark = plain({0.06, 0.05, 0.05});
    const auto note = noteOf(dark, document, NoteKind::blocked);
    ASSERT_TRUE(note);
    expectEase(dark, document, *note);
    EXPECT_FALSE(noteOf(plain({0.4, 0.4, 0.4}), document, NoteKind::blocked));
    EXPECT_FALSE(noteOf(plain({0, 0, 0}), document, NoteKind::blocked)) << "black before";
}

TEST(Notes, StrongerThanTheProfileHolds) {
    const auto document = inTheMiddle(R"({"kind": "saturation", "amount": 100, "guard": false})");
    const render::Renderer strong = plain({0.62, 0.35, 0.18});
    const auto found = notesOf(strong, document);
    SCOPED_TRACE(namesOf(found));
    const auto note = noteOf(strong, document, NoteKind::outside);
    ASSERT_TRUE(note);
    expectEase(strong, document, *note);
    EXPECT_FALSE(noteOf(plain({0.5, 0.48, 0.46}), document, NoteKind::outside));
}

TEST(Notes, GreyedAndPastNeutral) {
    const EncodedRgb yellowed{0.72, 0.7, 0.6};
    const render::Renderer keys = plain(yellowed);
    const auto grey = inTheMiddle(R"({"kind": "saturation", "amount": -100})", "1");
    const auto note = noteOf(keys, grey, NoteKind::greyed);
    ASSERT_TRUE(note) << namesOf(notesOf(keys, grey));
    EXPECT_GT(note->before, 5);
    EXPECT_LT(note->amount, 1);
    expectEase(keys, grey, *note);
    EXPECT_FALSE(noteOf(keys, inTheMiddle(R"({"kind": "saturation", "amount": -60})", "1"), NoteKind::greyed))
        << "a touch of colour is left";
    EXPECT_FALSE(noteOf(plain({0.7, 0.7, 0.695}), grey, NoteKind::greyed)) << "it had none before";

    const auto cooled = inTheMiddle(R"({"kind": "white-balance", "temperature": 4000})", "1");
    const auto beyond = noteOf(keys, cooled, NoteKind::overshot);
    ASSERT_TRUE(beyond) << namesOf(notesOf(keys, cooled));
    expectEase(keys, cooled, *beyond);
    EXPECT_FALSE(
        noteOf(keys, inTheMiddle(R"({"kind": "white-balance", "temperature": 6300})", "1"), NoteKind::overshot));
    EXPECT_FALSE(noteOf(plain({0.9, 0.55, 0.1}), inTheMiddle(R"({"kind": "white-balance", "temperature": 2500})", "1"),
                        NoteKind::overshot))
        << "a strong colour is no cast";
}

TEST(Notes, StrongerThanInksHold) {
    const auto document = inTheMiddle(R"({"kind": "saturation", "amount": 80, "guard": false})", "1");
    const render::Renderer green = plain({0.25, 0.62, 0.2});
    const auto note = noteOf(green, document, NoteKind::beyondPrint);
    ASSERT_TRUE(note) << namesOf(notesOf(green, document));
    expectEase(green, document, *note);
    EXPECT_FALSE(noteOf(plain({0.45, 0.5, 0.42}), document, NoteKind::beyondPrint));
    EXPECT_FALSE(noteOf(plain({0, 1, 0}), document, NoteKind::beyondPrint)) << "it was so before";
}

TEST(Notes, CorrectionsThatPullAgainstEachOther) {
    const auto two = [](const char* first, const char* second) {
        return tests::documentOf(
            std::string(R"([{"id": 1, "name": "Sky", "mask": {"starts": "everywhere"}, "adjustments": [)") + first +
            R"(]}, {"id": 2, "name": "Tower", "mask": {"parts": [{"kind": "linear-gradient", "full": [0, 0], "none": [0, 240]}]}, "adjustments": [)" +
            second + "]}]");
    };
    const char *darker = R"({"kind": "light", "exposure": -0.8})", *lighter = R"({"kind": "light", "exposure": 0.7})",
               *warmer = R"({"kind": "white-balance", "temperature": 7500})";
    const render::Renderer grey = plain({0.5, 0.5, 0.5});
    const auto document = two(darker, lighter);
    const auto note = noteOf(grey, document, NoteKind::opposed);
    ASSERT_TRUE(note);
    EXPECT_EQ(note->correction, 2);
    EXPECT_EQ(note->other, 1);
    EXPECT_GT(note->amount, 80) << "of the weaker of the two";
    expectEase(grey, document, *note);
    EXPECT_FALSE(noteOf(grey, two(darker, darker), NoteKind::opposed));
    EXPECT_FALSE(noteOf(grey, two(darker, warmer), NoteKind::opposed)) << "tone and colour are two things";
}

TEST(Notes, MasksThatCoverNothingOrAll) {
    const render::Renderer grey = plain({0.5, 0.5, 0.5});
    const char* light = R"("adjustments": [{"kind": "light", "exposure": 0.3}])";
    const auto masked = [&](const std::string& mask) {
        return tests::documentOf(R"([{"id": 1, "mask": )" + mask + ", " + light + "}]");
    };
    const auto empty = masked(R"({"parts": [{"kind": "brush", "strokes": []}]})");
    const auto note = noteOf(grey, empty, NoteKind::emptyMask);
    ASSERT_TRUE(note);
    EXPECT_FALSE(easeOf(grey, empty, *note)) << "no strength cures it";
    EXPECT_FALSE(noteOf(grey, masked(R"({"parts": []})"), NoteKind::emptyMask)) << "only begun";
    EXPECT_TRUE(noteOf(grey, masked(R"({"starts": "everywhere", "parts": [{"kind": "brush", "strokes": []}]})"),
                       NoteKind::fullMask));
    EXPECT_FALSE(noteOf(grey, masked(R"({"starts": "everywhere"})"), NoteKind::fullMask)) << "meant to be so";
    EXPECT_FALSE(noteOf(grey, masked(R"({"starts": "everywhere", "parts": [{"kind": "brush", "combine": "subtract",
                                  "strokes": [{"size": 40, "points": [[50, 50]]}]}]})"),
                        NoteKind::fullMask));
}

TEST(Notes, AMaskMovedByWhatComesBeforeIt) {
    // Tones from dark to light; the mask takes the light ones as they arrive.
    const render::Renderer ramp = pictureOf([](int x, int) {
        const double v = 0.1 + 0.8 * x / size.width;
        return EncodedRgb{v, v, v};
    });
    const auto document = [](const char* exposure, const char* measured) {
        return tests::documentOf(
            std::string(
                R"([{"id": 1, "mask": {"starts": "everywhere"}, "adjustments": [{"kind": "light", "exposure": )") +
            exposure +
            R"(}]}, {"id": 2, "mask": {"parts": [{"kind": "luminosity-range", "tones": [60, 70, 100, 100], "measured": ")" +
            measured + R"("}]}, "adjustments": [{"kind": "light", "contrast": 10}]}])");
    };
    const auto note = noteOf(ramp, document("-1.2", "arriving"), NoteKind::movedMask);
    ASSERT_TRUE(note);
    EXPECT_EQ(note->correction, 2);
    EXPECT_GT(note->amount, 40);
    EXPECT_FALSE(noteOf(ramp, document("-0.05", "arriving"), NoteKind::movedMask));
    EXPECT_FALSE(noteOf(ramp, document("-1.2", "photo"), NoteKind::movedMask));
}

TEST(Notes, AnAdjustmentWithoutEffect) {
    const char* greens = R"({"kind": "hue-bands", "bands": [[60, 90, 150, 180, 0, -60, 0, 0, 0]]})";
    const auto document = inTheMiddle(std::string(R"({"kind": "light", "exposure": 0.3}, )") + greens);
    const auto note = noteOf(plain({0.7, 0.4, 0.3}), document, NoteKind::noEffect);
    ASSERT_TRUE(note) << namesOf(notesOf(plain({0.7, 0.4, 0.3}), document));
    EXPECT_EQ(note->other, document->corrections[0]->adjustments[1].id);
    EXPECT_FALSE(noteOf(plain({0.3, 0.7, 0.3}), document, NoteKind::noEffect));
}

TEST(Notes, GainOnNoise) {
    const auto noisy = [](double sigma) {
        std::mt19937 random(11);
        std::normal_distribution<double> noise(0, sigma / 255);
        std::vector<double> values(static_cast<std::size_t>(size.width * size.height));
        for (double& v : values) v = noise(random);
        return pictureOf([values](int x, int y) {
            const double v = 0.25 + values[static_cast<std::size_t>(y * size.width + x)];
            return EncodedRgb{v, v, v};
        });
    };
    const auto lifted = [](const char* exposure) {
        return tests::documentOf(
            std::string(
                R"([{"id": 1, "mask": {"starts": "everywhere"}, "adjustments": [{"kind": "light", "exposure": )") +
            exposure + "}]}]");
    };
    const auto document = lifted("2.2");
    const render::Renderer night = noisy(4);
    const auto note = noteOf(night, document, NoteKind::noise);
    ASSERT_TRUE(note) << namesOf(notesOf(night, document));
    EXPECT_NEAR(note->before, 4, 0.8) << "sigma in levels of 255";
    EXPECT_GT(note->amount, note->before * 1.5);
    expectEase(night, document, *note);
    EXPECT_FALSE(noteOf(noisy(0.6), document, NoteKind::noise));
    EXPECT_FALSE(noteOf(night, lifted("-0.3"), NoteKind::noise));
}

TEST(Notes, ASeamInASmoothTone) {
    const render::Renderer sky = pictureOf([](int, int y) {
        const double v = 0.5 + 0.2 * y / size.height;
        return EncodedRgb{v * 0.9, v, v * 1.1};
    });
    const auto hard = inTheMiddle(R"({"kind": "light", "exposure": -0.7})", "0");
    const auto note = noteOf(sky, hard, NoteKind::seam);
    ASSERT_TRUE(note) << namesOf(notesOf(sky, hard));
    expectEase(sky, hard, *note);
    EXPECT_FALSE(noteOf(sky, inTheMiddle(R"({"kind": "light", "exposure": -0.7})", "60"), NoteKind::seam))
        << "feathered";
    // The same hard mask on the edge of a thing.
    const render::Renderer thing = pictureOf([](int x, int y) {
        const bool inside = x >= 90 && x < 270 && y >= 60 && y < 180;
        return inside ? EncodedRgb{0.3, 0.25, 0.2} : EncodedRgb{0.7, 0.75, 0.8};
    });
    EXPECT_FALSE(noteOf(thing, hard, NoteKind::seam));
}

TEST(Notes, TheWeightiestComesFirstAndStoppingIsNoAnswer) {
    const auto document = inTheMiddle(R"({"kind": "light", "exposure": 1.6})", "0");
    const render::Renderer bright = plain({0.75, 0.7, 0.7});
    const auto notes = notesOf(bright, document);
    ASSERT_GT(notes.size(), 1u) << namesOf(notes);
    for (std::size_t i = 1; i < notes.size(); ++i) EXPECT_GE(notes[i - 1].weight, notes[i].weight);
    base::CancelSource cancel;
    cancel.cancel();
    EXPECT_THROW((void)notesOf(bright, document, cancel.token()), base::Cancelled);
    EXPECT_THROW((void)easeOf(bright, document, notes.front(), cancel.token()), base::Cancelled);
}

TEST(Notes, ACorrectionThatIsOffHasNone) {
    const auto document = inTheMiddle(R"({"kind": "light", "exposure": 3})", "0");
    const auto off = document::withCorrection(*document, 1, [](document::Correction& c) { c.enabled = false; });
    EXPECT_EQ(namesOf(notesOf(plain({0.7, 0.7, 0.7}), off)), "");
}

// Whatever was looked at before, the notes are those of the version alone.
TEST(Notes, WhatIsRememberedChangesNothing) {
    const render::Renderer picture = pictureOf([](int x, int y) {
        const double v = 0.2 + 0.6 * x / size.width;
        return EncodedRgb{v, 0.9 * v, 0.8 * v + 0.1 * y / size.height};
    });
    document::DocumentPtr document = tests::documentOf(R"([
        {"id": 1, "mask": {"starts": "everywhere"}, "adjustments": [{"kind": "light", "exposure": -0.8}]},
        {"id": 2, "mask": {"parts": [{"kind": "luminosity-range", "tones": [50, 60, 100, 100], "measured": "arriving"}]},
         "adjustments": [{"kind": "light", "exposure": 0.9}]},
        {"id": 3, "mask": {"parts": [{"kind": "borrowed", "from": 4}]}, "adjustments": [{"kind": "light", "exposure": 0.4}]},
        {"id": 4, "mask": {"parts": [{"kind": "outline", "points": [[20, 20], [200, 20], [200, 200], [20, 200]]}]},
         "adjustments": [{"kind": "light", "exposure": 1.5}]}])");
    NotesMemory memory;
    std::mt19937 random(3);
    std::size_t most = 0;
    for (int step = 0; step < 12; ++step) {
        const auto remembered = notesOf(picture, document, {}, &memory);
        EXPECT_EQ(remembered, notesOf(picture, document)) << "step " << step;
        most = std::max(most, remembered.size());
        const document::Id id = 1 + static_cast<document::Id>(random() % 4);
        switch (random() % 4) {
            case 0: document = document::withCorrectionMoved(*document, id, random() % 4); break;
            case 1:
                document =
                    document::withCorrection(*document, id, [](document::Correction& c) { c.enabled = !c.enabled; });
                break;
            default:
                document = document::withCorrection(*document, id, [&](document::Correction& c) {
                    c.strengthPct = static_cast<double>(20 + random() % 80);
                });
        }
    }
    EXPECT_GT(most, 1u) << "there is something to remember";
}

}  // namespace dimhem::task
