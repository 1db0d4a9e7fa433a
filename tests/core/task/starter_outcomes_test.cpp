// Each shipped starter against a fault whose truth is known: under the fault's own matte (or with its own strokes) it
// brings the photo nearer to the truth by a stated share, and changes nothing outside.
//
// The faults are the demo photos' own, or laid by us on a part of their clean pictures. How far a starter must come is
// our own choice, a little less than was measured.
#include <gtest/gtest.h>

#include <algorithm>
#include <random>

#include "core/document/edits.h"
#include "core/document/starter.h"
#include "core/mask/brush.h"
#include "core/mask/registry.h"
#include "core/mask/veil_density.h"
#include "core/render/renderer.h"
#include "core/task/measure_place.h"
#include "core/task/measuring.h"
#include "core/task/starters.h"
#include "tests/support/truth.h"

namespace dimhem::task {

namespace {

using image::EncodedPlanes;
using tests::colourAt;
using tests::setColour;

struct Scene {
    EncodedPlanes clean, photo;
    mask::MattePixels matte;
};

struct Lit {
    double r, g, b;
};

EncodedPlanes cleanPart(const std::string& photo, const base::Rect& rect) {
    return tests::croppedTo(tests::readPicture(tests::demoFolder / ("truth/" + photo + "-clean.jpg")), rect);
}

mask::MattePixels mattePart(const std::string& name, const base::Rect& rect) {
    const EncodedPlanes picture =
        tests::croppedTo(tests::readPicture(tests::demoFolder / ("truth/" + name + ".png")), rect);
    return tests::matteOf(rect.size(), [&](int x, int y) { return colourAt(picture, x, y).r; });
}

// The fault the demo has.
Scene demoScene(const std::string& photo, const std::string& extension, const std::string& matte,
                const base::Rect& rect) {
    return {cleanPart(photo, rect), tests::croppedTo(tests::readPicture(tests::demoFolder / (photo + extension)), rect),
            mattePart(photo + "-" + matte, rect)};
}

struct Oval {
    double x, y, across, along, soft;  // of the part; soft: a share of the radius
};

mask::MattePixels ovals(base::Size size, std::vector<Oval> list) {
    return tests::matteOf(size, [list](int x, int y) {
        double most = 0;
        for (const Oval& o : list) {
            const double r = std::hypot((x + 0.5 - o.x) / o.across, (y + 0.5 - o.y) / o.along);
            const double t = std::clamp((1 - r) / o.soft, 0.0, 1.0);
            most = std::max(most, t * t * (3 - 2 * t));
        }
        return most;
    });
}

double shareAt(const Scene& scene, int x, int y) {
    return scene.matte->row(y)[static_cast<std::size_t>(x)] / double{kernel::fullCoverage};
}

template <class Change>
Scene faulty(Scene scene, Change change) {
    scene.photo = EncodedPlanes(scene.clean.size());
    for (int y = 0; y < scene.clean.size().height; ++y) {
        for (int x = 0; x < scene.clean.size().width; ++x)
            setColour(scene.photo, x, y, change(scene, x, y, shareAt(scene, x, y)));
    }
    return scene;
}

// In linear light each channel times so much.
Scene lit(EncodedPlanes clean, mask::MattePixels matte, Lit by) {
    return faulty(
        {std::move(clean), EncodedPlanes({1, 1}), std::move(matte)}, [by](const Scene& s, int x, int y, double share) {
            const colour::LinearRgb c = colour::linearFromEncoded(colourAt(s.clean, x, y));
            return colour::encodedFromLinear(colour::LinearRgb{
                c.r * (1 + share * (by.r - 1)), c.g * (1 + share * (by.g - 1)), c.b * (1 + share * (by.b - 1))});
        });
}

EncodedPlanes blurred(const EncodedPlanes& picture, double sigma) {
    const int reach = static_cast<int>(std::ceil(3 * sigma));
    std::vector<double> weights;
    double sum = 0;
    for (int i = -reach; i <= reach; ++i) sum += weights.emplace_back(std::exp(-i * i / (2 * sigma * sigma)));
    const base::Size size = picture.size();
    EncodedPlanes half(size), out(size);
    const auto pass = [&](const EncodedPlanes& from, EncodedPlanes& to, int dx, int dy) {
        for (int y = 0; y < size.height; ++y) {
            for (int x = 0; x < size.width; ++x) {
                colour::EncodedRgb mean{0, 0, 0};
                for (int i = -reach; i <= reach; ++i) {
                    const colour::EncodedRgb c = colourAt(from, std::clamp(x + i * dx, 0, size.width - 1),
                                                          std::clamp(y + i * dy, 0, size.height - 1));
                    const double w = weights[static_cast<std::size_t>(i + reach)] / sum;
                    mean = {mean.r + w * c.r, mean.g + w * c.g, mean.b + w * c.b};
                }
                setColour(to, x, y, mean);
            }
        }
    };
    pass(picture, half, 1, 0);
    pass(half, out, 0, 1);
    return out;
}

// Finer than sigma by so much more (or less) than it was, then times so much light.
Scene detailChanged(EncodedPlanes clean, mask::MattePixels matte, double sigma, double gain, double light = 1) {
    const auto smooth = std::make_shared<EncodedPlanes>(blurred(clean, sigma));
    return faulty({std::move(clean), EncodedPlanes({1, 1}), std::move(matte)},
                  [=](const Scene& s, int x, int y, double share) {
                      const colour::EncodedRgb c = colourAt(s.clean, x, y), b = colourAt(*smooth, x, y);
                      const auto of = [&](double v, double mean) {
                          const double changed = v + share * (gain - 1) * (v - mean);
                          const double linear = colour::linearFromEncoded(std::clamp(changed, 0.0, 1.0));
                          return colour::encodedFromLinear(linear * (1 + share * (light - 1)));
                      };
                      return colour::EncodedRgb{of(c.r, b.r), of(c.g, b.g), of(c.b, b.b)};
                  });
}

// Parts of the clean figurehead.
constexpr base::Rect eyes{960, 500, 1560, 760}, face{760, 200, 1600, 1160}, hair{600, 60, 1060, 760},
    neck{900, 1060, 1360, 1500};

Scene irises() {
    const base::Size size = eyes.size();
    return detailChanged(cleanPart("figurehead", eyes), ovals(size, {{126, 127, 46, 46, .3}, {437, 121, 46, 46, .3}}),
                         12, 0.65, 0.78);
}

Scene eyeWhites(Lit cast) {
    return lit(cleanPart("figurehead", eyes), mattePart("figurehead-eyes", eyes), cast);
}

// A white sheen that covers almost half of what is under it.
Scene hotSpots() {
    return faulty(
        {cleanPart("figurehead", face), EncodedPlanes({1, 1}),
         ovals(face.size(), {{440, 100, 220, 110, .9}, {500, 560, 70, 150, .9}})},
        [](const Scene& s, int x, int y, double share) {
            const colour::LinearRgb c = colour::linearFromEncoded(colourAt(s.clean, x, y));
            const double sheen = 0.45 * share;
            return colour::encodedFromLinear(colour::LinearRgb{
                c.r * (1 - sheen) + sheen, c.g * (1 - sheen) + 0.99 * sheen, c.b * (1 - sheen) + 0.96 * sheen});
        });
}

// The other way round: what the light is to do is the truth.
Scene toBeLit(double soft, Lit by) {
    Scene scene = lit(cleanPart("figurehead", face), ovals(face.size(), {{420, 480, 380, 430, soft}}), by);
    std::swap(scene.clean, scene.photo);
    return scene;
}

document::DocumentPtr begun(const document::Starter& starter, base::Size photo) {
    return document::withStarter(document::Document{}, starter, 0, photo).document;
}

// The matte in the place of what is drawn; beside ranges alone it keeps them to itself.
document::DocumentPtr underMatte(const document::DocumentPtr& begun, const mask::MattePixels& matte) {
    const document::Correction& correction = *begun->corrections[0];
    const auto shape = std::make_shared<const mask::Matte>("matte.png", matte);
    bool isPut = false;
    document::DocumentPtr next = begun;
    for (const mask::PartPtr& part : correction.mask.parts) {
        if (!part->shape->kind().anew) continue;
        isPut = true;
        next = document::withPart(*next, correction.id, part->id, [&](mask::Part& p) { p.shape = shape; });
    }
    return isPut ? next : document::withNewPart(*next, correction.id, shape, mask::Combine::overlap).document;
}

struct Outcome {
    double before, after;  // the mean CIEDE2000 from the truth under the matte
    bool touchesOutside;
};

Outcome outcomeOf(const Scene& scene, document::DocumentPtr document) {
    const render::Renderer renderer(tests::photoOf(scene.photo), std::make_shared<render::TileCache>());
    document = withAllMeasured(renderer, std::move(document));
    render::Comparison off;
    off.allOff = true;
    const mask::Area all{base::rectOf(scene.photo.size()), 0};
    EncodedPlanes was(scene.photo.size()), is(scene.photo.size());
    const render::Sequence sequence(document, {});
    renderer.picture(render::Sequence(document, off), all, was);
    renderer.picture(sequence, all, is);
    const mask::CoveragePtr covered = renderer.coverage(sequence, document->corrections[0]->id, all);
    bool touches = false;
    for (int y = 0; y < all.rect.height(); ++y) {
        for (int x = 0; x < all.rect.width(); ++x) {
            if (covered->isConstant() ? covered->value() : covered->row(y)[x]) continue;
            const colour::EncodedRgb a = colourAt(was, x, y), b = colourAt(is, x, y);
            touches = touches || a.r != b.r || a.g != b.g || a.b != b.b;
        }
    }
    return {tests::meanDifference(was, scene.clean, *scene.matte), tests::meanDifference(is, scene.clean, *scene.matte),
            touches};
}

document::Starter shipped(const std::string& name) {
    return *readStarter(std::filesystem::path(DIMHEM_SOURCE_DIR) / "starters" / (name + ".json"));
}

struct Case {
    std::string starter, fault;
    std::function<Scene()> scene;
    double leaves;  // of the difference, at most
};

}  // namespace

class StarterOutcome : public testing::TestWithParam<Case> {};

TEST_P(StarterOutcome, ComesNearerToTheTruthAndStaysInside) {
    const Case& wanted = GetParam();
    const Scene scene = wanted.scene();
    const Outcome found = outcomeOf(scene, underMatte(begun(shipped(wanted.starter), scene.photo.size()), scene.matte));
    std::printf("%s, %s: mean CIEDE2000 %.2f -> %.2f (%.2f)\n", wanted.starter.c_str(), wanted.fault.c_str(),
                found.before, found.after, found.after / found.before);
    EXPECT_LT(found.after, wanted.leaves * found.before);
    EXPECT_FALSE(found.touchesOutside);
}

INSTANTIATE_TEST_SUITE_P(
    Faults, StarterOutcome,
    testing::Values(Case{"noisy-sky", "dusk",
                         [] {
                             return demoScene("tower-dusk", ".jpg", "sky", {0, 0, 1200, 700});
                         },
                         0.85},
                    Case{"banded-sky", "dusk",
                         [] {
                             return demoScene("tower-dusk", ".jpg", "sky", {0, 0, 1200, 700});
                         },
                         0.8},
                    Case{"blown-spot-filled", "glare",
                         [] {
                             return demoScene("chart-table", ".jpg", "glare", {0, 0, 2400, 1600});
                         },
                         0.5},
                    Case{"dark-foreground", "ground",
                         [] {
                             return demoScene("bay-gradient", ".jpg", "ground", {600, 700, 1800, 1600});
                         },
                         0.6},
                    Case{"far-hills-in-haze", "haze",
                         [] {
                             return demoScene("headlands", ".jpg", "land", {0, 0, 2400, 1600});
                         },
                         0.7},
                    Case{"green-bounce", "lantern",
                         [] {
                             return demoScene("green-sweep", ".png", "lantern", {600, 200, 1800, 1500});
                         },
                         0.8},
                    Case{"hard-shadow", "window",
                         [] {
                             return demoScene("chart-table", ".jpg", "shadow", {0, 0, 2400, 1600});
                         },
                         0.85},
                    Case{"too-red-patch", "patches",
                         [] {
                             return demoScene("figurehead", ".jpg", "patches", {700, 150, 1650, 1150});
                         },
                         0.5},
                    Case{"yellowed-white-things", "keys",
                         [] {
                             return demoScene("harmonium", ".jpg", "keys", {600, 400, 1800, 1300});
                         },
                         0.6},
                    Case{"dull-brick", "flat",
                         [] {
                             const base::Rect part{600, 500, 1200, 1200};
                             return detailChanged(cleanPart("tower-dusk", part), mattePart("tower-dusk-tower", part),
                                                  12, 0.65);
                         },
                         0.9},
                    Case{"soft-small-detail", "soft",
                         [] {
                             return detailChanged(cleanPart("figurehead", hair),
                                                  ovals(hair.size(), {{90, 300, 110, 330, .5}}), 1.4, 0, 0.82);
                         },
                         0.5},
                    Case{"hair-clearer", "soft",
                         [] {
                             return detailChanged(cleanPart("figurehead", hair),
                                                  ovals(hair.size(), {{90, 300, 110, 330, .5}}), 1.6, 0);
                         },
                         0.85},
                    Case{"hair-softer", "hard",
                         [] {
                             return detailChanged(cleanPart("figurehead", hair),
                                                  ovals(hair.size(), {{90, 300, 110, 330, .5}}), 1.5, 2.1);
                         },
                         0.8},
                    Case{"eye-whites", "dim",
                         [] {
                             return eyeWhites({.87, .86, .82});
                         },
                         0.6},
                    Case{"eye-white-with-a-cast", "yellow",
                         [] {
                             return eyeWhites({1, .94, .76});
                         },
                         0.6},
                    Case{"eye-white-with-a-cast", "red",
                         [] {
                             return eyeWhites({1, .84, .83});
                         },
                         0.75},
                    Case{"eye-white-with-a-cast", "green",
                         [] {
                             return eyeWhites({.80, 1.1, .84});
                         },
                         0.75},
                    Case{"iris", "dull", [] { return irises(); }, 0.75},
                    Case{"face-in-shadow", "shade",
                         [] {
                             return lit(cleanPart("figurehead", face), ovals(face.size(), {{420, 480, 360, 460, .3}}),
                                        {.45, .48, .55});
                         },
                         0.4},
                    Case{"hot-spots-on-skin", "sheen", [] { return hotSpots(); }, 0.65},
                    Case{"reddened-neck", "red",
                         [] {
                             return lit(cleanPart("figurehead", neck), ovals(neck.size(), {{240, 240, 170, 170, .6}}),
                                        {1.1, .82, .84});
                         },
                         0.4},
                    Case{"foliage", "yellow",
                         [] {
                             const base::Rect part{0, 300, 700, 1000};
                             return lit(cleanPart("headlands", part), ovals(part.size(), {{330, 220, 320, 230, .3}}),
                                        {1.35, 1.12, .8});
                         },
                         0.85},
                    Case{"warm-oval-light", "lamp",
                         [] {
                             return toBeLit(.9, {1.55, 1.3, 1.0});
                         },
                         0.65},
                    Case{"warm-side-light", "lamp",
                         [] {
                             return toBeLit(.9, {1.55, 1.3, 1.0});
                         },
                         0.65}),
    [](const auto& info) {
        std::string name = info.param.starter + "_" + info.param.fault;
        std::ranges::replace(name, '-', '_');
        return name;
    });

namespace {

// The starter's own brush pressed or drawn over places.
document::DocumentPtr painted(const document::Starter& starter, const std::vector<std::vector<base::Point>>& strokes,
                              base::Size photo, std::optional<colour::EncodedRgb> colour = {}, double sizePx = 0) {
    const document::DocumentPtr begin = begun(starter, photo);
    mask::BrushSettings brush = *document::brushFor(starter, photo);
    if (colour) brush.brings.colour = *colour;
    if (sizePx > 0) brush.sizePx = sizePx;
    std::vector<mask::StrokePtr> made;
    for (const auto& places : strokes) {
        std::vector<mask::StrokePoint> points;
        for (const base::Point& place : places) points.push_back({place.x, place.y, 1});
        made.push_back(mask::Stroke::through(brush, points)->finished());
    }
    const document::Correction& correction = *begin->corrections[0];
    return document::withPart(*begin, correction.id, document::firstPart(correction), [&](mask::Part& part) {
        part.shape = std::make_shared<const mask::Brush>(std::move(made));
    });
}

void expectNearer(const Scene& scene, document::DocumentPtr document, double leaves) {
    const Outcome found = outcomeOf(scene, std::move(document));
    std::printf("%.2f -> %.2f (%.2f)\n", found.before, found.after, found.after / found.before);
    EXPECT_LT(found.after, leaves * found.before);
    EXPECT_FALSE(found.touchesOutside);
}

// Specks of that size, light and dark, laid on a part of the old print.
Scene specked(const std::vector<base::Point>& places, double radius) {
    const base::Rect part{400, 300, 1200, 900};
    std::vector<Oval> specks;
    for (const base::Point& p : places) specks.push_back({p.x, p.y, radius, radius, .4});
    return faulty(
        {cleanPart("boathouse-print", part), EncodedPlanes({1, 1}), ovals(part.size(), specks)},
        [](const Scene& s, int x, int y, double share) {
            const colour::EncodedRgb c = colourAt(s.clean, x, y);
            const double to = (x / 100) % 2 ? 0.95 : 0.08;
            return colour::EncodedRgb{c.r + share * (to - c.r), c.g + share * (to - c.g), c.b + share * (to - c.b)};
        });
}

std::vector<base::Point> scattered(int count, std::uint32_t seed) {
    std::mt19937 random(seed);
    const auto number = [&](int from, int to) { return from + static_cast<int>(random() % unsigned(to - from)); };
    std::vector<base::Point> places;
    for (int i = 0; i < count; ++i) places.push_back({double(number(40, 760)), double(number(40, 560))});
    return places;
}

std::vector<std::vector<base::Point>> presses(const std::vector<base::Point>& places) {
    std::vector<std::vector<base::Point>> out;
    for (const base::Point& place : places) out.push_back({place});
    return out;
}

}  // namespace

TEST(StarterStrokes, SpotsAreHealedOnePressEach) {
    const std::vector<base::Point> places = scattered(12, 41);
    const Scene scene = specked(places, 4);
    expectNearer(scene, painted(shipped("spots-and-dust"), presses(places), scene.photo.size(), {}, 16), 0.4);
}

TEST(StarterStrokes, DustOfAScanIsHealedOnePressEach) {
    const std::vector<base::Point> places = scattered(30, 43);
    const Scene scene = specked(places, 1.8);
    expectNearer(scene, painted(shipped("dust-of-a-scan"), presses(places), scene.photo.size(), {}, 8), 0.4);
}

TEST(StarterStrokes, AFoldIsFilledAcross) {
    const base::Rect part{400, 300, 1200, 900};
    Scene scene{cleanPart("boathouse-print", part), EncodedPlanes({1, 1}),
                tests::matteOf(part.size(), [](int x, int y) {
                    return std::clamp(2.5 - std::abs((y - 120 - 0.4 * x) / std::hypot(1, 0.4)), 0.0, 1.0);
                })};
    scene = faulty(std::move(scene), [](const Scene& s, int x, int y, double share) {
        const colour::EncodedRgb c = colourAt(s.clean, x, y);
        return colour::EncodedRgb{c.r + share * (0.93 - c.r), c.g + share * (0.91 - c.g), c.b + share * (0.86 - c.b)};
    });
    expectNearer(
        scene, painted(shipped("folds-and-scratches"), {{{2, 120.8}, {798, 439.2}}}, scene.photo.size(), {}, 10), 0.4);
}

// A stain that darkens and yellows, washed over with the colour beside it.
TEST(StarterStrokes, AStainIsWashedOver) {
    const Scene scene =
        lit(cleanPart("figurehead", neck), ovals(neck.size(), {{240, 240, 60, 60, .5}}), {.85, .72, .5});
    const document::Starter starter = shipped("stain-washed-over");
    std::vector<std::vector<base::Point>> strokes(4, {{225, 240}, {240, 240}, {255, 240}});
    expectNearer(scene, painted(starter, strokes, scene.photo.size(), colourAt(scene.photo, 150, 240), 130), 0.7);
}

// Of a pick.
static colour::EncodedRgb meanAt(const EncodedPlanes& picture, int x, int y) {
    constexpr int half = 15;
    colour::EncodedRgb sum{0, 0, 0};
    for (int dy = -half; dy <= half; ++dy) {
        for (int dx = -half; dx <= half; ++dx) {
            const colour::EncodedRgb c = colourAt(picture, x + dx, y + dy);
            sum = {sum.r + c.r, sum.g + c.g, sum.b + c.b};
        }
    }
    constexpr double count = (2 * half + 1) * (2 * half + 1);
    return {sum.r / count, sum.g / count, sum.b / count};
}

// Pressed where the demo's leak is densest and where there is none, then measured: as its first line says.
TEST(StarterStrokes, ALightLeakIsTakenOff) {
    const Scene scene = demoScene("boathouse-print", ".jpg", "leak", {0, 0, 2400, 1600});
    document::DocumentPtr document = begun(shipped("light-leak"), scene.photo.size());
    const document::Correction& correction = *document->corrections[0];
    const colour::EncodedRgb dense = meanAt(scene.photo, 1760, 187), clear = meanAt(scene.photo, 1200, 187);
    document = document::withPart(*document, correction.id, correction.mask.parts[0]->id, [&](mask::Part& part) {
        mask::VeilDensityValues values = std::dynamic_pointer_cast<const mask::VeilDensity>(part.shape)->values();
        values.dense = colour::linearFromEncoded(dense);
        values.clear = colour::linearFromEncoded(clear);
        part.shape = std::make_shared<const mask::VeilDensity>(values);
    });
    expectNearer(scene, document, 0.8);
}

}  // namespace dimhem::task
