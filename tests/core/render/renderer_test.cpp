#include "core/render/renderer.h"

#include <gtest/gtest.h>

#include <chrono>
#include <mutex>
#include <thread>

#include "core/colour/ciede2000.h"
#include "core/colour/lab.h"
#include "core/colour/srgb.h"
#include "core/document/edits.h"
#include "core/image/tiles.h"
#include "core/render/frame.h"
#include "tests/support/documents.h"
#include "tests/support/pictures.h"
#include "tests/support/rendered.h"

namespace dimhem::render {

namespace {

using tests::assembled;
using tests::sameBits;

constexpr base::Size photoSize{403, 301};

std::shared_ptr<const PhotoSource> sourceOf(const std::shared_ptr<const image::Photo>& photo,
                                            const base::Workers& workers = {}) {
    return *PhotoSource::make(photo, workers);
}

Renderer freshRenderer(const std::shared_ptr<const PhotoSource>& source) {
    return Renderer(source, std::make_shared<TileCache>());
}

colour::EncodedRgb pixel(const image::EncodedPlanes& planes, int x, int y) {
    const auto c = static_cast<std::size_t>(x);
    return {planes.red.row(y)[c], planes.green.row(y)[c], planes.blue.row(y)[c]};
}

}  // namespace

TEST(Renderer, AnyTileSizeAndNumberOfWorkersGivesTheSameBits) {
    const auto source = sourceOf(tests::sharedPhoto(photoSize));
    const auto document = tests::threeCorrections();
    for (const int level : {0, 1, 3}) {
        const Renderer one = freshRenderer(source);
        const image::EncodedPlanes reference = assembled(one, document, level, 4096, {1, {}});
        for (const int tilePx : {16, 61, 128, 256}) {
            for (const int workers : {1, 2, 7}) {
                std::mutex mutex;
                std::mt19937 random(static_cast<std::uint32_t>(tilePx + workers));
                const auto shake = [&](std::size_t) {
                    const std::lock_guard lock(mutex);
                    if (random() % 8 == 0) std::this_thread::sleep_for(std::chrono::microseconds(random() % 300));
                };
                const Renderer renderer = freshRenderer(source);
                EXPECT_TRUE(sameBits(reference, assembled(renderer, document, level, tilePx, {workers, shake})))
                    << "level " << level << ", tile " << tilePx << ", " << workers << " workers";
            }
        }
    }
}

TEST(Renderer, TheLevelsOfThePhotoDoNotDependOnWorkers) {
    const auto photo = tests::sharedPhoto({700, 530});
    const auto one = sourceOf(photo, {1, {}}), many = sourceOf(photo, {5, {}});
    for (int level = 1; level < one->levels(); ++level) {
        const base::Rect all = base::rectOf(image::levelSize(photo->size(), level));
        image::EncodedPlanes a(all.size()), b(all.size());
        one->read(all, level, a);
        many->read(all, level, b);
        EXPECT_TRUE(sameBits(a, b)) << level;
    }
}

TEST(Renderer, WhatTheCacheHoldsChangesNothing) {
    const auto source = sourceOf(tests::sharedPhoto(photoSize));
    const auto document = tests::threeCorrections();
    const Renderer fresh = freshRenderer(source), used = freshRenderer(source),
                   starved(source, std::make_shared<TileCache>(1000));
    const image::EncodedPlanes reference = assembled(fresh, document, 0, 128, {1, {}});
    for (const auto& correction : document->corrections) {
        assembled(used, document, 0, 128, {}, correction->id);  // keeps the picture below each in turn
        EXPECT_TRUE(sameBits(reference, assembled(used, document, 0, 128, {}, correction->id)));
        EXPECT_TRUE(sameBits(reference, assembled(starved, document, 0, 128, {}, correction->id)));
    }
    EXPECT_LT(starved.cache().bytes(), 400'000u);
}

// Nothing that a change of any member makes different may be found in the cache as it was before.
TEST(Renderer, ACacheThatHasSeenAllVersionsShowsEachAsAFreshOne) {
    using document::Correction;
    const auto source = sourceOf(tests::sharedPhoto(photoSize));
    const auto begun = tests::threeCorrections();
    const document::Id id = begun->corrections[0]->id;
    const mask::PartId part = begun->corrections[0]->mask.parts[1]->id;
    const auto changed = [&](const std::function<void(Correction&)>& change) {
        return document::withCorrection(*begun, id, change);
    };
    const auto partChanged = [&](const std::function<void(mask::Part&)>& change) {
        return document::withPart(*begun, id, part, change);
    };
    const document::DocumentPtr versions[] = {
        begun,
        changed([](Correction& c) { c.strengthPct = 40; }),
        changed([](Correction& c) { c.blend = kernel::BlendMode::multiply; }),
        changed([](Correction& c) { c.blend = kernel::BlendMode::luminosity; }),
        changed([](Correction& c) { c.mixing = kernel::MixingLaw::light; }),
        changed([](Correction& c) { c.mixing = kernel::MixingLaw::shadow; }),
        changed([](Correction& c) { c.cleanEdge = true; }),
        changed([](Correction& c) { c.enabled = false; }),
        changed([](Correction& c) { c.mask.inverted = true; }),
        changed([](Correction& c) { c.mask.startsEverywhere = true; }),
        changed([](Correction& c) { c.mask.refine.featherPx = 12; }),
        changed([](Correction& c) { c.mask.refine.expandPx = -6; }),
        changed([](Correction& c) { c.adjustments[0].enabled = false; }),
        changed([](Correction& c) { c.adjustments[0].settings.values[0] = 1.5; }),
        partChanged([](mask::Part& p) { p.opacityPct = 30; }),
        partChanged([](mask::Part& p) { p.flipped = true; }),
        partChanged([](mask::Part& p) { p.enabled = false; }),
        partChanged([](mask::Part& p) { p.combine = mask::Combine::add; }),
        partChanged([](mask::Part& p) { p.combine = mask::Combine::overlap; }),
        document::withCorrectionMoved(*begun, id, 2),
        document::withoutCorrection(*begun, id),
    };
    const Renderer used = freshRenderer(source);
    std::vector<image::EncodedPlanes> seen;
    for (const int round : {0, 1}) {
        for (std::size_t i = 0; i < std::size(versions); ++i) {
            image::EncodedPlanes picture = assembled(used, versions[i], 0, 128, {});
            const Renderer fresh = freshRenderer(source);
            EXPECT_TRUE(sameBits(picture, assembled(fresh, versions[i], 0, 128, {}))) << i << ", round " << round;
            if (round == 0 && i > 0) {
                EXPECT_FALSE(sameBits(picture, seen[0])) << i << " changes nothing";
            }
            if (round == 0) seen.push_back(std::move(picture));
        }
    }
}

// Corrections that cover everything leave pixels in linear light for their neighbours: neither tiles, nor what is kept
// below the one that is edited, nor a mask that looks at what arrives between them may change a bit.
TEST(Renderer, NeighboursInLinearLightGiveTheSameBitsHoweverTheyAreCut) {
    const auto source = sourceOf(tests::sharedPhoto(photoSize));
    const std::string everywhere = R"("mask": {"starts": "everywhere", "parts": []})";
    const auto document = tests::documentOf(
        "[{" + everywhere + R"(, "adjustments": [{"kind": "light", "exposure": 0.4}]}, {)" + everywhere +
        R"(, "adjustments": [{"kind": "white-balance", "temperature": 5200},
                             {"kind": "saturation", "amount": 30}]},
            {"mask": {"parts": [{"kind": "luminosity-range", "tones": [10, 30, 60, 90], "measured": "arriving"}]},
             "adjustments": [{"kind": "tone-curve", "luminance": [[0, 0], [30, 40], [100, 100]]}]}, {)" +
        everywhere + R"(, "adjustments": [{"kind": "tint", "strength": 10}, {"kind": "white-balance", "tint": 9}]}])");
    const image::EncodedPlanes reference = assembled(freshRenderer(source), document, 0, 4096, {1, {}});
    for (const int tilePx : {31, 128}) {
        const Renderer renderer = freshRenderer(source);
        for (const auto& correction : document->corrections) {
            EXPECT_TRUE(sameBits(reference, assembled(renderer, document, 0, tilePx, {2, {}}, correction->id)))
                << tilePx << ", editing " << correction->id;
        }
    }
}

