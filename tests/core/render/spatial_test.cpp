// Operations that look round each pixel, and those by coverage, through all that could make them differ.
#include <gtest/gtest.h>

#include "core/colour/ciede2000.h"
#include "core/colour/lab.h"
#include "core/colour/srgb.h"
#include "core/document/edits.h"
#include "core/kernel/gaussian.h"
#include "core/kernel/srgb_rows.h"
#include "tests/support/documents.h"
#include "tests/support/pictures.h"
#include "tests/support/rendered.h"

namespace dimhem::render {

namespace {

constexpr base::Size photoSize{403, 301};

const std::string everywhere = R"("mask": {"starts": "everywhere"})";
const std::string disc =
    R"("mask": {"parts": [{"kind": "brush", "strokes": [{"size": 160, "softness": 60, "points": [[200, 150], [230, 170]]}]}]})";

std::string softening(double radius, double amount = 100) {
    return R"({"kind": "soften", "amount": )" + std::to_string(amount) + R"(, "radius": )" + std::to_string(radius) +
           "}";
}

document::DocumentPtr softened(double radius, const std::string& mask = everywhere) {
    return tests::documentOf("[{" + mask + R"(, "adjustments": [)" + softening(radius) + "]}]");
}

// Below and above others, with one by coverage between, masked, under a clean edge and a range on what arrives.
document::DocumentPtr amongOthers(double radius) {
    return tests::documentOf(
        R"([{"mask": {"parts": [{"kind": "linear-gradient", "full": [60, 0], "none": [340, 90]}]},
             "adjustments": [{"kind": "light", "exposure": 0.6}]},
            {)" +
        disc + R"(, "strength": 80, "adjustments": [{"kind": "light", "contrast": 30}, )" + softening(radius) +
        R"(, {"kind": "white-balance", "temperature": 5400}, )" + softening(radius / 2, 40) +
        R"(, {"kind": "veil", "amount": 40, "red": 70, "green": 60, "blue": 50}, )" + softening(3, 60) +
        R"(, {"kind": "tint", "strength": 8}]},
            {"clean-edge": true, "mask": {"parts": [{"kind": "outline", "points": [[90, 60], [310, 80], [280, 240], [100, 220]]}],
              "refine": {"feather": 6}}, "adjustments": [{"kind": "light", "exposure": -0.5}, )" +
        softening(5, 70) + R"(]},
            {"mask": {"parts": [{"kind": "luminosity-range", "tones": [20, 40, 60, 90], "measured": "arriving"}]},
             "adjustments": [{"kind": "saturation", "amount": -40}]}])");
}

std::shared_ptr<const PhotoSource> source(base::Size size = photoSize) {
    return *PhotoSource::make(std::make_shared<const image::Photo>(tests::madePhoto(size, 3)));
}

Renderer fresh(const std::shared_ptr<const PhotoSource>& photo, std::size_t cacheBytes = TileCache::defaultBudget) {
    return Renderer(photo, std::make_shared<TileCache>(cacheBytes));
}

// The whole picture blurred at once, by the formula.
image::EncodedPlanes reference(const PhotoSource& photo, double radius) {
    image::EncodedPlanes out(photo.size());
    photo.read(base::rectOf(photo.size()), 0, out);
    for (image::Plane<float>* plane : {&out.red, &out.green, &out.blue}) {
        for (int y = 0; y < out.size().height; ++y) kernel::decodeRow(plane->row(y).data(), plane->row(y).size());
        kernel::gaussianBlur(*plane, radius / 2);
        for (int y = 0; y < out.size().height; ++y) kernel::encodeRow(plane->row(y).data(), plane->row(y).size());
    }
    return out;
}

struct Difference {
    double mean = 0, worst = 0;
};

// But for a border.
Difference differenceOf(const image::EncodedPlanes& a, const image::EncodedPlanes& b, int border = 0) {
    Difference out;
    const base::Size size{a.size().width - 2 * border, a.size().height - 2 * border};
    for (int y = border; y < border + size.height; ++y) {
        for (auto x = static_cast<std::size_t>(border); x < static_cast<std::size_t>(border + size.width); ++x) {
            const auto lab = [&](const image::EncodedPlanes& p) {
                return colour::labFromEncoded({p.red.row(y)[x], p.green.row(y)[x], p.blue.row(y)[x]});
            };
            const double d = colour::ciede2000(lab(a), lab(b));
            out.mean += d / (size.width * size.height);
            out.worst = std::max(out.worst, d);
        }
    }
    return out;
}

// The picture of a level, from the finest scaled down in linear light.
image::EncodedPlanes scaledDown(const image::EncodedPlanes& from, int level) {
    const base::Size size = image::levelSize(from.size(), level);
    image::EncodedPlanes out(size);
    for (const auto plane : {&image::EncodedPlanes::red, &image::EncodedPlanes::green, &image::EncodedPlanes::blue}) {
        out.*plane = image::planeOf(size, [&](int x, int y) {
            double sum = 0, count = 0;
            for (int v = y << level; v < std::min(from.size().height, (y + 1) << level); ++v) {
                for (int u = x << level; u < std::min(from.size().width, (x + 1) << level); ++u) {
                    sum += colour::linearFromEncoded(double{(from.*plane).row(v)[static_cast<std::size_t>(u)]});
                    ++count;
                }
            }
            return static_cast<float>(colour::encodedFromLinear(sum / count));
        });
    }
    return out;
}

}  // namespace

