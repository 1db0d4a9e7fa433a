#include "core/task/hem_check.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>

#include "core/document/json_format.h"
#include "core/mask/linear_gradient.h"
#include "core/mask/matte.h"
#include "core/mask/outline.h"
#include "core/mask/wire.h"
#include "core/task/mend.h"
#include "tests/support/edge_scene.h"

namespace dimhem::task {

namespace {

using check::FindingKind;
using tests::EdgeScene;

EdgeScene scene() {
    EdgeScene made;
    made.size = {560, 420};
    made.outside = [](double x, double y) { return std::hypot(x - 280, y - 210) - 130 - 5 * std::sin(y / 20); };
    return made;
}

mask::ShapePtr matteShape(const image::Plane<float>& values) {
    auto pixels = std::make_shared<image::Plane<std::uint16_t>>(values.size());
    for (int y = 0; y < values.size().height; ++y)
        std::transform(values.row(y).begin(), values.row(y).end(), pixels->row(y).begin(),
                       [](float v) { return static_cast<std::uint16_t>(std::lround(v * 65535)); });
    return std::make_shared<mask::Matte>("made.png", pixels);
}

struct Bench {
    std::shared_ptr<const render::PhotoSource> photo;
    std::shared_ptr<render::TileCache> cache = std::make_shared<render::TileCache>();
    render::Renderer renderer;
    document::DocumentPtr document;
    document::Id id;