TEST(Renderer, AreasNoMaskTouchesAreThePhotoItself) {
    const auto source = sourceOf(tests::sharedPhoto(photoSize));
    const Renderer renderer = freshRenderer(source);
    const auto document =
        tests::documentOf(R"([{"mask": {"parts": [{"kind": "brush", "strokes": [{"size": 50, "points": [[60, 60]]}]}]},
        "adjustments": [{"kind": "light", "exposure": 2}]}])");
    const Sequence sequence(document, {});
    image::EncodedPlanes near({128, 128}), far({128, 128}), photo({128, 128});
    EXPECT_TRUE(renderer.picture(sequence, {{0, 0, 128, 128}, 0}, near));
    EXPECT_FALSE(renderer.picture(sequence, {{128, 128, 256, 256}, 0}, far));
    source->read({128, 128, 256, 256}, 0, photo);
    EXPECT_TRUE(sameBits(far, photo));
    // Within the touched area, pixels of no coverage keep their bits too.
    source->read({0, 0, 128, 128}, 0, photo);
    EXPECT_EQ(pixel(near, 120, 120).r, pixel(photo, 120, 120).r);
    EXPECT_NE(pixel(near, 60, 60).r, pixel(photo, 60, 60).r);
}

TEST(Renderer, NeutralCorrectionsLeaveEveryBit) {
    const auto source = sourceOf(tests::sharedPhoto(photoSize, 3, image::SampleType::u16));
    const Renderer renderer = freshRenderer(source);
    const auto document = tests::documentOf(
        R"([{"mask": {"starts": "everywhere"}, "adjustments": [{"kind": "light"}, {"kind": "white-balance"}]}])");
    image::EncodedPlanes out(photoSize), photo(photoSize);
    EXPECT_FALSE(renderer.picture(Sequence(document, {}), {base::rectOf(photoSize), 0}, out));
    source->read(base::rectOf(photoSize), 0, photo);
    EXPECT_TRUE(sameBits(out, photo));
}

