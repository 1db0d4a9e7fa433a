// What masks see through the renderer: the picture as it arrives, other corrections' masks, and beyond the photo's
// edge.
#include <gtest/gtest.h>

#include "core/document/edits.h"
#include "core/mask/borrowed_mask.h"
#include "core/render/renderer.h"
#include "tests/support/documents.h"
#include "tests/support/pictures.h"
#include "tests/support/plain_store.h"

namespace dimhem::render {

namespace {

constexpr base::Size photoSize{300, 200};

Renderer freshRenderer(int channels = 3) {
    return Renderer(*PhotoSource::make(tests::sharedPhoto(photoSize, channels)), std::make_shared<TileCache>());
}

mask::CoveragePtr coverageOf(const Renderer& renderer, const document::DocumentPtr& document, std::size_t index,
                             const mask::Area& area = {{0, 0, 300, 200}, 0}) {
    return renderer.coverage(Sequence(document, {}), document->corrections[index]->id, area);
}

// A correction that darkens everything, then one masked by its tones.
document::DocumentPtr darkenedThenMasked(const std::string& measured) {
    return tests::documentOf(R"([
      {"mask": {"starts": "everywhere"}, "adjustments": [{"kind": "light", "exposure": -4}]},
      {"mask": {"parts": [{"kind": "luminosity-range", "tones": [0, 0, 30, 31], "smooth": 0, "measured": ")" +
                             measured + R"("}]},
       "adjustments": [{"kind": "light", "exposure": 1}]}])");
}

}  // namespace

TEST(MaskContext, ARangeIsMeasuredOnThePhotoOrOnWhatArrives) {
    const Renderer renderer = freshRenderer();
    const auto onPhoto = coverageOf(renderer, darkenedThenMasked("photo"), 1);
    const auto onArriving = coverageOf(renderer, darkenedThenMasked("arriving"), 1);
    EXPECT_LT(tests::at(*onPhoto, 100, 100), 1000) << "the photo is brighter than that there";
    EXPECT_EQ(tests::at(*onArriving, 100, 100), 65535);
}

TEST(MaskContext, WhatArrivesFollowsTheCorrectionsBefore) {
    const Renderer renderer = freshRenderer();
    const auto document = darkenedThenMasked("arriving");
    const auto off = document::withCorrection(*document, document->corrections[0]->id,
                                              [](document::Correction& c) { c.enabled = false; });
    EXPECT_EQ(tests::at(*coverageOf(renderer, document, 1), 100, 100), 65535);
    EXPECT_LT(tests::at(*coverageOf(renderer, off, 1), 100, 100), 1000);
}

TEST(MaskContext, TilesOfARangeOnWhatArrivesAreTheWhole) {
    const Renderer renderer = freshRenderer();
    const auto document = tests::documentOf(R"([
      {"mask": {"parts": [{"kind": "brush", "strokes": [{"size": 120, "points": [[80, 80], [220, 120]]}]}]},
       "adjustments": [{"kind": "light", "exposure": -1.5}]},
      {"mask": {"parts": [{"kind": "luminosity-range", "tones": [10, 30, 55, 70], "smooth": 6, "measured": "arriving"}],
                "refine": {"feather": 12}}, "adjustments": [{"kind": "light", "exposure": 1}]}])");
    const auto whole = coverageOf(renderer, document, 1);
    for (const int tile : {64, 100}) {
        for (int y = 0; y < 200; y += tile) {
            for (int x = 0; x < 300; x += tile) {
                const mask::Area area{base::intersected({x, y, x + tile, y + tile}, base::rectOf(photoSize)), 0};
                const auto part = coverageOf(renderer, document, 1, area);
                for (int py = area.rect.y0; py < area.rect.y1; ++py) {
                    for (int px = area.rect.x0; px < area.rect.x1; ++px) {
                        ASSERT_NEAR(tests::at(*part, px - area.rect.x0, py - area.rect.y0), tests::at(*whole, px, py),
                                    1)
                            << px << " " << py;
                    }
                }
            }
        }
    }
}

TEST(MaskContext, BorrowedMasksAreThoseOfTheirLendersLive) {
    const Renderer renderer = freshRenderer();
    const auto document = tests::documentOf(R"([
      {"id": 10, "mask": {"parts": [{"kind": "radial-gradient", "centre": [150, 100], "half-width": 60, "half-height": 50}],
                          "refine": {"expand": 8}}},
      {"id": 20, "mask": {"parts": [{"kind": "borrowed", "from": 10, "flipped": true}]}},
      {"id": 30, "mask": {"parts": [{"kind": "borrowed", "from": 20}, {"kind": "borrowed", "from": 0}]}}])");
    const auto lender = coverageOf(renderer, document, 0), flipped = coverageOf(renderer, document, 1),
               second = coverageOf(renderer, document, 2);
    for (int y = 0; y < 200; y += 10) {
        for (int x = 0; x < 300; x += 10) {
            EXPECT_EQ(tests::at(*flipped, x, y), 65535 - tests::at(*lender, x, y));
            EXPECT_EQ(tests::at(*second, x, y), tests::at(*flipped, x, y)) << "a lender that is gone adds nothing";
        }
    }
}

