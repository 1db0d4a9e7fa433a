// The fine-detail part: a mask solved from the photo where it was painted over.
#include <gtest/gtest.h>

#include <cmath>

#include "core/colour/srgb.h"
#include "core/document/edits.h"
#include "core/edge/found_band.h"
#include "core/edge/solved_matte.h"
#include "core/mask/brush.h"
#include "core/render/renderer.h"
#include "tests/support/documents.h"
#include "tests/support/pictures.h"
#include "tests/support/rendered.h"

namespace dimhem::mask {
namespace {

constexpr base::Size size{520, 430};

// A disc with a fringe of rays, dark before a light ground that fades from left to right.
double matteAt(double x, double y) {
    const double r = std::hypot(x - 260, y - 215), angle = std::atan2(y - 215, x - 260);
    if (r < 110) return 1;
    const double ray = std::abs(std::sin(40 * angle)) * r / 40, width = 1.2 * (160 - r) / 50;
    return r < 160 ? std::clamp(width - ray + 0.5, 0.0, 1.0) : 0;
}

std::shared_ptr<const render::PhotoSource> fringed() {
    image::Photo photo;
    photo.format = "made";
    photo.samples = image::Samples(size, 3, image::SampleType::u8);
    std::mt19937 random(3);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            double matte = 0;
            for (int i = 0; i < 16; ++i) matte += matteAt(x + (i % 4 + 0.5) / 4, y + (i / 4 + 0.5) / 4) / 16;
            const double thing[3] = {0.06, 0.04, 0.02}, ground[3] = {0.4 + 0.2 * x / size.width, 0.5, 0.6};
            for (int c = 0; c < 3; ++c) {
                const double v = colour::encodedFromLinear(matte * thing[c] + (1 - matte) * ground[c]) * 255;
                const auto byte =
                    static_cast<std::uint8_t>(std::clamp(v + 2.0 * (random() / 4294967296.0 - 0.5), 0.0, 255.0) + 0.5);
                std::memcpy(photo.samples.row(y) + 3 * x + c, &byte, 1);
            }
        }
    }
    return *render::PhotoSource::make(std::make_shared<const image::Photo>(std::move(photo)));
}

std::string ring(double radius) {
    std::string points;
    for (int i = 0; i <= 40; ++i) {
        const double a = i * 3.14159265 / 20;
        points += (i ? ", [" : "[") + std::to_string(260 + radius * std::cos(a)) + ", " +
                  std::to_string(215 + radius * std::sin(a)) + "]";
    }
    return points;
}