TEST(Renderer, FitAgreesWithTheFullPictureScaledDown) {
    const auto source = sourceOf(tests::sharedPhoto({640, 480}));
    const Renderer renderer = freshRenderer(source);
    const auto document = tests::threeCorrections();
    const image::EncodedPlanes full = assembled(renderer, document, 0, 128, {}),
                               fit = assembled(renderer, document, 2, 128, {});
    double sum = 0;
    for (int y = 0; y < 120; ++y) {
        for (int x = 0; x < 160; ++x) {
            colour::LinearRgb mean;
            for (int i = 0; i < 16; ++i) {
                const auto linear = colour::linearFromEncoded(pixel(full, 4 * x + i % 4, 4 * y + i / 4));
                mean = {mean.r + linear.r / 16, mean.g + linear.g / 16, mean.b + linear.b / 16};
            }
            sum += colour::ciede2000(colour::labFromLinear(mean), colour::labFromEncoded(pixel(fit, x, y)));
        }
    }
    std::printf("mean CIEDE2000 between fit and full, scaled down: %.4f\n", sum / (120 * 160));
    EXPECT_LT(sum / (120 * 160), 0.5);
}

TEST(Renderer, ComparisonsLeaveOutWhatTheySay) {
    const auto source = sourceOf(tests::sharedPhoto(photoSize));
    const Renderer renderer = freshRenderer(source);
    const auto document = tests::threeCorrections();
    const auto render = [&](const Comparison& comparison, const document::DocumentPtr& d) {
        image::EncodedPlanes out(photoSize);
        renderer.picture(Sequence(d, comparison), {base::rectOf(photoSize), 0}, out);
        return out;
    };
    const document::Id second = document->corrections[1]->id;
    Comparison without;
    without.without = second;
    EXPECT_TRUE(sameBits(render(without, document), render({}, document::withoutCorrection(*document, second))));
    Comparison stop;
    stop.stopBefore = second;
    const auto first =
        document::withoutCorrection(*document::withoutCorrection(*document, second), document->corrections[2]->id);
    EXPECT_TRUE(sameBits(render(stop, document), render({}, first)));
    Comparison off;
    off.allOff = true;
    image::EncodedPlanes photo(photoSize);
    source->read(base::rectOf(photoSize), 0, photo);
    EXPECT_TRUE(sameBits(render(off, document), photo));
    Comparison push;
    push.pushed = document->corrections[2]->id;  // everywhere at 15 %
    const auto plain = render({}, document), pushed = render(push, document),
               rest = render({}, document::withoutCorrection(*document, document->corrections[2]->id));
    EXPECT_NEAR(pixel(pushed, 5, 290).g - pixel(rest, 5, 290).g, 3 * (pixel(plain, 5, 290).g - pixel(rest, 5, 290).g),
                1e-5);
}