TEST(MaskContext, ALoopOfBorrowingIsRefusedAndDoesNotHang) {
    const std::string loop = R"([{"id": 1, "mask": {"parts": [{"kind": "borrowed", "from": 2}]}},
                                 {"id": 2, "mask": {"parts": [{"kind": "borrowed", "from": 1}]}}])";
    EXPECT_THROW(tests::documentOf(loop), std::runtime_error);
    const auto chain = tests::documentOf(
        R"([{"id": 1, "mask": {"starts": "everywhere"}}, {"id": 2, "mask": {"parts": [{"kind": "borrowed", "from": 1}]}}])");
    EXPECT_FALSE(document::canBorrow(*chain, 1, 2));
    EXPECT_FALSE(document::canBorrow(*chain, 1, 1));
    EXPECT_TRUE(document::canBorrow(*chain, 2, 1));
    // Made all the same, past every check: the mask met again lends nothing.
    const auto forced =
        document::withNewPart(*chain, 1, std::make_shared<mask::BorrowedMask>(2), mask::Combine::subtract);
    const Renderer renderer = freshRenderer();
    EXPECT_EQ(tests::at(*coverageOf(renderer, forced.document, 0), 5, 5), 65535);
}

// 2^40 ways lead to the first mask: each is worked out once all the same.
TEST(MaskContext, BorrowingCostsWhatItCoversHoweverOftenItIsDone) {
    std::string text =
        R"([{"id": 1, "mask": {"parts": [{"kind": "radial-gradient", "centre": [50, 50], "half-width": 60, "half-height": 40}]}})";
    for (int id = 2; id <= 40; ++id) {
        const std::string part = R"({"kind": "borrowed", "from": )" + std::to_string(id - 1) + "}";
        text += R"(, {"id": )" + std::to_string(id) + R"(, "mask": {"parts": [)" + part + ", " + part +
                R"(]}, "adjustments": [{"kind": "light", "exposure": 0.01}]})";
    }
    const auto document = tests::documentOf(text + "]");
    const Renderer renderer = freshRenderer();
    const auto first = coverageOf(renderer, document, 0), last = coverageOf(renderer, document, 39);
    // What is added to itself so often is full wherever it was anything, and nothing where it was nothing.
    for (int y = 0; y < 200; y += 5) EXPECT_EQ(tests::at(*last, 50, y), tests::at(*first, 50, y) > 0 ? 65535 : 0) << y;
}

// Each within the one before, with what its own refining looks at about it.
TEST(MaskContext, TheDeepestBorrowingThatIsReadIsWorkedOut) {
    std::string text =
        R"([{"id": 1, "mask": {"parts": [{"kind": "radial-gradient", "centre": [50, 50], "half-width": 60, "half-height": 40}]}})";
    for (std::size_t id = 2; id <= document::mostBorrowing; ++id) {
        text += R"(, {"id": )" + std::to_string(id) + R"(, "mask": {"parts": [{"kind": "borrowed", "from": )" +
                std::to_string(id - 1) + R"(}], "refine": {"floor": 1}}})";
    }
    const auto document = tests::documentOf(text + "]");
    const Renderer renderer = freshRenderer();
    const auto last = coverageOf(renderer, document, document::mostBorrowing - 1);
    EXPECT_EQ(tests::at(*last, 50, 50), 65535);
}

TEST(MaskContext, AlphaMattesComeFromThePhoto) {
    const Renderer renderer = freshRenderer(4);  // alpha rises from left to right
    const auto document = tests::documentOf(R"([{"mask": {"parts": [{"kind": "matte", "source": "alpha"}]}}])");
    const auto coverage = coverageOf(renderer, document, 0);
    EXPECT_EQ(tests::at(*coverage, 0, 50), 0);
    EXPECT_NEAR(tests::at(*coverage, 150, 50) / 65535.0, 0.5, 0.01);
    const auto coarse = coverageOf(renderer, document, 0, {{0, 0, 75, 50}, 2});
    EXPECT_NEAR(tests::at(*coarse, 37, 20) / 65535.0, 0.5, 0.02);
}

TEST(MaskContext, BeyondThePhotoItsEdgeGoesOn) {
    const Renderer renderer = freshRenderer();
    const auto document = tests::documentOf(
        R"([{"mask": {"parts": [{"kind": "luminosity-range", "tones": [0, 0, 100, 100], "smooth": 20}],
                                                          "refine": {"feather": 80}}}])");
    const auto coverage = coverageOf(renderer, document, 0);
    EXPECT_EQ(tests::at(*coverage, 0, 0), 65535) << "the border is no edge";
    EXPECT_EQ(tests::at(*coverage, 299, 199), 65535);
}

TEST(MaskContext, TheChangeViewIsMidGreyWhereNothingChanges) {
    const Renderer renderer = freshRenderer();
    const auto document = tests::documentOf(
        R"([{"id": 5, "mask": {"parts": [{"kind": "radial-gradient", "centre": [60, 60], "half-width": 40,
        "half-height": 40}]}, "adjustments": [{"kind": "light", "exposure": 0.2}]}])");
    View view;
    view.selected = 5;
    view.maskView = MaskView::change;
    const auto at = [&](double gain, int x, int y) {
        view.changeGain = gain;
        return renderer.display(Sequence(document, {}), view, {{0, 0, 300, 200}, 0})
                   ->row(y)[static_cast<std::size_t>(x)] &
               0xff;
    };
    EXPECT_EQ(at(4, 200, 150), 128u);
    EXPECT_GT(at(4, 60, 60), 135u);
    EXPECT_NEAR(static_cast<double>(at(8, 60, 60)) - 127.5, 2 * (static_cast<double>(at(4, 60, 60)) - 127.5), 2.1);
}

}  // namespace dimhem::render