document::DocumentPtr hairy(const std::string& more = "") {
    return tests::documentOf(R"([{"mask": {"parts": [
        {"kind": "brush", "strokes": [{"size": 280, "softness": 0, "points": [[260, 215]]}]},
        {"kind": "fine-detail", "strokes": [{"size": 80, "softness": 0, "points": [)" +
                             ring(136) + "]}]" + more + R"(}]}, "adjustments": [{"kind": "light", "exposure": 1}]}])");
}

image::Plane<float> maskOf(const render::Renderer& renderer, const document::DocumentPtr& document, int level,
                           int tilePx) {
    const base::Size of = image::levelSize(size, level);
    const render::Sequence sequence(document, {});
    image::Plane<float> out(of);
    image::TileGrid(of, tilePx).forEach(base::rectOf(of), [&](const base::Rect& tile) {
        const auto part = renderer.coverage(sequence, document->corrections[0]->id, {tile, level});
        image::copyShared(floatsOf(*part, tile.size()), tile, out, base::rectOf(of));
    });
    return out;
}

render::Renderer fresh(const std::shared_ptr<const render::PhotoSource>& photo) {
    return render::Renderer(photo, std::make_shared<render::TileCache>());
}

double meanOff(const image::Plane<float>& mask, int level) {
    double sum = 0, count = 0;
    for (int y = 0; y < mask.size().height; ++y) {
        for (int x = 0; x < mask.size().width; ++x) {
            const double px = (x + 0.5) * (1 << level), py = (y + 0.5) * (1 << level);
            const double r = std::hypot(px - 260, py - 215);
            if (r < 100 || r > 172) continue;
            double matte = 0;
            for (int i = 0; i < 16; ++i)
                matte += matteAt(px + ((i % 4 + 0.5) / 4 - 0.5) * (1 << level),
                                 py + ((i / 4 + 0.5) / 4 - 0.5) * (1 << level)) /
                         16;
            sum += std::abs(double{mask.view().at(x, y)} - matte);
            ++count;
        }
    }
    return sum / count;
}

}  // namespace

TEST(FineDetail, AFringeIsFoundStrandByStrand) {
    const auto photo = fringed();
    const double rough = meanOff(maskOf(fresh(photo), hairy(R"(, "enabled": false)"), 0, 128), 0);
    for (const int level : {0, 1}) {
        const double off = meanOff(maskOf(fresh(photo), hairy(), level, 128), level);
        std::printf("level %d: %.3f, without %.3f\n", level, off, rough);
        EXPECT_LT(off, 0.25 * rough) << level;
        EXPECT_LT(off, 0.05) << level;
    }
}

TEST(FineDetail, AnyTilesGiveTheSameBits) {
    const auto photo = fringed();
    const auto document = hairy();
    for (const int level : {0, 1}) {
        const image::Plane<float> whole = maskOf(fresh(photo), document, level, 4096);
        for (const int tilePx : {61, 128, 200}) {
            const image::Plane<float> tiled = maskOf(fresh(photo), document, level, tilePx);
            for (int y = 0; y < whole.size().height; ++y)
                ASSERT_TRUE(std::ranges::equal(whole.row(y), tiled.row(y))) << level << " " << tilePx << " " << y;
        }
    }
}

// It is one picture, not a quilt: across the lines of its blocks it is as even as elsewhere.
TEST(FineDetail, BlocksDoNotShow) {
    const image::Plane<float> mask = maskOf(fresh(fringed()), hairy(), 0, 128);
    double across = 0, beside = 0;
    for (int y = 60; y < 380; ++y) {
        const double truth = matteAt(192.5, y + 0.5) - matteAt(191.5, y + 0.5);
        across += std::abs(double{mask.view().at(192, y)} - double{mask.view().at(191, y)} - truth);
        const double other = matteAt(182.5, y + 0.5) - matteAt(181.5, y + 0.5);
        beside += std::abs(double{mask.view().at(182, y)} - double{mask.view().at(181, y)} - other);
    }
    EXPECT_LT(across, 1.3 * beside + 1);
}

TEST(FineDetail, OpacityTakesItBackAndNothingPaintedChangesNothing) {
    const auto photo = fringed();
    const image::Plane<float> full = maskOf(fresh(photo), hairy(), 0, 128),
                              none = maskOf(fresh(photo), hairy(R"(, "enabled": false)"), 0, 128),
                              half = maskOf(fresh(photo), hairy(R"(, "opacity": 50)"), 0, 128);
    const auto empty = tests::documentOf(R"([{"mask": {"parts": [
        {"kind": "brush", "strokes": [{"size": 280, "softness": 0, "points": [[260, 215]]}]},
        {"kind": "fine-detail", "strokes": []}]}, "adjustments": [{"kind": "light", "exposure": 1}]}])");
    const image::Plane<float> unpainted = maskOf(fresh(photo), empty, 0, 128);
    for (int y = 0; y < size.height; y += 3) {
        for (int x = 0; x < size.width; x += 3) {
            const float middle = (full.view().at(x, y) + none.view().at(x, y)) / 2;
            EXPECT_NEAR(half.view().at(x, y), middle, 2e-4f);
            EXPECT_EQ(unpainted.view().at(x, y), none.view().at(x, y));
        }
    }
}

namespace {

document::DocumentPtr alongEdge(const std::string& strokes = "[]", const std::string& before = "", bool on = true) {
    const std::string disc = R"({"kind": "brush", "strokes": [{"size": 280, "softness": 0, "points": [[260, 215]]}]})";
    return tests::documentOf(R"([{"mask": {"parts": [)" + (before.empty() ? disc : before) +
                             R"(, {"kind": "fine-detail", "along-edge": )" + (on ? "true" : "false") +
                             R"(, "strokes": )" + strokes +
                             R"(}]}, "adjustments": [{"kind": "light", "exposure": 1}]}])");
}

}  // namespace

TEST(FineDetail, AFringeIsFoundAlongTheEdgeWithNothingPainted) {
    const auto photo = fringed();
    for (const int level : {0, 1}) {
        const double rough = meanOff(maskOf(fresh(photo), alongEdge("[]", "", false), level, 128), level),
                     off = meanOff(maskOf(fresh(photo), alongEdge(), level, 128), level);
        std::printf("level %d: %.3f, without %.3f\n", level, off, rough);
        EXPECT_LT(off, 0.35 * rough) << level;
    }
}

TEST(FineDetail, AnyTilesFindTheSameAlongTheEdge) {
    const auto photo = fringed();
    const image::Plane<float> whole = maskOf(fresh(photo), alongEdge(), 0, 4096),
                              tiled = maskOf(fresh(photo), alongEdge(), 0, 61);
    for (int y = 0; y < size.height; ++y) ASSERT_TRUE(std::ranges::equal(whole.row(y), tiled.row(y))) << y;
}

// What was removed by hand stays as the parts above have it.
TEST(FineDetail, WhatIsRemovedIsNotLookedAt) {
    const std::string left = R"([{"size": 300, "softness": 0, "removes": true, "points": [[100, 60], [100, 400]]}])";
    const auto photo = fringed();
    const image::Plane<float> found = maskOf(fresh(photo), alongEdge(), 0, 256),
                              removed = maskOf(fresh(photo), alongEdge(left), 0, 256),
                              plain = maskOf(fresh(photo), alongEdge("[]", "", false), 0, 256);
    double changed = 0;
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < 240; ++x) {
            EXPECT_EQ(removed.view().at(x, y), plain.view().at(x, y)) << x << " " << y;
            changed += found.view().at(x, y) != plain.view().at(x, y) ? 1 : 0;
        }
        for (int x = 330; x < size.width; ++x) EXPECT_NEAR(removed.view().at(x, y), found.view().at(x, y), 0.02) << x;
    }
    EXPECT_GT(changed, 1000);
}

