// Wires clicked along on photos whose wire is known.
#include "core/mask/wire.h"

#include <gtest/gtest.h>

#include <cmath>
#include <cstring>
#include <random>

#include "core/colour/srgb.h"
#include "core/document/edits.h"
#include "core/document/json_format.h"
#include "core/render/renderer.h"
#include "tests/support/documents.h"
#include "tests/support/rendered.h"

namespace dimhem::mask {
namespace {

constexpr base::Size size{500, 360};

// A hanging rope 3.4 pixels wide, from (40, 60) over its lowest place at (250, 130) to (460, 60).
double ropeAt(double x) {
    return 130 - 70 * (x - 250) * (x - 250) / (210.0 * 210.0);
}

bool isOnRope(double x, double y) {
    const double slope = -140 * (x - 250) / (210.0 * 210.0);
    return std::abs(y - ropeAt(x)) / std::hypot(1, slope) < 1.7;
}

double matteAt(int x, int y) {
    double sum = 0;
    for (int i = 0; i < 64; ++i) sum += isOnRope(x + (i % 8 + 0.5) / 8, y + (i / 8 + 0.5) / 8) ? 1 : 0;
    return sum / 64;
}

std::shared_ptr<const render::PhotoSource> roped() {
    image::Photo photo;
    photo.format = "made";
    photo.samples = image::Samples(size, 3, image::SampleType::u8);
    std::mt19937 random(3);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const double matte = matteAt(x, y), sky = 0.35 + 0.2 * y / size.height + 0.05 * std::sin(x / 31.0);
            const double rope[3] = {0.07, 0.06, 0.05}, ground[3] = {sky, sky + 0.08, sky + 0.2};
            for (int c = 0; c < 3; ++c) {
                const double v = colour::encodedFromLinear(matte * rope[c] + (1 - matte) * ground[c]) * 255;
                const double grain = 4.0 * (random() / 4294967296.0 - 0.5);
                const auto byte = static_cast<std::uint8_t>(std::clamp(v + grain, 0.0, 255.0) + 0.5);
                std::memcpy(photo.samples.row(y) + 3 * x + c, &byte, 1);
            }
        }
    }
    return *render::PhotoSource::make(std::make_shared<const image::Photo>(std::move(photo)));
}

document::DocumentPtr withPart(const std::string& part) {
    return tests::documentOf(R"([{"mask": {"parts": [{"kind": "wire", )" + part +
                             R"(}]}, "adjustments": [{"kind": "light", "exposure": 1}]}])");
}

document::DocumentPtr clicked(const std::string& more = "") {
    return withPart(R"("lines": [{"points": [[62, 82], [252, 127], [440, 76]], "within": 6}])" + more);
}

image::Plane<float> maskOf(const document::DocumentPtr& document, int level, int tilePx,
                           const std::shared_ptr<const render::PhotoSource>& photo) {
    const render::Renderer renderer(photo, std::make_shared<render::TileCache>());
    const base::Size of = image::levelSize(size, level);
    const render::Sequence sequence(document, {});
    image::Plane<float> out(of);
    image::TileGrid(of, tilePx).forEach(base::rectOf(of), [&](const base::Rect& tile) {
        const auto part = renderer.coverage(sequence, document->corrections[0]->id, {tile, level});
        image::copyShared(floatsOf(*part, tile.size()), tile, out, base::rectOf(of));
    });
    return out;
}

image::Plane<float> maskOf(const document::DocumentPtr& document, int level, int tilePx) {
    static const auto photo = roped();
    return maskOf(document, level, tilePx, photo);
}

// A dark line one pixel wide on a light ground, the same from either side.
std::shared_ptr<const render::PhotoSource> level() {
    image::Photo photo;
    photo.format = "made";
    photo.samples = image::Samples(size, 3, image::SampleType::u8);
    for (int y = 0; y < size.height; ++y)
        std::memset(photo.samples.row(y), y == 150 ? 40 : 200, static_cast<std::size_t>(3 * size.width));
    return *render::PhotoSource::make(std::make_shared<const image::Photo>(std::move(photo)));
}

