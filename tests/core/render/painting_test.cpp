// What paints over the photo: fillings of holes and what brush strokes bring, through all that could make them differ.
#include <gtest/gtest.h>

#include <cmath>

#include "core/base/long_work.h"
#include "core/kernel/coverage_rows.h"
#include "core/mask/brought.h"
#include "core/mask/brush.h"
#include "tests/support/documents.h"
#include "tests/support/pictures.h"
#include "tests/support/rendered.h"

namespace dimhem::render {

namespace {

constexpr base::Size photoSize{403, 301};

std::shared_ptr<const PhotoSource> source(base::Size size = photoSize) {
    return *PhotoSource::make(std::make_shared<const image::Photo>(tests::madePhoto(size, 3)));
}

// A photo whose values are a slope.
std::shared_ptr<const PhotoSource> slope(base::Size size) {
    image::Photo photo;
    photo.format = "made";
    photo.samples = image::Samples(size, 3, image::SampleType::f32);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            for (int c = 0; c < 3; ++c) {
                const auto v = static_cast<float>(0.2 + 0.5 * x / size.width + 0.1 * c * y / size.height);
                std::memcpy(photo.samples.row(y) + (3 * x + c) * 4, &v, 4);
            }
        }
    }
    return *PhotoSource::make(std::make_shared<const image::Photo>(std::move(photo)));
}

Renderer fresh(const std::shared_ptr<const PhotoSource>& photo, std::size_t cacheBytes = TileCache::defaultBudget) {
    return Renderer(photo, std::make_shared<TileCache>(cacheBytes));
}

std::string stroke(const std::string& points, const std::string& more, double sizePx = 60, double softness = 40) {
    return R"({"size": )" + std::to_string(sizePx) + R"(, "softness": )" + std::to_string(softness) +
           R"(, "points": )" + points + (more.empty() ? "" : ", " + more) + "}";
}

std::string painted(const std::string& strokes, const std::string& settings = R"("amount": 100)") {
    return R"({"mask": {"parts": [{"kind": "brush", "strokes": [)" + strokes +
           R"(]}]}, "adjustments": [{"kind": "paint", )" + settings + "}]}";
}

std::string filled(const std::string& kind, const std::string& strokes,
                   const std::string& settings = "\"amount\": 100") {
    return R"({"mask": {"parts": [{"kind": "brush", "strokes": [)" + strokes + R"(]}]}, "adjustments": [{"kind": ")" +
           kind + R"(", )" + settings + "}]}";
}

const std::string clone = R"("brings": {"kind": "clone", "offset": [-90, 35]})",
                  turned = R"("brings": {"kind": "clone", "offset": [60, 20], "turn": 30, "scale": 130})",
                  heal = R"("brings": {"kind": "heal", "offset": [80, -40]})",
                  found = R"("brings": {"kind": "heal", "rank": 1})", line = R"("brings": {"kind": "line"})",
                  colour = R"("strength": 60, "brings": {"kind": "colour", "colour": [0.8, 0.4, 0.1]})";

// Every kind of stroke, over and beside others, at the photo's border, above and below other corrections; and each kind
// of filling.
document::DocumentPtr everything() {
    return tests::documentOf(
        R"([{"mask": {"parts": [{"kind": "linear-gradient", "full": [60, 0], "none": [340, 90]}]},
             "adjustments": [{"kind": "light", "exposure": 0.6}]}, )" +
        painted(stroke("[[100, 100], [160, 120]]", clone) + "," + stroke("[[150, 110]]", heal) + "," +
                stroke("[[300, 60]]", found) + "," + stroke("[[20, 200], [390, 240]]", line, 9) + "," +
                stroke("[[210, 160], [260, 150]]", colour) + "," + stroke("[[230, 155]]", R"("removes": true)", 30) +
                "," + stroke("[[2, 5]]", found, 40) + "," + stroke("[[330, 250], [340, 190]]", turned)) +
        "," + filled("smooth-fill", stroke("[[60, 250]]", "", 70), R"("amount": 90, "keep-texture": 40)") + "," +
        filled("line-fill", stroke("[[250, 0], [230, 301]]", "", 8)) + "," +
        filled("texture-fill", stroke("[[340, 130]]", "", 50)) +
        R"(, {"mask": {"parts": [{"kind": "luminosity-range", "tones": [20, 40, 60, 90], "measured": "arriving"}]},
             "adjustments": [{"kind": "soften", "amount": 60, "radius": 4}]}])");
}