TEST(Spatial, AnyTileSizeWorkersAndCacheGiveTheSameBits) {
    const auto photo = source();
    for (const double radius : {2.0, 30.0, 200.0}) {
        const auto document = amongOthers(radius);
        for (const int level : {0, 2}) {
            const image::EncodedPlanes whole = tests::assembled(fresh(photo), document, level, 4096, {1, {}});
            for (const int tilePx : {61, 128}) {
                EXPECT_TRUE(tests::sameBits(whole, tests::assembled(fresh(photo), document, level, tilePx, {7, {}})))
                    << radius << ", level " << level << ", tile " << tilePx;
            }
        }
    }
}

TEST(Spatial, NothingKeptInTheCacheChangesNoBit) {
    const auto photo = source({150, 140});
    const auto document = amongOthers(12);
    EXPECT_TRUE(tests::sameBits(tests::assembled(fresh(photo), document, 0, 128, {1, {}}),
                                tests::assembled(fresh(photo, 1000), document, 0, 128, {2, {}})));
}

TEST(Spatial, EditingAnyCorrectionAndComingBackChangesNoBit) {
    const auto photo = source();
    const auto document = amongOthers(24), other = amongOthers(30);
    const Renderer renderer = fresh(photo);
    const image::EncodedPlanes first = tests::assembled(renderer, document, 0, 128, {2, {}});
    for (const auto& correction : document->corrections) {
        EXPECT_TRUE(tests::sameBits(first, tests::assembled(renderer, document, 0, 128, {2, {}}, correction->id)));
        EXPECT_FALSE(tests::sameBits(first, tests::assembled(renderer, other, 0, 128, {2, {}}, correction->id)));
    }
    EXPECT_TRUE(tests::sameBits(first, tests::assembled(renderer, document, 0, 128, {2, {}})));
}

// On the photo's own level it is the formula itself. On coarser ones it is near; along the photo's border less so,
// where what goes on beyond it is a coarse pixel.
TEST(Spatial, SofteningIsAGaussianOfTheWholePicture) {
    const auto photo = source({640, 520});
    for (const double radius : {1.0, 6.0, 16.0, 17.0, 40.0, 90.0}) {
        const image::EncodedPlanes expected = reference(*photo, radius),
                                   made = tests::assembled(fresh(photo), softened(radius), 0, 128, {2, {}});
        const Difference inside = differenceOf(expected, made, kernel::gaussianReach(radius / 2)),
                         all = differenceOf(expected, made);
        std::printf("radius %g: mean %.4f worst %.3f, with the border %.4f %.3f\n", radius, inside.mean, inside.worst,
                    all.mean, all.worst);
        EXPECT_LT(inside.mean, radius <= 16 ? 1e-3 : 0.15) << radius;
        EXPECT_LT(inside.worst, radius <= 16 ? 0.01 : 0.5) << radius;
        EXPECT_LT(all.mean, radius <= 16 ? 1e-3 : 1) << radius;
    }
}