// Between the first and the last click, off its ends.
struct Off {
    double spillPct = 0, shortPct = 0;
};
Off offOf(const image::Plane<float>& mask, int level) {
    Off off;
    double all = 0;
    const int scale = 1 << level;
    for (int y = 0; y < mask.size().height; ++y) {
        for (int x = 70 / scale; x < 430 / scale; ++x) {
            double matte = 0;
            for (int i = 0; i < scale * scale; ++i)
                matte += matteAt(x * scale + i % scale, y * scale + i / scale) / (scale * scale);
            const double more = double{mask.view().at(x, y)} - matte;
            off.spillPct += std::max(0.0, 100 * more);
            off.shortPct += std::max(0.0, -100 * more);
            all += matte;
        }
    }
    return {off.spillPct / all, off.shortPct / all};
}

}  // namespace

TEST(Wire, CoversTheRopeAtEveryLevel) {
    for (const int level : {0, 1, 2}) {
        const Off off = offOf(maskOf(clicked(), level, 128), level);
        std::printf("level %d: spill %.1f, short %.1f %%\n", level, off.spillPct, off.shortPct);
        EXPECT_LT(off.spillPct, 6) << level;
        EXPECT_LT(off.shortPct, 6) << level;
    }
}

TEST(Wire, AnyTilesGiveTheSameBits) {
    for (const int level : {0, 1}) {
        const image::Plane<float> whole = maskOf(clicked(), level, 4096);
        for (const int tilePx : {61, 128}) {
            const image::Plane<float> tiled = maskOf(clicked(), level, tilePx);
            for (int y = 0; y < whole.size().height; ++y)
                ASSERT_TRUE(std::ranges::equal(whole.row(y), tiled.row(y))) << level << " " << tilePx << " " << y;
        }
    }
}

// Clicks further off, more of them, or fewer, come to the same rope.
TEST(Wire, HastyClicksComeToTheSameRope) {
    for (const char* points : {"[62, 77], [252, 133], [440, 72]", "[62, 82], [440, 76]",
                               "[62, 82], [120, 101], [180, 121], [252, 127], [330, 118], [440, 76]"}) {
        const auto document = withPart(R"("lines": [{"points": [)" + std::string(points) + R"(], "within": 8}])");
        const Off off = offOf(maskOf(document, 0, 256), 0);
        EXPECT_LT(off.spillPct, 10) << points;
        EXPECT_LT(off.shortPct, 10) << points;
    }
}

// From its other end it is the same rope.
TEST(Wire, TheOtherWayRoundIsTheSame) {
    const image::Plane<float> there = maskOf(clicked(), 0, 256),
                              back = maskOf(withPart(R"("lines": [{"points": [[440, 76], [252, 127], [62, 82]]}])"), 0,
                                            256);
    double differs = 0, all = 0;
    for (int y = 0; y < size.height; ++y) {
        for (int x = 70; x < 430; ++x) {
            differs += std::abs(double{there.view().at(x, y)} - double{back.view().at(x, y)});
            all += double{there.view().at(x, y)};
        }
    }
    EXPECT_LT(differs, 0.06 * all);
}

TEST(Wire, EndsAlikeAtBothClicks) {
    const image::Plane<float> mask =
        maskOf(withPart(R"("lines": [{"points": [[150, 150.5], [350, 150.5]], "within": 0}])"), 0, 256, level());
    EXPECT_GT(mask.view().at(150, 150), 0.5f);
    const auto acrossAt = [&](int x) {
        double sum = 0;
        for (int y = 145; y < 156; ++y) sum += double{mask.view().at(x, y)};
        return sum;
    };
    for (int off = 1; off <= 3; ++off)
        EXPECT_NEAR(acrossAt(150 - off), acrossAt(349 + off), 0.005) << off << " beyond its ends";
}

