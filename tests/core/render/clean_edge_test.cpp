// Corrections with a clean edge, against what the subject alone, corrected, would have given.
#include "core/render/clean_edge.h"

#include <gtest/gtest.h>

#include <cmath>

#include "core/adjust/light.h"
#include "core/adjust/white_balance.h"
#include "core/colour/ciede2000.h"
#include "core/colour/lab.h"
#include "core/document/edits.h"
#include "core/document/json_format.h"
#include "core/mask/linear_gradient.h"
#include "core/mask/matte.h"
#include "core/render/renderer.h"
#include "tests/support/documents.h"
#include "tests/support/edge_scene.h"

namespace dimhem::render {

namespace {

using tests::EdgeScene;

struct Fault {
    const adjust::AdjustmentKind* kind;
    std::vector<double> values;
};

std::vector<Fault> faults() {
    std::vector<double> brighter = adjust::neutralValues(adjust::light),
                        cooler = adjust::neutralValues(adjust::whiteBalance);
    brighter[0] = 1.5;
    cooler[0] = 4200;
    cooler[1] = -25;
    return {{&adjust::light, brighter}, {&adjust::whiteBalance, cooler}};
}

mask::ShapePtr exactMatte(const EdgeScene& scene) {
    auto pixels = std::make_shared<image::Plane<std::uint16_t>>(scene.size);
    scene.forEach([&](int x, int y) {
        pixels->row(y)[static_cast<std::size_t>(x)] =
            static_cast<std::uint16_t>(std::lround(scene.matteAt(x + 0.5, y + 0.5) * 65535));
    });
    return std::make_shared<mask::Matte>("exact.png", pixels);
}

document::DocumentPtr corrected(mask::ShapePtr shape, const Fault& fault, bool clean) {
    const document::Added added = document::withNewCorrection(document::Document{}, 0);
    const document::DocumentPtr masked =
        document::withNewPart(*added.document, added.id, std::move(shape), mask::Combine::add).document;
    return document::withCorrection(*masked, added.id, [&](document::Correction& c) {
        c.cleanEdge = clean;
        c.adjustments = {{100, fault.kind, true, fault.values}};
    });
}

image::EncodedPlanes pictureOf(const EdgeScene& scene, const document::DocumentPtr& document, int tile = 0) {
    const Renderer renderer(*PhotoSource::make(scene.photo()), std::make_shared<TileCache>());
    const Sequence sequence(document, {});
    image::EncodedPlanes out(scene.size);
    const int step = tile ? tile : scene.size.width;
    for (int y = 0; y < scene.size.height; y += step) {
        for (int x = 0; x < scene.size.width; x += step) {
            const base::Rect rect = base::intersected({x, y, x + step, y + step}, base::rectOf(scene.size));
            image::EncodedPlanes part(rect.size());
            renderer.picture(sequence, {rect, 0}, part);
            for (int row = 0; row < rect.height(); ++row) {
                std::copy(part.red.row(row).begin(), part.red.row(row).end(), out.red.row(rect.y0 + row).begin() + x);
                std::copy(part.green.row(row).begin(), part.green.row(row).end(),
                          out.green.row(rect.y0 + row).begin() + x);
                std::copy(part.blue.row(row).begin(), part.blue.row(row).end(),
                          out.blue.row(rect.y0 + row).begin() + x);
            }
        }
    }
    return out;
}

colour::EncodedRgb pixel(const image::EncodedPlanes& planes, int x, int y) {
    const auto i = static_cast<std::size_t>(x);
    return {planes.red.row(y)[i], planes.green.row(y)[i], planes.blue.row(y)[i]};
}

// The mean CIEDE2000 over partly covered pixels to the mixture of the corrected subject and the backdrop.
double rimError(const EdgeScene& scene, const image::EncodedPlanes& got, const Fault& fault) {
    float r = static_cast<float>(colour::encodedFromLinear(scene.subject.r)),
          g = static_cast<float>(colour::encodedFromLinear(scene.subject.g)),
          b = static_cast<float>(colour::encodedFromLinear(scene.subject.b));
    adjust::apply(fault.kind->prepare(fault.values), {&r, &g, &b}, 1);
    const colour::LinearRgb own = colour::linearFromEncoded(colour::EncodedRgb{r, g, b});
    double sum = 0, count = 0;
    scene.forEach([&](int x, int y) {
        const double a = scene.matteAt(x + 0.5, y + 0.5);
        if (a < 0.03 || a > 0.97) return;
        const auto mixed = [a](double f, double back) { return a * f + (1 - a) * back; };
        const colour::LinearRgb wanted{mixed(own.r, scene.backdrop.r), mixed(own.g, scene.backdrop.g),
                                       mixed(own.b, scene.backdrop.b)};
        sum += colour::ciede2000(colour::labFromLinear(wanted), colour::labFromEncoded(pixel(got, x, y)));
        ++count;
    });
    return sum / count;
}

double greatestDifference(const EdgeScene& scene, const image::EncodedPlanes& one, const image::EncodedPlanes& other) {
    double most = 0;
    scene.forEach([&](int x, int y) {
        const colour::EncodedRgb a = pixel(one, x, y), b = pixel(other, x, y);
        most = std::max({most, std::abs(a.r - b.r), std::abs(a.g - b.g), std::abs(a.b - b.b)});
    });
    return most;
}

}  // namespace

TEST(CleanEdge, ClosesMostOfTheRimOnSoftAndThinEdges) {
    for (const bool thin : {false, true}) {
        EdgeScene scene;
        scene.grain = 0.004;
        scene.softPx = thin ? 2 : 12;
        if (thin) scene.outside = [](double x, double y) { return std::abs(x + 0.2 * y - 140) - 1.6; };
        for (const Fault& fault : faults()) {
            const double plain = rimError(scene, pictureOf(scene, corrected(exactMatte(scene), fault, false)), fault);
            const double clean = rimError(scene, pictureOf(scene, corrected(exactMatte(scene), fault, true)), fault);
            EXPECT_GT(plain, 1.0) << "there is a rim to take away";
            EXPECT_LT(clean, 0.5 * plain) << fault.kind->id << " thin " << thin;
        }
    }
}

TEST(CleanEdge, ChangesNothingWhereTheMaskIsFullOrNone) {
    const EdgeScene scene;
    const Fault fault = faults()[0];
    const image::EncodedPlanes plain = pictureOf(scene, corrected(exactMatte(scene), fault, false)),
                               clean = pictureOf(scene, corrected(exactMatte(scene), fault, true));
    double inRim = 0;
    scene.forEach([&](int x, int y) {
        const double a = scene.matteAt(x + 0.5, y + 0.5);
        const colour::EncodedRgb p = pixel(plain, x, y), c = pixel(clean, x, y);
        if (a == 0 || a == 1) {
            ASSERT_EQ(p.r, c.r);
            ASSERT_EQ(p.g, c.g);
            ASSERT_EQ(p.b, c.b);
        } else {
            inRim = std::max(inRim, std::abs(p.r - c.r));
        }
    });
    EXPECT_GT(inRim, 0.01);
}

TEST(CleanEdge, AGradientIsMixedPlainly) {
    const EdgeScene scene;
    const auto gradient = std::make_shared<mask::LinearGradient>(base::Point{120, 20}, base::Point{120, 160},
                                                                 mask::GradientProfile::smooth);
    const Fault fault = faults()[0];
    const image::EncodedPlanes plain = pictureOf(scene, corrected(gradient, fault, false)),
                               clean = pictureOf(scene, corrected(gradient, fault, true));
    double sum = 0;
    scene.forEach([&](int x, int y) { sum += std::abs(pixel(plain, x, y).r - pixel(clean, x, y).r); });
    EXPECT_LT(sum / (scene.size.width * scene.size.height), 0.004);
}

TEST(CleanEdge, IsTheSameByTilesAlsoOverAnotherCleanCorrection) {
    const EdgeScene scene;
    const document::DocumentPtr one = corrected(exactMatte(scene), faults()[0], true);
    const document::Added second = document::withCopyOfCorrection(*one, one->corrections[0]->id);
    const document::DocumentPtr both =
        document::withCorrection(*second.document, second.id, [](document::Correction& c) { c.strengthPct = 60; });
    const image::EncodedPlanes whole = pictureOf(scene, both);
    for (const int tile : {37, 128}) EXPECT_EQ(greatestDifference(scene, whole, pictureOf(scene, both, tile)), 0);
}

// Own colours are told from what lies about a place, also beyond the tile it is in: where only that changes, what a
// cache remembers of the tile is no longer right.
TEST(CleanEdge, WhatLiesBesideATileCounts) {
    EdgeScene scene;
    scene.size = {300, 60};
    scene.outside = [](double x, double) { return std::abs(x - 225) - 25; };
    const auto versionOf = [](double exposureBeside) {
        return tests::documentOf(R"([
            {"mask": {"parts": [{"kind": "brush", "strokes": [{"size": 24, "points": [[272, 15], [272, 45]]}]}]},
             "adjustments": [{"kind": "light", "exposure": )" +
                                 std::to_string(exposureBeside) + R"(}]},
            {"clean-edge": true, "mask": {"parts": [{"kind": "brush", "strokes": [
                {"size": 60, "softness": 60, "points": [[225, 20], [225, 40]]}]}]},
             "adjustments": [{"kind": "light", "exposure": 1}]}])");
    };
    const auto photo = *PhotoSource::make(scene.photo());
    const Renderer used(photo, std::make_shared<TileCache>());
    const mask::Area tile{{0, 0, 256, 60}, 0};
    const auto shown = [&](const Renderer& renderer, double exposure) {
        const auto part = renderer.display(Sequence(versionOf(exposure), {}), {}, tile);
        std::vector<std::uint32_t> pixels;
        for (int y = 0; y < tile.rect.height(); ++y)
            pixels.insert(pixels.end(), part->row(y).begin(), part->row(y).end());
        return pixels;
    };
    const auto before = shown(used, 0.1), after = shown(used, 3);
    EXPECT_NE(before, after);
    EXPECT_EQ(after, shown(Renderer(photo, std::make_shared<TileCache>()), 3));
}

TEST(CleanEdge, AtNoStrengthOrWithoutAnAdjustmentNothingChanges) {
    const EdgeScene scene;
    const document::DocumentPtr one = corrected(exactMatte(scene), faults()[0], true);
    const auto id = one->corrections[0]->id;
    const image::EncodedPlanes photo = pictureOf(scene, std::make_shared<const document::Document>());
    const auto off = document::withCorrection(*one, id, [](document::Correction& c) { c.strengthPct = 0; });
    const auto bare = document::withCorrection(*one, id, [](document::Correction& c) { c.adjustments.clear(); });
    EXPECT_EQ(greatestDifference(scene, photo, pictureOf(scene, off)), 0);
    EXPECT_EQ(greatestDifference(scene, photo, pictureOf(scene, bare)), 0);
}

TEST(CleanEdge, IsWrittenAndRead) {
    const auto document = tests::documentOf(R"([{"clean-edge": true}, {}])");
    EXPECT_TRUE(document->corrections[0]->cleanEdge);
    EXPECT_FALSE(document->corrections[1]->cleanEdge);
    const auto again = document::fromJsonText(document::toJsonText(*document));
    ASSERT_TRUE(again);
    EXPECT_TRUE((*again)->corrections[0]->cleanEdge);
    EXPECT_FALSE(document::fromJsonText(R"({"format": "dim-hem-document", "version": 1, "photo": {"path": "p"},
                                            "corrections": [{"clean-edge": "yes"}]})"));
}

}  // namespace dimhem::render