TEST(Spatial, ViewsAgreeWithTheExportedPictureScaledDown) {
    const auto photo = source();
    for (const double radius : {2.0, 12.0, 60.0, 200.0}) {
        for (const auto& document : {softened(radius), softened(radius, disc)}) {
            const image::EncodedPlanes full = tests::assembled(fresh(photo), document, 0, 128, {2, {}});
            for (const int level : {1, 2, 3}) {
                const Difference found = differenceOf(scaledDown(full, level),
                                                      tests::assembled(fresh(photo), document, level, 128, {2, {}}));
                std::printf("radius %g, level %d: mean %.3f worst %.2f\n", radius, level, found.mean, found.worst);
                EXPECT_LT(found.mean, 0.5) << radius << " at level " << level;
                EXPECT_LT(found.worst, 3) << radius << " at level " << level;
            }
        }
    }
}

TEST(Spatial, WhereNoMaskReachesThePhotoIsUntouched) {
    const auto photo = source();
    const Renderer renderer = fresh(photo);
    const Sequence sequence(softened(60, disc), {});
    const mask::Area tile{{384, 256, 403, 301}, 0};
    EXPECT_FALSE(renderer.changedPicture(sequence, tile));
    for (const mask::Area& area : {tile, mask::Area{{0, 0, 64, 64}, 0}}) {
        image::EncodedPlanes out(area.rect.size()), was(area.rect.size());
        renderer.picture(sequence, area, out);
        photo->read(area.rect, 0, was);
        EXPECT_TRUE(tests::sameBits(out, was));
    }
}

TEST(Spatial, WhatLiesBeyondTheAreaCounts) {
    // A change 40 pixels away is seen by a radius of 60, and makes another key.
    const auto photo = source();
    const Renderer renderer = fresh(photo);
    const auto lit = [&](double exposure) {
        return tests::documentOf(
            R"([{"mask": {"parts": [{"kind": "brush", "strokes": [{"size": 40, "softness": 0, "points": [[150, 60]]}]}]},
                 "adjustments": [{"kind": "light", "exposure": )" +
            std::to_string(exposure) + "}]}, {" + everywhere + R"(, "adjustments": [)" + softening(60) + "]}]");
    };
    const mask::Area beside{{60, 40, 100, 80}, 0};
    image::EncodedPlanes dark({40, 40}), light({40, 40});
    renderer.picture(Sequence(lit(-3), {}), beside, dark);
    renderer.picture(Sequence(lit(3), {}), beside, light);
    EXPECT_LT(dark.green.row(20)[38], light.green.row(20)[38] - 0.005f);
}

// The laws by which soft edges mix come out the same in any tiles, are kept in documents, and leave what is not
// covered.
TEST(Mixing, AnyTilesGiveTheSameBitsAndDocumentsKeepTheLaw) {
    const auto photo = *PhotoSource::make(tests::sharedPhoto({400, 300}));
    const Renderer plain(photo, std::make_shared<TileCache>());
    const image::EncodedPlanes before = tests::assembled(plain, tests::documentOf("[]"), 0, 128, {});
    for (const std::string law : {"even", "light", "shadow"}) {
        const document::DocumentPtr document =
            tests::documentOf(R"([{"mixing": ")" + law + R"(", "strength": 80, "mask": {"parts": [
                {"kind": "linear-gradient", "full": [100, 0], "none": [260, 40]}]},
                "adjustments": [{"kind": "light", "exposure": 1.4}]}])");
        const auto again = document::fromJsonText(document::toJsonText(*document));
        ASSERT_TRUE(again);
        EXPECT_EQ(kernel::idOf((*again)->corrections[0]->mixing), law);
        const Renderer renderer(photo, std::make_shared<TileCache>());
        const image::EncodedPlanes once = tests::assembled(renderer, document, 0, 128, base::Workers{1});
        for (const int tilePx : {50, 97, 512}) {
            const Renderer other(photo, std::make_shared<TileCache>());
            EXPECT_TRUE(tests::sameBits(once, tests::assembled(other, *again, 0, tilePx, {}))) << law << " " << tilePx;
        }
        EXPECT_EQ(once.red.row(150)[390], before.red.row(150)[390]) << law;
        EXPECT_GT(once.green.row(150)[20], before.green.row(150)[20]) << law;
    }
}