image::EncodedPlanes plain(const PhotoSource& photo, int level = 0) {
    image::EncodedPlanes out(image::levelSize(photo.size(), level));
    photo.read(base::rectOf(out.size()), level, out);
    return out;
}

image::Plane<std::uint16_t> coverageOf(const Renderer& renderer, const document::DocumentPtr& document) {
    const Sequence sequence(document, {});
    return renderer.coverage(sequence, document->corrections[0]->id, {base::rectOf(renderer.photo().size()), 0})
        ->copy(renderer.photo().size());
}

double worst(const image::EncodedPlanes& a, const image::EncodedPlanes& b) {
    double most = 0;
    for (int y = 0; y < a.size().height; ++y) {
        for (const auto& [p, q] : {std::pair{&a.red, &b.red}, {&a.green, &b.green}, {&a.blue, &b.blue}}) {
            for (std::size_t x = 0; x < p->row(y).size(); ++x)
                most = std::max(most, std::abs(double{p->row(y)[x]} - double{q->row(y)[x]}));
        }
    }
    return most;
}

document::DocumentPtr one(const std::string& correction) {
    return tests::documentOf("[" + correction + "]");
}

}  // namespace

TEST(Painting, AnyTileSizeWorkersAndCacheGiveTheSameBits) {
    const auto photo = source();
    const auto document = everything();
    for (const int level : {0, 1, 3}) {
        const image::EncodedPlanes whole = tests::assembled(fresh(photo), document, level, 4096, {1, {}});
        for (const int tilePx : {61, 128}) {
            EXPECT_TRUE(tests::sameBits(whole, tests::assembled(fresh(photo), document, level, tilePx, {5, {}})))
                << "level " << level << ", tile " << tilePx;
        }
        EXPECT_TRUE(tests::sameBits(whole, tests::assembled(fresh(photo, 1000), document, level, 128, {2, {}})))
            << "level " << level << ", nothing kept";
    }
}

TEST(Painting, DocumentsKeepWhatStrokesBring) {
    const auto document = everything();
    const auto again = document::fromJsonText(document::toJsonText(*document));
    ASSERT_TRUE(again) << again.error().message;
    const auto photo = source();
    EXPECT_TRUE(tests::sameBits(tests::assembled(fresh(photo), document, 0, 128, {2, {}}),
                                tests::assembled(fresh(photo), *again, 0, 128, {2, {}})));
}