TEST(Renderer, MaskViewsShowTheMask) {
    const auto source = sourceOf(tests::sharedPhoto(photoSize));
    const Renderer renderer = freshRenderer(source);
    const auto document = tests::documentOf(
        R"([{"thread": "orange", "mask": {"parts": [{"kind": "brush", "strokes": [{"size": 80, "softness": 0, "points": [[60, 60]]}]}]},
        "adjustments": [{"kind": "light", "exposure": 2}]}])");
    View view;
    view.selected = document->corrections[0]->id;
    const Sequence sequence(document, {});
    const mask::Area area{{0, 0, 128, 128}, 0};
    view.maskView = MaskView::plate;
    const auto plate = renderer.display(sequence, view, area);
    EXPECT_EQ(plate->row(60)[60], 0xffffffffu);
    EXPECT_EQ(plate->row(120)[120], 0xff000000u);
    view.maskView = MaskView::tint;
    view.tintOpacity = 1;
    EXPECT_EQ(renderer.display(sequence, view, area)->row(60)[60], 0xffe69f00u);  // the whole thread colour
    view.maskView = MaskView::cutOut;
    const auto cut = renderer.display(sequence, view, area);
    EXPECT_EQ(cut->row(120)[120], 0xff525252u);
    EXPECT_NE(cut->row(60)[60], 0xff525252u);
}

TEST(Renderer, TransparentPartsShowTheWeave) {
    const auto source = sourceOf(tests::sharedPhoto({256, 64}, 4));
    const Renderer renderer = freshRenderer(source);
    const auto tile = renderer.display(Sequence(tests::documentOf("[]"), {}), {}, {{0, 0, 256, 64}, 0});
    const std::uint32_t left = tile->row(3)[0];
    EXPECT_EQ((left >> 16) & 0xff, left & 0xff);  // alpha 0 at the left end: the weave alone, grey
    EXPECT_NE((tile->row(3)[250] >> 16) & 0xff, tile->row(3)[250] & 0xff);
}

TEST(RenderFrame, GivesEachVisibleTileOnceAndStopsWhenCancelled) {
    const auto source = sourceOf(tests::sharedPhoto(photoSize));
    const Renderer renderer = freshRenderer(source);
    FrameRequest request;
    request.document = tests::threeCorrections();
    request.rect = {100, 0, 300, 301};
    std::mutex mutex;
    std::vector<base::Rect> tiles;
    const auto collect = [&](const base::Rect& rect, const auto& tile) {
        const std::lock_guard lock(mutex);
        EXPECT_EQ(tile->size(), rect.size());
        tiles.push_back(rect);
    };
    EXPECT_TRUE(renderFrame(renderer, request, {}, {}, collect));
    EXPECT_EQ(tiles.size(), 9u);
    base::CancelSource cancelled;
    cancelled.cancel();
    tiles.clear();
    EXPECT_FALSE(renderFrame(renderer, request, {}, cancelled.token(), collect));
    EXPECT_TRUE(tiles.empty());
}