TEST(ByCoverage, AVeilIsTakenOffByItsDensity) {
    const auto photo = source();
    const auto document = tests::documentOf(
        "[{" + disc +
        R"(, "strength": 60, "adjustments": [{"kind": "veil", "amount": 90, "red": 80, "green": 60, "blue": 40}]}])");
    const Renderer renderer = fresh(photo);
    const Sequence sequence(document, {});
    const mask::Area all{base::rectOf(photoSize), 0};
    image::EncodedPlanes was(photoSize), out(photoSize);
    photo->read(all.rect, 0, was);
    renderer.picture(sequence, all, out);
    const auto coverage = renderer.coverage(sequence, document->corrections[0]->id, all)->copy(photoSize);
    int partly = 0;
    for (int y = 0; y < photoSize.height; ++y) {
        for (std::size_t x = 0; x < static_cast<std::size_t>(photoSize.width); ++x) {
            const double w = coverage.row(y)[x] / 65535.0 * 0.6 * 0.9;
            const double p = colour::linearFromEncoded(double{was.red.row(y)[x]});
            const double expected = colour::encodedFromLinear((p - w * 0.8) / (1 - w));
            ASSERT_NEAR(double{out.red.row(y)[x]}, expected, 2e-5) << x << " " << y;
            if (w == 0) {
                ASSERT_EQ(out.red.row(y)[x], was.red.row(y)[x]);
            }
            partly += w > 0 && w < 0.5;
        }
    }
    EXPECT_GT(partly, 1000);
}

TEST(ByCoverage, AVeilLaidOverAndTakenOffAgainLeavesThePhoto) {
    const auto photo = source();
    const auto veil = [&](int amount) {
        return "{" + disc + R"(, "adjustments": [{"kind": "veil", "amount": )" + std::to_string(amount) +
               R"(, "red": 90, "green": 70, "blue": 60}]})";
    };
    const auto document = tests::documentOf("[" + veil(-70) + ", " + veil(70) + "]");
    image::EncodedPlanes was(photoSize);
    photo->read(base::rectOf(photoSize), 0, was);
    const Difference found = differenceOf(was, tests::assembled(fresh(photo), document, 0, 128, {2, {}}));
    EXPECT_LT(found.worst, 0.02);
}

// What stands before it in its correction is mixed first, what stands after it begins from its outcome.
TEST(ByCoverage, GroupsOfACorrectionAreAsCorrectionsOfTheirOwn) {
    const auto photo = source();
    const std::string light = R"({"kind": "light", "exposure": 0.7})", tint = R"({"kind": "tint", "strength": 20})",
                      veil = R"({"kind": "veil", "amount": 50})";
    const auto correction = [&](const std::string& adjustments) {
        return "{" + disc + R"(, "adjustments": [)" + adjustments + "]}";
    };
    const auto together = tests::documentOf("[" + correction(light + "," + veil + "," + tint) + "]");
    const auto apart =
        tests::documentOf("[" + correction(light) + "," + correction(veil) + "," + correction(tint) + "]");
    EXPECT_TRUE(tests::sameBits(tests::assembled(fresh(photo), together, 0, 128, {1, {}}),
                                tests::assembled(fresh(photo), apart, 0, 128, {1, {}})));
}