// A plain edge is the cut's: nothing is found along it, whatever the noise.
TEST(FineDetail, PlainEdgesAreLeftAlone) {
    for (const double noise : {0.0, 0.03}) {
        const auto at = [](int x, int y) { return std::clamp(80.5 - std::hypot(x - 160.0, y - 120.0), 0.0, 1.0); };
        image::LinearPlanes picture({320, 240});
        std::mt19937 random(4);
        std::normal_distribution<double> grain(0, 1);
        for (int y = 0; y < 240; ++y) {
            for (int x = 0; x < 320; ++x) {
                const double a = at(x, y), light[3] = {0.4 * a + 0.1 * (1 - a), 0.2, 0.1 * a + 0.5 * (1 - a)};
                image::Plane<float>* planes[3] = {&picture.red, &picture.green, &picture.blue};
                for (int c = 0; c < 3; ++c)
                    planes[c]->row(y)[x] = static_cast<float>(
                        colour::linearFromEncoded(colour::encodedFromLinear(light[c]) + noise * grain(random)));
            }
        }
        const image::Plane<float> mask =
            image::planeOf({320, 240}, [&](int x, int y) { return static_cast<float>(at(x, y)); });
        const image::Plane<std::uint8_t> band = edge::foundBand(picture, mask, noise);
        for (int y = 0; y < 240; ++y) ASSERT_EQ(std::ranges::count(band.row(y), 1), 0) << noise << " " << y;
    }
}

// A passage out of focus, from a mask that is a plain cut through its middle.
TEST(FineDetail, ASoftPassageIsFoundAsSoftAsItIs) {
    const auto soft = [](int x, int) { return 0.5 - 0.5 * std::erf((x + 0.5 - 160) / (10 * std::sqrt(2.0))); };
    image::LinearPlanes picture({320, 240});
    std::mt19937 random(4);
    for (int y = 0; y < 240; ++y) {
        for (int x = 0; x < 320; ++x) {
            const double a = soft(x, y), grain = 0.004 * (random() / 4294967296.0 - 0.5);
            picture.red.row(y)[x] = static_cast<float>(0.5 * a + 0.1 * (1 - a) + grain);
            picture.green.row(y)[x] = static_cast<float>(0.2 + grain);
            picture.blue.row(y)[x] = static_cast<float>(0.1 * a + 0.5 * (1 - a) + grain);
        }
    }
    const image::Plane<float> cut = image::planeOf({320, 240}, [](int x, int) { return x < 160 ? 1.0f : 0.0f; });
    const image::Plane<std::uint8_t> band = edge::foundBand(picture, cut, 0.002);
    const image::Plane<float> solved =
        edge::solvedMatte(picture, {0, 0}, cut, band, base::rectOf({320, 240}), {.noise = 0.002});
    double off = 0, without = 0;
    for (int y = 20; y < 220; ++y) {
        for (int x = 130; x < 190; ++x) {
            off += std::abs(double{solved.view().at(x, y)} - soft(x, y));
            without += std::abs(double{cut.view().at(x, y)} - soft(x, y));
        }
    }
    EXPECT_LT(off, 0.2 * without);
}

TEST(FineDetail, DocumentsKeepIt) {
    const auto again = document::fromJsonText(document::toJsonText(*hairy()));
    ASSERT_TRUE(again);
    const Shape& shape = *(*again)->corrections[0]->mask.parts[1]->shape;
    EXPECT_EQ(shape.kind().id, "fine-detail");
    EXPECT_TRUE(shape.isZone());
    const auto& brush = dynamic_cast<const Brush&>(shape);
    EXPECT_TRUE(brush.withLast(brush.strokes().back())->isZone()) << "painting on keeps the kind";
    EXPECT_TRUE(brush.withStroke(brush.strokes().back())->isZone());
    EXPECT_TRUE(brush.withoutLast()->isZone());
    EXPECT_FALSE(brush.looksAlongEdge()) << "a document without the member";
    const auto looking = brush.withLookingAlongEdge(true);
    EXPECT_TRUE(looking->withLast(looking->strokes().back())->looksAlongEdge());
    EXPECT_TRUE(looking->withStroke(looking->strokes().back())->looksAlongEdge());
    EXPECT_TRUE(looking->withoutLast()->looksAlongEdge());
    const auto kept = document::fromJsonText(document::toJsonText(*alongEdge()));
    ASSERT_TRUE(kept);
    EXPECT_TRUE(dynamic_cast<const Brush&>(*(*kept)->corrections[0]->mask.parts[1]->shape).looksAlongEdge());
}

}  // namespace dimhem::mask