// Tiles that a correction replaces altogether keep its domain, tiles with a soft place in them are mixed encoded: where
// both are fully covered they agree within a step of 16 bits: the one encodes and decodes once more between the two
// corrections, 2e-6 each time (kernel::srgbMaxError), which the second one's gain of 1.6 makes larger.
TEST(Renderer, TilesThatAreReplacedAndTilesThatAreMixedAgree) {
    const std::string chain =
        R"("adjustments": [{"kind": "light", "exposure": 0.7}, {"kind": "white-balance", "temperature": 5200},
                          {"kind": "saturation", "amount": 20}])";
    const auto twice = [&](const std::string& mask) {
        return tests::documentOf("[{" + mask + chain + "}, {" + mask + chain + "}]");
    };
    const base::Size size{128, 128};
    const auto photo = *PhotoSource::make(std::make_shared<const image::Photo>(tests::madePhoto(size, 3)));
    const auto rendered = [&](const std::string& mask) {
        image::EncodedPlanes out(size);
        Renderer(photo, std::make_shared<TileCache>()).picture(Sequence(twice(mask), {}), {base::rectOf(size), 0}, out);
        return out;
    };
    const auto replaced = rendered(R"("mask": {"starts": "everywhere"}, )");
    const auto mixed = rendered(
        R"("mask": {"starts": "everywhere", "parts": [{"kind": "brush", "combine": "subtract", "strokes": [{"size": 20, "points": [[20, 20]]}]}]}, )");
    double worst = 0;
    for (int y = 0; y < size.height; ++y) {
        for (std::size_t x = 40; x < 128; ++x) {
            worst = std::max({worst, std::abs(double{replaced.red.row(y)[x]} - mixed.red.row(y)[x]),
                              std::abs(double{replaced.blue.row(y)[x]} - mixed.blue.row(y)[x])});
        }
    }
    EXPECT_LT(worst, 1.0 / 65535);
    EXPECT_NE(replaced.red.row(20)[20], mixed.red.row(20)[20]);
}

TEST(TileCache, DropsTheLeastRecentlyUsedBeyondItsBudget) {
    TileCache cache(50'000);
    const auto key = [](int i) { return base::KeyBuilder().add(i).key(); };
    for (int i = 0; i < 20; ++i) {
        image::Plane<std::uint16_t> plane({64, 64});
        for (int y = 0; y < 64; ++y) std::fill_n(plane.row(y).data(), 64, static_cast<std::uint16_t>(y));
        cache.keep(key(i), std::make_shared<mask::Coverage>(std::move(plane)));
        EXPECT_TRUE(cache.find(key(0)) || i > 0);
        cache.find(key(0));  // keeps it fresh
    }
    EXPECT_LE(cache.bytes(), 50'000u);
    EXPECT_TRUE(cache.find(key(0)));
    EXPECT_FALSE(cache.find(key(3)));
    EXPECT_TRUE(cache.find(key(19)));
    EXPECT_FALSE(cache.findDisplay(key(19)));  // the same key, another kind
}

TEST(Renderer, BlendsWhatACorrectionMakesWithWhatWasThere) {
    const auto source = sourceOf(tests::sharedPhoto(photoSize));
    const auto document = tests::documentOf(
        R"([{"blend": "multiply", "strength": 60, "mask": {"starts": "everywhere"},
             "adjustments": [{"kind": "tint", "strength": 100, "hue": 30, "saturation": 50, "lightness": 70}]},
            {"blend": "screen", "mask": {"starts": "everywhere"}}])");
    EXPECT_TRUE(document::isActive(*document->corrections[1])) << "blended with itself it acts";
    const image::EncodedPlanes out = assembled(freshRenderer(source), document, 0, 128, {});
    image::EncodedPlanes photo(photoSize);
    source->read(base::rectOf(photoSize), 0, photo);
    const double red = 0.7 + 0.3 * 0.5;  // HSL: lightness + saturation x min(lightness, 1 - lightness)
    for (int y = 0; y < photoSize.height; y += 17) {
        for (std::size_t x = 0; x < static_cast<std::size_t>(photoSize.width); x += 13) {
            const double was = double{photo.red.row(y)[x]}, first = was + 0.6 * (was * red - was);
            ASSERT_NEAR(out.red.row(y)[x], 1 - (1 - first) * (1 - first), 1e-4);
        }
    }
    const auto again = document::fromJsonText(document::toJsonText(*document));
    ASSERT_TRUE(again);
    EXPECT_EQ((*again)->corrections[0]->blend, kernel::BlendMode::multiply);
    EXPECT_FALSE(document::fromJsonText(R"({"format": "dim-hem-document", "version": 1, "photo": {"path": "p"},
                                            "corrections": [{"blend": "melt"}]})"));
}

