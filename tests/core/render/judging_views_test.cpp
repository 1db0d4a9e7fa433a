// Views for judging: tones that shine, what is lost, one adjustment pushed, faint coverage counted three times.
#include <gtest/gtest.h>

#include <cmath>

#include "core/document/edits.h"
#include "core/render/renderer.h"
#include "tests/support/documents.h"
#include "tests/support/pictures.h"

namespace dimhem::render {

namespace {

constexpr base::Size size{200, 120};

// Dark on the left to light on the right.
Renderer ramp() {
    image::Photo photo;
    photo.samples = image::Samples(size, 3, image::SampleType::f32);
    for (int y = 0; y < size.height; ++y) {
        auto* row = reinterpret_cast<float*>(photo.samples.row(y));
        for (int x = 0; x < size.width; ++x) {
            for (int c = 0; c < 3; ++c) *row++ = static_cast<float>(x) / size.width;
        }
    }
    return {*PhotoSource::make(std::make_shared<const image::Photo>(std::move(photo))), std::make_shared<TileCache>()};
}

document::DocumentPtr lifted(const char* adjustments) {
    return tests::documentOf(
        std::string(
            R"([{"id": 1, "mask": {"parts": [{"kind": "outline", "points": [[0, 0], [200, 0], [200, 60], [0, 60]]}]},
                         "adjustments": [)") +
        adjustments + "]}]");
}

std::uint32_t shown(const Renderer& renderer, const document::DocumentPtr& document, const View& view, int x, int y) {
    const Sequence sequence(document, view.comparison);
    const auto tile = renderer.display(sequence, view, {base::rectOf(size), 0});
    return tile->row(y)[static_cast<std::size_t>(x)];
}

int red(std::uint32_t pixel) {
    return static_cast<int>(pixel >> 16 & 255);
}

bool isGrey(std::uint32_t pixel) {
    return (pixel & 255) == (pixel >> 8 & 255) && (pixel & 255) == (pixel >> 16 & 255);
}

}  // namespace

TEST(JudgingViews, TonesThatArePressedKeepTheirColourAndTheRestIsDark) {
    const Renderer renderer = ramp();
    const auto document = lifted(R"({"kind": "light", "exposure": 0})");
    View view;
    view.selected = 1;
    view.shine = {.of = Shine::Of::tones, .channel = Shine::Channel::red, .from = 0.4, .to = 0.6};
    EXPECT_NEAR(red(shown(renderer, document, view, 100, 30)), 128, 2);
    EXPECT_LT(red(shown(renderer, document, view, 190, 30)), 80) << "lighter, but not of these tones";
    view.shine.underMask = true;
    EXPECT_LT(red(shown(renderer, document, view, 100, 100)), 60) << "outside the mask";
    EXPECT_NEAR(red(shown(renderer, document, view, 100, 30)), 128, 2);
    view.shine = {.of = Shine::Of::tones, .from = 0.98, .to = 1.02};
    EXPECT_GT(red(shown(renderer, document, view, 199, 30)), 240) << "the ends take what lies beyond";
}

// The tones of the photo, or of what arrives at the correction, whatever is shown of them.
TEST(JudgingViews, TonesOfWhatArrivesShineWhereTheyCameFrom) {
    const Renderer renderer = ramp();
    const auto document = tests::documentOf(R"([
        {"id": 1, "mask": {"starts": "everywhere"}, "adjustments": [{"kind": "light", "exposure": 1}]},
        {"id": 2, "mask": {"starts": "everywhere"}, "adjustments": [{"kind": "light", "exposure": 1}]}])");
    View view;
    view.selected = 2;
    // Encoded values at the middle: 0.5 in the photo, about 0.69 after the first, 0.93 after both.
    const auto isLit = [&](Shine::Tones tones, double value) {
        view.shine = {.of = Shine::Of::tones, .channel = Shine::Channel::red, .from = value - .02, .to = value + .02};
        view.shine.tones = tones;
        return red(shown(renderer, document, view, 100, 30)) > 200;
    };
    EXPECT_TRUE(isLit(Shine::Tones::photo, 0.5));
    EXPECT_TRUE(isLit(Shine::Tones::arriving, 0.685));
    EXPECT_TRUE(isLit(Shine::Tones::shown, 0.93));
    EXPECT_FALSE(isLit(Shine::Tones::photo, 0.685));
    EXPECT_FALSE(isLit(Shine::Tones::arriving, 0.93));
    EXPECT_FALSE(isLit(Shine::Tones::shown, 0.5));
    // A grey's luminance, encoded, is what its channels are (IEC 61966-2-1).
    view.shine = {.of = Shine::Of::tones, .channel = Shine::Channel::luminance, .from = .48, .to = .52};
    view.shine.tones = Shine::Tones::photo;
    EXPECT_GT(red(shown(renderer, document, view, 100, 30)), 200);
    EXPECT_LT(red(shown(renderer, document, view, 150, 30)), 100);
}

TEST(JudgingViews, WhatIsLostShinesInItsColour) {
    const Renderer renderer = ramp();
    const auto document = lifted(R"({"kind": "light", "exposure": 1.5})");
    View view;
    view.selected = 1;
    view.shine = {.of = Shine::Of::lost};
    const auto lost = shown(renderer, document, view, 170, 30);
    EXPECT_EQ(lost >> 16 & 255, 240u) << "newly clipped";
    EXPECT_EQ(lost & 255, 66u);
    EXPECT_TRUE(isGrey(shown(renderer, document, view, 40, 30))) << "nothing is lost there";
    EXPECT_TRUE(isGrey(shown(renderer, document, view, 170, 100))) << "not under the mask";
    const auto darker = lifted(R"({"kind": "light", "black-point": 20})");
    EXPECT_EQ(shown(renderer, darker, view, 20, 30) >> 8 & 255, 158u) << "newly blocked";
    EXPECT_TRUE(isGrey(shown(renderer, darker, view, 0, 30))) << "black before";
    // By all: what another correction has lost counts too.
    const auto copied = document::withCopyOfCorrection(*document, 1);
    view.selected = copied.id;
    const auto byIt = shown(renderer, copied.document, view, 170, 30);
    EXPECT_TRUE(isGrey(byIt)) << "the first of the two has lost it";
    view.shine.byAll = true;
    EXPECT_EQ(shown(renderer, copied.document, view, 170, 30) >> 16 & 255, 240u);
}

TEST(JudgingViews, OneAdjustmentIsPushedAlone) {
    const Renderer renderer = ramp();
    const auto document = lifted(R"({"kind": "light", "exposure": 0.2}, {"kind": "light", "exposure": -0.1})");
    View view;
    view.selected = 1;
    const int plain = red(shown(renderer, document, view, 100, 30));
    view.pushedAdjustment = document->corrections[0]->adjustments[0].id;
    const int lighter = red(shown(renderer, document, view, 100, 30));
    view.pushedAdjustment = document->corrections[0]->adjustments[1].id;
    const int darker = red(shown(renderer, document, view, 100, 30));
    EXPECT_GT(lighter, plain + 10);
    EXPECT_LT(darker, plain - 4);
    // Three times the encoded difference it makes.
    Comparison without;
    without.adjustmentOff = document->corrections[0]->adjustments[0].id;
    View off;
    off.comparison = without;
    const int before = red(shown(renderer, document, off, 100, 30));
    EXPECT_NEAR(lighter, before + pushFactor * (plain - before), 3);
    EXPECT_EQ(red(shown(renderer, document, view, 100, 100)), red(shown(renderer, document, {}, 100, 100)))
        << "outside the mask nothing changes";
}

TEST(JudgingViews, FaintCoverageIsCountedThreeTimes) {
    const Renderer renderer = ramp();
    const auto document = tests::documentOf(
        R"([{"id": 1, "mask": {"parts": [{"kind": "outline", "opacity": 10, "points": [[0, 0], [200, 0], [200, 60], [0, 60]]}]}}])");
    View view;
    view.selected = 1;
    view.maskView = MaskView::plate;
    EXPECT_NEAR(red(shown(renderer, document, view, 100, 30)), 25.5, 1.5);
    view.maskGain = pushFactor;
    EXPECT_NEAR(red(shown(renderer, document, view, 100, 30)), 76.5, 2.5);
    EXPECT_EQ(red(shown(renderer, document, view, 100, 100)), 0);
}

}  // namespace dimhem::render
