#include "core/task/masked_colours.h"

#include <gtest/gtest.h>

#include <cmath>
#include <cstring>
#include <numeric>

#include "core/adjust/spill_suppression.h"
#include "core/adjust/tint.h"
#include "core/colour/ciede2000.h"
#include "core/colour/hsl.h"
#include "core/colour/lab.h"
#include "core/colour/srgb.h"
#include "core/document/edits.h"
#include "core/task/probe.h"
#include "tests/support/documents.h"

namespace dimhem::task {

namespace {

// Left half one colour, right half another.
render::Renderer halves(const colour::EncodedRgb& left, const colour::EncodedRgb& right) {
    image::Photo photo;
    photo.samples = image::Samples({200, 100}, 3, image::SampleType::f32);
    for (int y = 0; y < 100; ++y) {
        auto* row = reinterpret_cast<float*>(photo.samples.row(y));
        for (int x = 0; x < 200; ++x) {
            const colour::EncodedRgb& c = x < 100 ? left : right;
            for (const double v : {c.r, c.g, c.b}) *row++ = static_cast<float>(v);
        }
    }
    return {*render::PhotoSource::make(std::make_shared<const image::Photo>(std::move(photo))),
            std::make_shared<render::TileCache>()};
}

// A correction on the left half, in the middle of three.
document::DocumentPtr onTheLeft(const std::string& adjustments) {
    return tests::documentOf(
        R"([{"name": "Below", "mask": {"starts": "everywhere"}, "adjustments": [{"kind": "light", "exposure": -1}]},
        {"name": "It", "mask": {"parts": [{"kind": "outline", "points": [[0, 0], [95, 0], [95, 100], [0, 100]]}]},
         "adjustments": )" +
        adjustments + R"(},
        {"name": "Above", "mask": {"starts": "everywhere"}, "adjustments": [{"kind": "light", "exposure": 3}]}])");
}

const colour::EncodedRgb warm{0.62, 0.5, 0.4}, cool{0.3, 0.35, 0.5};

}  // namespace

TEST(MaskedColours, AreThoseUnderTheMaskBeforeItAndAfter) {
    const render::Renderer renderer = halves(warm, cool);
    const auto document = onTheLeft(R"([{"kind": "light", "exposure": 1}])");
    const auto found = maskedColours(renderer, document, document->corrections[1]->id);
    ASSERT_TRUE(found);
    const auto expect = [](const Colours& got, double ev, double spread) {
        const colour::LinearRgb l = colour::linearFromEncoded(warm);
        const double k = std::exp2(ev);
        const colour::Lab lab = colour::labFromLinear({l.r * k, l.g * k, l.b * k});
        EXPECT_NEAR(got.lab.mean[0], lab.l, 0.3) << ev;
        EXPECT_NEAR(got.lab.mean[1], lab.a, 0.3) << ev;
        EXPECT_NEAR(got.lab.spread[0], 0, spread) << ev;
    };
    expect(found->before, -1, 0.1);  // as the one below leaves it
    expect(found->after, 0, 1.2);    // half covered at its edge; not as the one above makes it
    EXPECT_EQ(found->after.faultPct[1], 0);
    EXPECT_NEAR(std::accumulate(found->before.tones.begin(), found->before.tones.end(), 0.0), 95 * 100, 120);
}

TEST(MaskedColours, CountWhatIsClipped) {
    const render::Renderer renderer = halves(warm, cool);
    const auto document = onTheLeft(R"([{"kind": "light", "exposure": 4}])");
    const auto found = maskedColours(renderer, document, document->corrections[1]->id);
    EXPECT_EQ(found->before.faultPct[1], 0);
    EXPECT_NEAR(found->after.faultPct[1], 100, 1);
    EXPECT_NEAR(found->newlyPct[static_cast<std::size_t>(check::Fault::clipped)], 100, 1);
    EXPECT_FALSE(maskedColours(renderer, tests::documentOf(R"([{"id": 1}])"), 1)) << "an empty mask";
}