// What follows it in its correction looks at what was mixed: by blend, by mixing law, by strength, under its mask.
TEST(ByCoverage, WhatComesAfterItIsFoundOnlyForTheSameMixing) {
    using document::Correction;
    const auto photo = source();
    const auto begun = tests::documentOf(
        R"([{"mask": {"parts": [{"kind": "linear-gradient", "full": [60, 40], "none": [330, 200]}]}, "adjustments": [
            {"kind": "light", "exposure": 0.8}, {"kind": "shadow-lift", "amount": 60, "red": 2.2, "green": 1.8, "blue": 1.5},
            {"kind": "soften", "amount": 100, "radius": 12}]}])");
    const auto changed = [&](const std::function<void(Correction&)>& change) {
        return document::withCorrection(*begun, begun->corrections[0]->id, change);
    };
    const document::DocumentPtr versions[] = {
        begun,
        changed([](Correction& c) { c.blend = kernel::BlendMode::multiply; }),
        changed([](Correction& c) { c.mixing = kernel::MixingLaw::shadow; }),
        changed([](Correction& c) { c.mixing = kernel::MixingLaw::light; }),
        changed([](Correction& c) { c.strengthPct = 40; }),
        changed([](Correction& c) { c.mask.inverted = true; }),
        changed([](Correction& c) { c.adjustments[0].settings.values[0] = -1; }),
    };
    const Renderer used = fresh(photo);
    for (const int round : {0, 1}) {
        for (std::size_t i = 0; i < std::size(versions); ++i)
            EXPECT_TRUE(tests::sameBits(tests::assembled(used, versions[i], 0, 128, {}),
                                        tests::assembled(fresh(photo), versions[i], 0, 128, {})))
                << i << ", round " << round;
    }
}

// Dithering is of the whole photo: a correction elsewhere that needs it changes what a tile shows.
TEST(Display, IsFoundOnlyForTheSameDithering) {
    const auto photo = source();
    const std::string left = R"({"mask": {"parts": [{"kind": "radial-gradient", "centre": [60, 60], "half-width": 50,
        "half-height": 50}]}, "adjustments": [{"kind": "light", "exposure": 0.37}]})";
    const std::string right = R"({"mask": {"parts": [{"kind": "radial-gradient", "centre": [380, 280], "half-width": 20,
        "half-height": 20}]}, "adjustments": [{"kind": "banding", "amount": 100, "measured": [[1, 4, 0, 0.1]]}]})";
    const auto one = tests::documentOf("[" + left + "]"), both = tests::documentOf("[" + left + "," + right + "]");
    ASSERT_TRUE(Sequence(both, {}).needsDither());
    const auto shown = [&](const Renderer& renderer, const document::DocumentPtr& document) {
        const auto tile = renderer.display(Sequence(document, {}), {}, {{0, 0, 128, 128}, 0});
        std::vector<std::uint32_t> pixels;
        for (int y = 0; y < 128; ++y) pixels.insert(pixels.end(), tile->row(y).begin(), tile->row(y).end());
        return pixels;
    };
    const Renderer used = fresh(photo);
    const auto plain = shown(used, one);
    EXPECT_EQ(shown(used, both), shown(fresh(photo), both));
    EXPECT_NE(shown(used, both), plain);
    EXPECT_EQ(shown(used, one), plain);
}

// A document may say any level; one finer than the photo's haze is worked out on, or beyond the coarsest there is, is
// held.
TEST(SpatialLevels, FromADocumentAreHeldToThoseThatThePhotoHas) {
    const auto hazy = [](int level) {
        return tests::documentOf(R"([{"mask": {"starts": "everywhere"}, "adjustments": [{"kind": "haze", "amount": 80,
            "colour": [[80, 82, 88]], "measured": [[)" +
                                 std::to_string(level) + R"(, 0.1, 1, 0.05]]}]}])");
    };
    const auto photo = source({1900, 60});  // hazeSide is 1500: level 1
    const auto pictureOf = [&](int level) {
        const Renderer renderer(photo, std::make_shared<TileCache>());
        return tests::assembled(renderer, hazy(level), 2, 128, {});
    };
    const image::EncodedPlanes right = pictureOf(1);
    EXPECT_TRUE(tests::sameBits(pictureOf(0), right));
    EXPECT_TRUE(tests::sameBits(pictureOf(image::maxLevel), pictureOf(photo->levels() - 1)));
    const Renderer renderer(photo, std::make_shared<TileCache>());
    EXPECT_FALSE(tests::sameBits(right, tests::assembled(renderer, tests::documentOf("[]"), 2, 128, {}))) << "it acts";
}

}  // namespace dimhem::render