// A click a little beside it hardly moves it.
TEST(Wire, SmallMovesOfAClickMoveItLittle) {
    const image::Plane<float> still = maskOf(clicked(), 0, 256);
    for (const char* moved : {"[62, 83], [252, 127], [440, 76]", "[62, 82], [253, 128], [440, 76]"}) {
        const image::Plane<float> now =
            maskOf(withPart(R"("lines": [{"points": [)" + std::string(moved) + "]}]"), 0, 256);
        double differs = 0, all = 0;
        for (int y = 0; y < size.height; ++y) {
            for (int x = 70; x < 430; ++x) {
                differs += std::abs(double{still.view().at(x, y)} - double{now.view().at(x, y)});
                all += double{still.view().at(x, y)};
            }
        }
        EXPECT_LT(differs, 0.05 * all) << moved;
    }
}

TEST(Wire, WidthIsOfWhatWasFound) {
    const auto sum = [](const image::Plane<float>& mask) {
        double all = 0;
        for (int y = 0; y < mask.size().height; ++y) {
            for (const float v : mask.row(y)) all += double{v};
        }
        return all;
    };
    const double found = sum(maskOf(clicked(), 0, 256));
    EXPECT_NEAR(sum(maskOf(clicked(R"(, "width": 200)"), 0, 256)), 2 * found, 0.05 * found);
    EXPECT_NEAR(sum(maskOf(clicked(R"(, "width": 50)"), 0, 256)), 0.5 * found, 0.05 * found);
}

TEST(Wire, OnePlaceOrTwiceTheSameCoverNothing) {
    for (const char* lines : {"[]", R"([{"points": [[62, 82]]}])", R"([{"points": [[62, 82], [62, 82]]}])",
                              R"([{"points": [[-900000, 5], [900000, 5]]}])"}) {
        const image::Plane<float> mask = maskOf(withPart(R"("lines": )" + std::string(lines)), 0, 256);
        for (int y = 0; y < mask.size().height; ++y)
            ASSERT_EQ(*std::ranges::max_element(mask.row(y)), 0.0f) << lines << " " << y;
    }
}

// Places may lie outside the photo, as those of any part.
TEST(Wire, PlacesOutsideThePhotoAreTaken) {
    const auto document = withPart(R"("lines": [{"points": [[-200, -30], [250, 128], [900, 20]]}])");
    const image::Plane<float> whole = maskOf(document, 0, 4096), tiled = maskOf(document, 0, 61);
    for (int y = 0; y < size.height; ++y) ASSERT_TRUE(std::ranges::equal(whole.row(y), tiled.row(y))) << y;
    EXPECT_GT(whole.view().at(250, 130), 0.5f);
}

TEST(Wire, DocumentsKeepIt) {
    const auto again = document::fromJsonText(document::toJsonText(*clicked(R"(, "width": 130)")));
    ASSERT_TRUE(again);
    const auto& wire = dynamic_cast<const Wire&>(*(*again)->corrections[0]->mask.parts[0]->shape);
    ASSERT_EQ(wire.lines().size(), 1u);
    EXPECT_EQ(wire.lines()[0].points.size(), 3u);
    EXPECT_EQ(wire.lines()[0].points[1], (base::Point{252, 127}));
    EXPECT_EQ(wire.lines()[0].withinPx, 6);
    EXPECT_EQ(wire.widthPct(), 130);
}

TEST(Wire, WrongValuesGetASentence) {
    const auto reading = [](const std::string& part) {
        const auto read =
            document::fromJsonText(R"({"format": "dim-hem-document", "version": 1, "photo": {"path": "a.png"},
            "corrections": [{"mask": {"parts": [{"kind": "wire", )" +
                                   part + R"(}]}}]})");
        return read ? std::string() : read.error().message;
    };
    EXPECT_EQ(reading(R"("lines": [])"), "");
    for (const char* part : {R"("width": 100)", R"("lines": 3)", R"("lines": [3])", R"("lines": [{"points": []}])",
                             R"("lines": [{"points": [[1]]}])", R"("lines": [], "width": 5)",
                             R"("lines": [{"points": [[1, 2]], "within": -1}])"})
        EXPECT_NE(reading(part), "") << part;
}

}  // namespace dimhem::mask