TEST(MaskedColours, LeaveOutWhatIsTransparent) {
    image::Photo photo;
    photo.samples = image::Samples({60, 40}, 4, image::SampleType::u8);
    for (int y = 0; y < 40; ++y) {
        for (int x = 0; x < 60; ++x) {
            const std::uint8_t pixel[] = {x < 20 ? std::uint8_t{200} : std::uint8_t{0}, 100, 0,
                                          x < 20 ? std::uint8_t{255} : std::uint8_t{0}};
            std::memcpy(photo.samples.row(y) + 4 * x, pixel, 4);
        }
    }
    const render::Renderer renderer(*render::PhotoSource::make(std::make_shared<const image::Photo>(std::move(photo))),
                                    std::make_shared<render::TileCache>());
    const auto all = tests::documentOf(R"([{"id": 1, "mask": {"starts": "everywhere"}},
        {"id": 2, "mask": {"parts": [{"kind": "outline", "points": [[30, 0], [60, 0], [60, 40], [30, 40]]}]}}])");
    const auto found = maskedColours(renderer, all, 1);
    ASSERT_TRUE(found);
    EXPECT_NEAR(found->before.lab.mean[0], colour::labFromEncoded({200 / 255.0, 100 / 255.0, 0}).l, 0.01);
    EXPECT_FALSE(maskedColours(renderer, all, 2)) << "only transparent pixels";
}

TEST(MaskedColours, MeasuredInARectangle) {
    const render::Renderer renderer = halves(warm, cool);
    const render::Sequence plain(tests::documentOf("[]"), {});
    const colour::Lab lab = colour::labFromEncoded(cool);
    const auto right = coloursIn(renderer, plain, {120, 10, 180, 90});
    ASSERT_TRUE(right);
    EXPECT_NEAR(right->mean[2], lab.b, 0.05);
    EXPECT_NEAR(right->spread[2], 0, 0.05);
    EXPECT_GT(coloursIn(renderer, plain, {50, 10, 150, 90})->spread[2], 5);
    EXPECT_FALSE(coloursIn(renderer, plain, {300, 10, 400, 90}));
}

TEST(MatchToArea, BringsTheMaskedAreaToTheReference) {
    const render::Renderer renderer = halves(warm, cool);
    const auto document = onTheLeft(R"([{"kind": "match-area", "tone": 100, "colour": 100}])");
    const document::Correction& it = *document->corrections[1];
    render::Comparison arriving;
    arriving.stopBefore = it.id;
    const auto own = maskedColours(renderer, document, it.id);
    const auto reference = coloursIn(renderer, render::Sequence(document, arriving), {120, 10, 180, 90});
    const auto matched = document::withAdjustment(*document, it.id, it.adjustments[0].id, [&](auto& use) {
        use.settings = adjust::matchArea.matching(use.settings, {120, 10, 180, 90}, own->before.lab, *reference);
    });
    const auto after = maskedColours(renderer, matched, it.id);
    const auto lab = [](const adjust::ColourSpread& s) { return colour::Lab{s.mean[0], s.mean[1], s.mean[2]}; };
    EXPECT_GT(colour::ciede2000(lab(own->before.lab), lab(*reference)), 10);
    EXPECT_LT(colour::ciede2000(lab(after->after.lab), lab(*reference)), 0.6);
}

TEST(Probe, FindsHuesOfAnArea) {
    const render::Renderer renderer = halves(colour::rgbFromHsl(352, 0.5, 0.5), {0.5, 0.5, 0.5});
    const render::Sequence plain(tests::documentOf("[]"), {});
    const auto red = huesIn(renderer, plain, {10, 10, 60, 60});
    ASSERT_TRUE(red);
    EXPECT_NEAR(red->middleDeg, 352, 0.1);
    EXPECT_LT(red->spreadDeg, 0.5);
    EXPECT_FALSE(huesIn(renderer, plain, {120, 10, 160, 60})) << "greys have no hue";
    EXPECT_FALSE(huesIn(renderer, plain, {-50, -50, -10, -10}));
}

TEST(CommonScreenHue, IsThatOfTheStrongestColour) {
    EXPECT_NEAR(*commonScreenHue(halves({0.1, 0.7, 0.2}, warm)), adjust::screenHueOf({0.1, 0.7, 0.2}), 0.5);
    EXPECT_FALSE(commonScreenHue(halves({0.5, 0.5, 0.5}, {0.52, 0.5, 0.5})));
}

}  // namespace dimhem::task