    Bench(const EdgeScene& made, mask::ShapePtr shape)
        : photo(*render::PhotoSource::make(made.photo())), renderer(photo, cache) {
        const document::Added added = document::withNewCorrection(document::Document{}, 0);
        id = added.id;
        document = document::withNewPart(*added.document, id, std::move(shape), mask::Combine::add).document;
    }
    HemReport check(const base::Workers& workers = {}) const { return *hemCheck(renderer, document, id, workers); }
    image::Plane<float> mask() const {
        const mask::Area all{base::rectOf(photo->size()), 0};
        return mask::floatsOf(*renderer.coverage(render::Sequence(document, {}), id, all), photo->size());
    }
};

// The matte with three gaps, two specks and a leak of 20 pixels along the edge.
image::Plane<float> faulty(const EdgeScene& made) {
    return made.plane([&](double x, double y) {
        const auto spot = [&](double cx, double cy, double r) { return std::hypot(x - cx, y - cy) < r; };
        if (spot(240, 180, 5) || spot(320, 240, 4) || spot(280, 300, 6)) return 0.0;
        if (spot(60, 60, 4) || spot(500, 380, 5)) return 1.0;
        if (std::hypot(x - 412, y - 210) < 9) return 1.0;
        return made.matteAt(x, y);
    });
}

}  // namespace

TEST(HemCheck, FindsGapsSpecksAndSpillAndPutsThemRight) {
    const EdgeScene made = scene();
    Bench bench(made, matteShape(faulty(made)));
    const HemReport report = bench.check();
    EXPECT_TRUE(report.measured);
    EXPECT_EQ(report.gaps, 3);
    EXPECT_EQ(report.specks, 2);
    ASSERT_GE(report.findings.size(), 6u);
    EXPECT_EQ(report.findings[0].kind, FindingKind::gap) << "gaps and specks first, the largest before all";
    EXPECT_EQ(report.findings[5].kind, FindingKind::spill);
    EXPECT_LT(report.unmeasuredPct, 20);

    for (std::size_t i = 0; i < report.findings.size(); ++i) {
        const document::Added mended = withMended(*bench.document, bench.id, report.findings[i]);
        EXPECT_NE(mended.id, 0);
        bench.document = mended.document;
    }
    const HemReport after = bench.check();
    EXPECT_EQ(after.gaps, 0);
    EXPECT_EQ(after.specks, 0);
    EXPECT_LT(after.spillPct, 0.5 * report.spillPct + 0.1);
    const tests::HemError error = tests::hemError(bench.mask(), made.matte());
    EXPECT_LT(error.spillPct, 0.25);
    EXPECT_LT(error.shortPct, 0.25);
}

TEST(HemCheck, OfAnInvertedMaskMendsTheOtherWayRound) {
    const EdgeScene made = scene();
    Bench bench(made, matteShape(faulty(made)));
    bench.document =
        document::withCorrection(*bench.document, bench.id, [](document::Correction& c) { c.mask.inverted = true; });
    const HemReport report = bench.check();
    EXPECT_EQ(report.specks, 3) << "what was a gap of the subject is a speck of what is about it";
    EXPECT_EQ(report.gaps, 2);
    for (const check::Finding& finding : report.findings) {
        if (finding.kind == FindingKind::gap || finding.kind == FindingKind::speck)
            bench.document = withMended(*bench.document, bench.id, finding).document;
    }
    const HemReport after = bench.check();
    EXPECT_EQ(after.gaps + after.specks, 0);
}

TEST(HemCheck, IsTheSameForAnyNumberOfWorkersAndFromTheCache) {
    const EdgeScene made = scene();
    const Bench bench(made, matteShape(faulty(made)));
    const HemReport one = bench.check({1, {}}), again = bench.check({4, {}});
    const HemReport fresh = Bench(made, matteShape(faulty(made))).check({4, {}});
    for (const HemReport* other : {&again, &fresh}) {
        EXPECT_EQ(one.spillPct, other->spillPct);
        EXPECT_EQ(one.shortPct, other->shortPct);
        ASSERT_EQ(one.findings.size(), other->findings.size());
        for (std::size_t i = 0; i < one.findings.size(); ++i)
            EXPECT_EQ(one.findings[i].bounds, other->findings[i].bounds);
    }
}

TEST(HemCheck, HasNothingToSayWithoutAMaskOrAnEdge) {
    const EdgeScene made = scene();
    Bench bench(made, matteShape(made.plane([](double, double) { return 0.0; })));
    EXPECT_FALSE(bench.check().measured);
    EXPECT_FALSE(hemCheck(bench.renderer, bench.document, 99).has_value()) << "no such correction";
    bench.document = document::withCorrection(*bench.document, bench.id,
                                              [](document::Correction& c) { c.mask.startsEverywhere = true; });
    EXPECT_FALSE(bench.check().measured);
}

TEST(HemCheck, WiresAreLeftOutBesideOtherParts) {
    const EdgeScene made = scene();
    Bench bench(made, matteShape(made.movedMatte(0)));
    const HemReport alone = bench.check();
    const auto wire = std::make_shared<mask::Wire>(std::vector<mask::WireLine>{{{{20, 20}, {500, 40}}, 6}}, 100);
    bench.document = document::withNewPart(*bench.document, bench.id, wire, mask::Combine::add).document;
    const HemReport beside = bench.check();
    EXPECT_EQ(beside.ofParts.size(), 1u);
    EXPECT_EQ(beside.spillPct, alone.spillPct);
    EXPECT_EQ(beside.unmeasuredPct, alone.unmeasuredPct);
    EXPECT_FALSE(beside.isGradual);
    // Wires alone are looked at as they are.
    Bench wires(made, wire);
    EXPECT_FALSE(wires.check().isGradual);
    EXPECT_TRUE(wires.check().ofParts.empty());
}

TEST(HemCheck, AGradientHasNoEdgeToCheckButWhatIsTakenFromItHas) {
    const EdgeScene made = scene();
    const auto gradient = std::make_shared<mask::LinearGradient>(base::Point{280, 60}, base::Point{280, 360});
    Bench bench(made, gradient);
    HemReport report = bench.check();
    EXPECT_TRUE(report.isGradual);
    EXPECT_FALSE(report.measured);
    // The subject taken away by a mask that is 6 pixels too wide: what is taken is short of nothing, the rest lacks a
    // rim.
    const auto taken = [&](double by) {
        bench.document =
            document::withNewPart(*document::withCorrection(*bench.document, bench.id,
                                                            [](document::Correction& c) { c.mask.parts.resize(1); }),
                                  bench.id, matteShape(made.movedMatte(by)), mask::Combine::subtract)
                .document;
        return bench.check();
    };
    report = taken(0);
    ASSERT_TRUE(report.measured);
    EXPECT_EQ(report.ofParts.size(), 1u);
    EXPECT_LT(report.spillPct + report.shortPct, 0.6);
    const double rim = 100 * (std::pow(136.0 / 130, 2) - 1);  // of the disc, by its area
    report = taken(6);
    EXPECT_NEAR(report.shortPct, rim, 0.25 * rim);
    EXPECT_LT(report.spillPct, 0.6);
    // What was taken out too much cannot be given back: an outline would not know how strong the gradient is there.
    ASSERT_FALSE(report.findings.empty());
    for (const check::Finding& finding : report.findings) EXPECT_FALSE(canBeMended(report, finding));
    report = taken(-6);
    EXPECT_NEAR(report.spillPct, rim, 0.25 * rim);
    EXPECT_LT(report.shortPct, 0.6);
    // What was taken out too little can.
    ASSERT_FALSE(report.findings.empty());
    for (const check::Finding& finding : report.findings) {
        EXPECT_TRUE(canBeMended(report, finding));
        bench.document = withMended(*bench.document, bench.id, finding).document;
    }
    EXPECT_LT(bench.check().spillPct, 0.25 * rim);
}

TEST(HemCheck, OfAPhotoOfAFewPixelsIsFine) {
    for (const base::Size size : {base::Size{1, 1}, {3, 2}, {40, 1}}) {
        EdgeScene made;
        made.size = size;
        made.outside = [](double x, double) { return x - 1; };
        const Bench bench(made, matteShape(made.matte()));
        const HemReport report = bench.check();
        EXPECT_EQ(report.measured, size.width > 1);
        EXPECT_GE(report.spillPct, 0);
    }
}

TEST(HemCheck, CanBeCancelled) {
    const EdgeScene made = scene();
    const Bench bench(made, matteShape(faulty(made)));
    base::CancelSource cancel;
    cancel.cancel();
    EXPECT_THROW((void)hemCheck(bench.renderer, bench.document, bench.id, {}, cancel.token()), base::Cancelled);
}

namespace {

// The mean coverage on and off a figure, where the gradient alone covers at least a tenth.
struct OnAndOff {
    double on, off;
};

OnAndOff onAndOff(const image::Plane<float>& mask, const image::Plane<float>& gradient,
                  const image::Plane<float>& figure) {
    double sums[2] = {}, counts[2] = {};
    for (int y = 0; y < mask.size().height; ++y) {
        for (std::size_t x = 0; x < static_cast<std::size_t>(mask.size().width); ++x) {
            const float share = figure.row(y)[x];
            if (gradient.row(y)[x] < 0.1f || (share > 0.05f && share < 0.95f)) continue;
            sums[share > 0.5f] += double{mask.row(y)[x]};
            ++counts[share > 0.5f];
        }
    }
    return {sums[1] / counts[1], sums[0] / counts[0]};
}

}  // namespace

// A thing before the sky that a gradient darkens: it is gone to like any finding, and mending takes it out of the mask
// to its edge and leaves the rest as strong as it is.
TEST(HemCheck, WhatStandsInAGradientsWayIsFoundAndLeftOut) {
    const EdgeScene made = scene();
    Bench bench(made, std::make_shared<mask::LinearGradient>(base::Point{280, 40}, base::Point{280, 400}));
    const image::Plane<float> gradient = bench.mask();
    const HemReport report = bench.check();
    EXPECT_TRUE(report.isGradual);
    ASSERT_EQ(report.findings.size(), 1u);
    EXPECT_TRUE(report.findings[0].isFigure);
    EXPECT_TRUE(canBeMended(report, report.findings[0]));
    const image::Plane<float> matte = made.matte();
    const OnAndOff before = onAndOff(gradient, gradient, matte);
    bench.document = withMended(*bench.document, bench.id, report.findings[0]).document;
    const OnAndOff after = onAndOff(bench.mask(), gradient, matte);
    EXPECT_LT(after.on, 0.02 * before.on);
    EXPECT_GT(after.off, 0.985 * before.off);
    const HemReport again = bench.check();
    EXPECT_FALSE(std::ranges::any_of(again.findings, &check::Finding::isFigure)) << "it is found once";
    // What was taken out too little can be taken out as well; what nothing knows the strength of cannot be given.
    for (const check::Finding& finding : again.findings)
        EXPECT_EQ(canBeMended(again, finding),
                  finding.kind == FindingKind::spill || finding.kind == FindingKind::speck);
}

// What something beside the gradient adds may be on the figure on purpose.
TEST(HemCheck, FiguresAreLookedForWhereOnlyGradientsAdd) {
    const EdgeScene made = scene();
    Bench bench(made, std::make_shared<mask::LinearGradient>(base::Point{280, 40}, base::Point{280, 400}));
    const auto figures = [&] {
        const HemReport report = bench.check();
        return std::ranges::count_if(report.findings, &check::Finding::isFigure);
    };
    ASSERT_EQ(figures(), 1);
    const document::DocumentPtr gradient = bench.document;
    bench.document = document::withNewPart(*gradient, bench.id, matteShape(made.matte()), mask::Combine::add).document;
    EXPECT_EQ(figures(), 0);
    bench.document =
        document::withCorrection(*gradient, bench.id, [](document::Correction& c) { c.mask.inverted = true; });
    EXPECT_EQ(figures(), 0);
    bench.document =
        document::withNewPart(*gradient, bench.id, matteShape(made.matte()), mask::Combine::subtract).document;
    EXPECT_EQ(figures(), 0) << "left out already";
}

TEST(Mend, WithoutALineOrACorrectionLeavesTheDocumentAsItIs) {
    const EdgeScene made = scene();
    const Bench bench(made, matteShape(made.matte()));
    check::Finding finding{FindingKind::gap, {0, 0, 4, 4}, 16, {{1, 1}, {2, 2}}};
    EXPECT_EQ(withMended(*bench.document, bench.id, finding).id, 0);
    finding.outline.push_back({1, 3});
    EXPECT_NE(withMended(*bench.document, bench.id, finding).id, 0);
    EXPECT_EQ(withMended(*bench.document, 99, finding).id, 0);
}

// However ragged what was found is, the document with it can be saved and opened again.
TEST(Mend, LeavesNoMorePointsThanADocumentCanHold) {
    const EdgeScene made = scene();
    const Bench bench(made, matteShape(made.matte()));
    for (const std::size_t count :
         {mask::mostOutlinePoints, mask::mostOutlinePoints + 1, 7 * mask::mostOutlinePoints}) {
        check::Finding finding{FindingKind::spill, {0, 0, 400, 400}, 1e5, {}};
        for (std::size_t i = 0; i < count; ++i) {
            const double turn = 6.28 * static_cast<double>(i) / static_cast<double>(count);
            finding.outline.push_back({200 + 90 * std::cos(turn), 200 + 90 * std::sin(turn)});
        }
        document::Document mended = *withMended(*bench.document, bench.id, finding).document;
        mended.photo.path = "photo.png";
        const auto back = document::fromJsonText(document::toJsonText(mended));
        ASSERT_TRUE(back) << count << ": " << back.error().message;
        const auto& shape = *document::findCorrection(**back, bench.id)->mask.parts.back()->shape;
        const std::size_t points = dynamic_cast<const mask::Outline&>(shape).points().size();
        EXPECT_LE(points, mask::mostOutlinePoints);
        EXPECT_GT(points, mask::mostOutlinePoints / 3);
    }
}

}  // namespace dimhem::task