TEST(Painting, WhereNothingIsPaintedThePhotoIsUntouched) {
    const auto photo = source();
    const image::EncodedPlanes was = plain(*photo);
    for (const std::string& correction :
         {painted(stroke("[[100, 100], [160, 120]]", clone)), painted(stroke("[[200, 150]]", heal)),
          painted(stroke("[[200, 150]]", found)), painted(stroke("[[20, 200], [390, 240]]", line, 9)),
          painted(stroke("[[200, 150]]", colour)), painted(stroke("[[200, 150]]", "")),
          filled("smooth-fill", stroke("[[200, 150]]", "")), filled("line-fill", stroke("[[200, 150]]", "")),
          filled("texture-fill", stroke("[[200, 150]]", ""))}) {
        const auto document = one(correction);
        const Renderer renderer = fresh(photo);
        const image::EncodedPlanes out = tests::assembled(renderer, document, 0, 128, {2, {}});
        const auto coverage = coverageOf(renderer, document);
        int untouched = 0, differ = 0;
        for (int y = 0; y < photoSize.height; ++y) {
            for (std::size_t x = 0; x < static_cast<std::size_t>(photoSize.width); ++x) {
                if (coverage.row(y)[x] != 0) continue;
                ++untouched;
                differ += out.red.row(y)[x] != was.red.row(y)[x] || out.blue.row(y)[x] != was.blue.row(y)[x];
            }
        }
        EXPECT_EQ(differ, 0) << correction;
        EXPECT_GT(untouched, 10'000);
    }
}

// A hard brush at full strength lays down the very pixels of the other place.
TEST(Painting, CloneCopiesPixels) {
    const auto photo = source();
    const image::EncodedPlanes was = plain(*photo);
    const auto document = one(painted(stroke("[[200, 150]]", clone, 60, 0)));
    const image::EncodedPlanes out = tests::assembled(fresh(photo), document, 0, 128, {2, {}});
    for (int y = 130; y < 170; ++y) {
        for (int x = 180; x < 220; ++x)
            EXPECT_EQ(out.green.view().at(x, y), was.green.view().at(x - 90, y + 35)) << x << " " << y;
    }
}

TEST(Painting, AColourIsMixedInByCoverageAndStrength) {
    const auto photo = source();
    const image::EncodedPlanes was = plain(*photo);
    const auto document = one(R"({"strength": 70, )" + painted(stroke("[[200, 150]]", colour)).substr(1));
    const Renderer renderer = fresh(photo);
    const image::EncodedPlanes out = tests::assembled(renderer, document, 0, 128, {2, {}});
    const auto coverage = coverageOf(renderer, document);
    int partly = 0;
    for (int y = 0; y < photoSize.height; ++y) {
        for (std::size_t x = 0; x < static_cast<std::size_t>(photoSize.width); ++x) {
            const double c = coverage.row(y)[x] / 65535.0 * 0.7, p = double{was.red.row(y)[x]};
            EXPECT_NEAR(double{out.red.row(y)[x]}, p + c * (0.8 - p), 1.0 / 65535);
            partly += c > 0.01 && c < 0.4;
        }
    }
    EXPECT_GT(partly, 500);
}

// Two colours of half strength over one another: one over the other (Porter and Duff 1984).
TEST(Painting, StrokesLieOverOneAnother) {
    const auto photo = source();
    const double p = double{plain(*photo).red.view().at(200, 150)};
    const std::string first = R"("strength": 50, "brings": {"kind": "colour", "colour": [1, 0, 0]})",
                      second = R"("strength": 50, "brings": {"kind": "colour", "colour": [0, 1, 0]})";
    const auto document =
        one(painted(stroke("[[200, 150]]", first, 60, 0) + "," + stroke("[[200, 150]]", second, 60, 0)));
    const image::EncodedPlanes out = tests::assembled(fresh(photo), document, 0, 128, {2, {}});
    EXPECT_NEAR(double{out.red.view().at(200, 150)}, 0.25 * p + 0.25, 1e-4);
    // Wiped off and painted again, only the second is there.
    const auto again =
        one(painted(stroke("[[200, 150]]", first, 60, 0) + "," + stroke("[[200, 150]]", R"("removes": true)", 60, 0) +
                    "," + stroke("[[200, 150]]", second, 60, 0)));
    const image::EncodedPlanes wiped = tests::assembled(fresh(photo), again, 0, 128, {2, {}});
    EXPECT_NEAR(double{wiped.red.view().at(200, 150)}, 0.5 * p, 1e-4);
}

// Texture that only differs in tone comes in with the tone of where it goes: a slope heals to itself.
TEST(Painting, HealingTakesTheToneOfItsSurroundings) {
    const auto photo = slope(photoSize);
    const image::EncodedPlanes was = plain(*photo);
    for (const std::string& brings : {heal, found}) {
        const auto document = one(painted(stroke("[[200, 150], [240, 170]]", brings)));
        const image::EncodedPlanes out = tests::assembled(fresh(photo), document, 0, 128, {2, {}});
        EXPECT_LT(worst(out, was), 2e-3) << brings;
    }
}

// A stroke sees what those before it brought, never what it brings itself, and none that comes later changes it.
TEST(Painting, StrokesSeeThoseBeforeThem) {
    const auto photo = source();
    const std::string red = R"("brings": {"kind": "colour", "colour": [1, 0, 0]})",
                      from = R"("brings": {"kind": "clone", "offset": [-100, 0]})";
    const auto document = one(painted(stroke("[[100, 150]]", red, 60, 0) + "," + stroke("[[200, 150]]", from, 60, 0)));
    const image::EncodedPlanes out = tests::assembled(fresh(photo), document, 0, 128, {2, {}});
    EXPECT_EQ(out.red.view().at(200, 150), 1.0f);
    EXPECT_EQ(out.green.view().at(200, 150), 0.0f);
    const auto later = one(painted(stroke("[[200, 150]]", from, 60, 0) + "," + stroke("[[100, 150]]", red, 60, 0)));
    EXPECT_LT(tests::assembled(fresh(photo), later, 0, 128, {2, {}}).red.view().at(200, 150), 0.99f);
    // A long stroke that reads where it has itself been: the picture before it, not its own echo.
    const std::string near = R"("brings": {"kind": "clone", "offset": [-40, 0]})";
    const image::EncodedPlanes was = plain(*photo);
    const image::EncodedPlanes echo =
        tests::assembled(fresh(photo), one(painted(stroke("[[100, 150], [300, 150]]", near, 40, 0))), 0, 128, {2, {}});
    EXPECT_NEAR(double{echo.red.view().at(250, 150)}, double{was.red.view().at(210, 150)}, 1e-6);
}

// Painting on, undoing and painting anew keeps nothing of what was not kept.
TEST(Painting, AGrowingStrokeComesToWhatItIsWhenReadWhole) {
    const auto photo = source();
    const std::string first = stroke("[[150, 110]]", heal),
                      grown = stroke("[[150, 110], [170, 130], [200, 120]]", heal);
    const auto before = one(painted(first)), after = one(painted(grown));
    const Renderer renderer = fresh(photo);
    (void)tests::assembled(renderer, before, 1, 128, {2, {}});
    EXPECT_TRUE(tests::sameBits(tests::assembled(renderer, after, 1, 128, {2, {}}),
                                tests::assembled(fresh(photo), after, 1, 128, {2, {}})));
    EXPECT_TRUE(tests::sameBits(tests::assembled(renderer, before, 1, 128, {2, {}}),
                                tests::assembled(fresh(photo), before, 1, 128, {2, {}})));
}

// What an earlier correction does is seen by a stroke, wherever it takes from.
TEST(Painting, WhatArrivesElsewhereIsSeen) {
    const auto photo = source();
    const Renderer renderer = fresh(photo);
    const auto lit = [&](double exposure) {
        return tests::documentOf(
            R"([{"mask": {"parts": [{"kind": "brush", "strokes": [{"size": 60, "softness": 0, "points": [[60, 150]]}]}]},
                 "adjustments": [{"kind": "light", "exposure": )" +
            std::to_string(exposure) + "}]}, " +
            painted(stroke("[[300, 150]]", R"("brings": {"kind": "clone", "offset": [-240, 0]})", 40, 0)) + "]");
    };
    const float dark = tests::assembled(renderer, lit(-2), 0, 128, {2, {}}).green.view().at(300, 150);
    const float light = tests::assembled(renderer, lit(2), 0, 128, {2, {}}).green.view().at(300, 150);
    EXPECT_LT(dark, light - 0.1f);
}

// The found place is one for all levels, so that a view shows what an export makes.
TEST(Painting, AFoundPlaceDoesNotGoByTheView) {
    const auto photo = source();
    const auto document = everything();
    const auto& part = *document->corrections[1]->mask.parts[0];
    const auto& brush = dynamic_cast<const mask::Brush&>(*part.shape);
    const Renderer renderer = fresh(photo);
    const Sequence sequence(document, {});
    const auto context = renderer.maskContext(sequence, document->corrections[1]->id);
    const auto offset = mask::foundOffset(brush.strokes().first(3), *context);
    ASSERT_TRUE(offset);
    EXPECT_GT(std::hypot(offset->x, offset->y), 60);
    EXPECT_FALSE(mask::foundOffset(brush.strokes().first(1), *context)) << "a clone finds nothing";
}

TEST(Painting, KeepLightTintsWithoutCovering) {
    const auto photo = source();
    const image::EncodedPlanes was = plain(*photo);
    const std::string full = R"("brings": {"kind": "colour", "colour": [0.8, 0.4, 0.1]})";
    const auto document = one(painted(stroke("[[200, 150]]", full, 80, 0), R"("amount": 100, "keep-light": 100)"));
    const image::EncodedPlanes out = tests::assembled(fresh(photo), document, 0, 128, {2, {}});
    const auto luminance = [](const image::EncodedPlanes& p, int x, int y) {
        const auto light = [](float v) { return std::pow((double{v} + 0.055) / 1.055, 2.4); };
        return 0.2126 * light(p.red.view().at(x, y)) + 0.7152 * light(p.green.view().at(x, y)) +
               0.0722 * light(p.blue.view().at(x, y));
    };
    for (const auto& [x, y] : {std::pair{200, 150}, {180, 140}, {215, 165}}) {
        EXPECT_NEAR(luminance(out, x, y), luminance(was, x, y), 0.01);
        EXPECT_GT(out.red.view().at(x, y), out.blue.view().at(x, y));
    }
}

// Each looks at what those before it made, at several places: that is worked out once, however many there are.
TEST(Filling, ManyInOneCorrectionCostWhatThereIsOfThem) {
    const auto work = [](const std::string& kind, int count) {
        std::string uses;
        for (int i = 0; i < count; ++i)
            uses += (i ? ", " : "") + (R"({"kind": ")" + kind + R"(", "amount": )" + std::to_string(60 + i) + "}");
        const auto document =
            tests::documentOf(R"([{"mask": {"parts": [{"kind": "brush", "strokes": [)" +
                              stroke("[[120, 90], [180, 110]]", "", 40) + R"(]}]}, "adjustments": [)" + uses + "]}]");
        const Renderer renderer = fresh(source());
        const Sequence sequence(document, {});
        image::EncodedPlanes out({128, 128});
        const std::uint64_t before = base::longWorkHere();
        renderer.picture(sequence, {{0, 0, 128, 128}, 0}, out);
        return static_cast<double>(base::longWorkHere() - before);
    };
    for (const std::string kind : {"smooth-fill", "line-fill", "paint"}) {
        const double two = work(kind, 2), seven = work(kind, 7);
        EXPECT_GT(two, 0);
        EXPECT_LE(seven, 12 * two) << kind << ": " << two << ", then " << seven;
    }
}

TEST(Filling, ASlopeGoesOnThroughHolesOfAnySize) {
    // Whole; in blocks, being long and thin; and on a coarser level, being large.
    struct Case {
        const char* name;
        base::Size photo;
        std::string strokes;
        double within;
    };
    const Case cases[] = {
        {"a spot", {403, 301}, stroke("[[200, 150]]", "", 80, 0), 1e-3},
        {"a long line", {1400, 900}, stroke("[[60, 60], [1340, 840]]", "", 20, 0), 2e-3},
        {"a large place", {1400, 900}, stroke("[[700, 450]]", "", 840, 0), 4e-3},
        {"a larger one", {1300, 800}, stroke("[[400, 400], [900, 400]]", "", 600, 0), 4e-3},
    };
    for (const Case& c : cases) {
        const auto photo = slope(c.photo);
        const auto document = one(filled("smooth-fill", c.strokes, R"("amount": 100, "border": 0)"));
        for (const int level : {0, 1}) {
            const image::EncodedPlanes out = tests::assembled(fresh(photo), document, level, 128, {2, {}});
            const double off = worst(out, plain(*photo, level));
            std::printf("%s, level %d: off by %.5f\n", c.name, level, off);
            EXPECT_LT(off, c.within) << c.name << ", level " << level;
        }
    }
}

TEST(Filling, KeepingAllTextureKeepsFineDetail) {
    const auto photo = source();
    const image::EncodedPlanes was = plain(*photo);
    const auto detail = [&](const std::string& settings) {
        const image::EncodedPlanes out = tests::assembled(
            fresh(photo), one(filled("smooth-fill", stroke("[[200, 150]]", "", 90, 0), settings)), 0, 128, {2, {}});
        double sum = 0;
        for (int y = 130; y < 170; ++y) {
            for (int x = 180; x < 220; ++x) {
                const auto bend = [&](const image::EncodedPlanes& p) {
                    return p.red.view().at(x + 1, y) - 2 * p.red.view().at(x, y) + p.red.view().at(x - 1, y);
                };
                const float d = bend(out) - bend(was);
                sum += double{d} * double{d};
            }
        }
        return std::sqrt(sum / 1600);
    };
    EXPECT_LT(detail(R"("amount": 100, "keep-texture": 100, "texture-size": 6)"),
              0.2 * detail(R"("amount": 100, "keep-texture": 0)"));
}

TEST(Filling, AMaskOfAllLeavesThePhoto) {
    const auto photo = source();
    for (const std::string kind : {"smooth-fill", "line-fill", "texture-fill"}) {
        const auto document = one(R"({"mask": {"starts": "everywhere"}, "adjustments": [{"kind": ")" + kind +
                                  R"(", "amount": 100, "border": 0}]})");
        EXPECT_LT(worst(tests::assembled(fresh(photo), document, 0, 128, {2, {}}), plain(*photo)), 1e-6) << kind;
    }
}