TEST(Sequence, ShowsARowOfATableGlaringlyThoughItDoesNothingYet) {
    const auto source = sourceOf(tests::sharedPhoto(photoSize));
    const auto document = tests::documentOf(
        R"([{"mask": {"starts": "everywhere"}, "adjustments": [{"kind": "hue-bands"}, {"kind": "light", "exposure": 1, "enabled": false}]}])");
    const document::Correction& correction = *document->corrections[0];
    EXPECT_TRUE(Sequence(document, {}).steps().empty());
    Comparison look;
    look.glare = {correction.id, correction.adjustments[0].id, 0};
    const Sequence glaring(document, look);
    ASSERT_EQ(glaring.steps().size(), 1u);
    EXPECT_EQ(glaring.steps()[0].operations.size(), 1u);
    look.glare.row = 7;
    EXPECT_TRUE(Sequence(document, look).steps().empty()) << "no such row";
    look.glare = {correction.id, correction.adjustments[1].id, 0};
    EXPECT_TRUE(Sequence(document, look).steps().empty()) << "no look of that kind";
}

TEST(Sequence, StopsAfterACorrection) {
    const auto document = tests::threeCorrections();
    Comparison until;
    until.stopAfter = document->corrections[1]->id;
    EXPECT_EQ(Sequence(document, until).steps().size(), 2u);
    until.stopBefore = document->corrections[1]->id;
    EXPECT_EQ(Sequence(document, until).steps().size(), 1u);
}

TEST(Renderer, ABackdropPictureCoversThePhotoFromItsMiddle) {
    // A photo that is transparent everywhere before a picture twice as high: left half dark, right half light.
    image::Photo clear;
    clear.samples = image::Samples({80, 40}, 4, image::SampleType::u8);
    std::memset(clear.samples.row(0), 0, clear.samples.bytes());
    image::Photo behind;
    behind.samples = image::Samples({40, 40}, 3, image::SampleType::u8);
    for (int y = 0; y < 40; ++y) {
        for (int x = 0; x < 40; ++x) {
            const int rim = y < 9 || y > 30 ? 255 : x < 20 ? 50 : 200;  // cut away above and below
            std::memset(behind.samples.row(y) + 3 * x, rim, 3);
        }
    }
    const Renderer renderer = freshRenderer(sourceOf(std::make_shared<const image::Photo>(std::move(clear))));
    const auto document = document::withBackdrop(
        *tests::documentOf("[]"),
        document::BackdropPicture{"b.png", std::make_shared<const image::Photo>(std::move(behind)), {1, 2}});
    const auto tile = renderer.display(Sequence(document, {}), {}, {base::rectOf({80, 40}), 0});
    const auto grey = [&](std::size_t x, int y) { return static_cast<int>(tile->row(y)[x] & 0xff); };
    EXPECT_NEAR(grey(10, 20), 50, 2);
    EXPECT_NEAR(grey(70, 20), 200, 2);
    EXPECT_NEAR(grey(10, 1), 50, 2) << "the rims lie outside";
    const auto coarse = renderer.display(Sequence(document, {}), {}, {base::rectOf({40, 20}), 1});
    EXPECT_NEAR(static_cast<int>(coarse->row(10)[5] & 0xff), 50, 2);
    EXPECT_NEAR(static_cast<int>(coarse->row(10)[35] & 0xff), 200, 2);
}

}  // namespace dimhem::render