// Photos of a few pixels, strokes beside the photo, offsets that lead nowhere near it: something finite comes out, and
// the same in any tiles.
TEST(Painting, NoPhotoIsTooSmallAndNoPlaceTooFar) {
    const std::string far = R"("brings": {"kind": "clone", "offset": [-90000, 80000]})",
                      farHeal = R"("brings": {"kind": "heal", "offset": [90000, -80000]})",
                      wild = R"("brings": {"kind": "clone", "offset": [3, 2], "turn": 170, "scale": 400})";
    for (const base::Size size : {base::Size{1, 1}, {3, 2}, {1, 40}, {17, 9}, {140, 131}}) {
        const auto photo = source(size);
        for (const std::string& brings : {clone, turned, heal, found, line, colour, far, farHeal, wild}) {
            for (const char* points :
                 {"[[0, 0]]", "[[0, 0], [16, 9]]", "[[-500, -500]]", "[[900, 3]]", "[[-30, 4], [170, 4]]"}) {
                const auto document = one(painted(stroke(points, brings, 12, 30)));
                for (const int level : {0, 2}) {
                    const image::EncodedPlanes out = tests::assembled(fresh(photo), document, level, 128, {1, {}});
                    for (int y = 0; y < out.size().height; ++y) {
                        for (const float v : out.red.row(y)) ASSERT_TRUE(std::isfinite(v)) << brings << " " << points;
                    }
                    EXPECT_TRUE(tests::sameBits(out, tests::assembled(fresh(photo), document, level, 61, {1, {}})));
                }
            }
        }
        for (const std::string kind : {"smooth-fill", "line-fill", "texture-fill"}) {
            for (const char* points : {"[[0, 0]]", "[[0, 0], [16, 9]]", "[[-500, -500]]"}) {
                const auto document =
                    one(filled(kind, stroke(points, "", 12, 30), R"("amount": 100, "keep-texture": 50)"));
                const image::EncodedPlanes out = tests::assembled(fresh(photo), document, 0, 128, {1, {}});
                for (int y = 0; y < out.size().height; ++y) {
                    for (const float v : out.red.row(y)) ASSERT_TRUE(std::isfinite(v)) << kind << " " << points;
                }
            }
        }
    }
}

// Seeded strokes of every kind over one another, undone and painted anew in any order: the document alone decides.
TEST(Painting, AnyOrderOfEditsComesToTheDocumentAlone) {
    const auto photo = source({260, 210});
    const std::string kinds[] = {clone, heal, found, line, colour, R"("removes": true)"};
    const Renderer renderer = fresh(photo);
    std::mt19937 random(9);
    std::vector<std::string> strokes;
    for (int step = 0; step < 40; ++step) {
        if (!strokes.empty() && random() % 3 == 0) {
            strokes.erase(strokes.begin() + static_cast<std::ptrdiff_t>(random() % strokes.size()));
        } else {
            const auto place = [&] {
                return "[" + std::to_string(random() % 260) + ", " + std::to_string(random() % 210) + "]";
            };
            strokes.push_back(stroke("[" + place() + ", " + place() + "]", kinds[random() % 6], 10 + random() % 30));
        }
        std::string all;
        for (const std::string& one : strokes) all += (all.empty() ? "" : ",") + one;
        if (all.empty()) continue;
        const auto document = one(painted(all));
        const int level = static_cast<int>(random() % 2);
        ASSERT_TRUE(tests::sameBits(tests::assembled(renderer, document, level, 128, {2, {}}),
                                    tests::assembled(fresh(photo), document, level, 97, {1, {}})))
            << "step " << step << ": " << all;
    }
}

}  // namespace dimhem::render
