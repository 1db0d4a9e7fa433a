// Masks that keep to the photo's edges: held strokes, regions, snapped outlines and edge snap, on a subject whose matte
// is known.
#include <gtest/gtest.h>

#include <nlohmann/json.hpp>
#include <random>

#include "core/edge/sides.h"
#include "core/mask/brush.h"
#include "core/mask/held_stroke.h"
#include "core/mask/mask.h"
#include "core/mask/outline.h"
#include "core/mask/region.h"
#include "core/mask/registry.h"
#include "core/render/renderer.h"
#include "tests/support/edge_scene.h"
#include "tests/support/plain_store.h"

namespace dimhem::mask {

namespace {

using tests::EdgeScene;
using tests::HemError;
using tests::hemError;
using tests::PlainStore;

constexpr base::Size size{480, 360};
constexpr Area whole{{0, 0, size.width, size.height}, 0};

EdgeScene scene(double softPx = 1.2) {
    EdgeScene made;
    made.size = size;
    made.softPx = softPx;
    made.outside = [](double x, double y) {
        return std::hypot(x - 220, y - 180) - 110 - 8 * std::sin(std::atan2(y - 180, x - 220) * 5);
    };
    return made;
}

// A store that sees the scene as the renderer would: levels averaged from the photo.
class Look {
public:
    explicit Look(const EdgeScene& scene)
        : renderer_(*render::PhotoSource::make(scene.photo()), std::make_shared<render::TileCache>()) {}

    image::Plane<float> plane(const Mask& mask, const Area& area = whole) const {
        return floatsOf(*coverage(mask, area), area.rect.size());
    }
    CoveragePtr coverage(const Mask& mask, const Area& area) const {
        auto correction = std::make_shared<document::Correction>();
        correction->id = 1;
        correction->mask = mask;
        document::Document document;
        document.corrections = {correction};
        const auto shared = std::make_shared<const document::Document>(document);
        return renderer_.coverage(render::Sequence(shared, {}), 1, area);
    }

private:
    render::Renderer renderer_;
};

Mask maskOf(ShapePtr shape, const Refine& refine = {}) {
    Mask mask;
    mask.parts = {std::make_shared<const Part>(Part{1, "part", Combine::add, false, true, 100, std::move(shape)})};
    mask.refine = refine;
    return mask;
}

BrushSettings holding(double radius) {
    BrushSettings brush;
    brush.sizePx = 2 * radius;
    brush.softnessPct = 30;
    brush.holds = true;
    return brush;
}

// Along the subject's edge, `inside` pixels within it, over half of its round.
std::vector<StrokePoint> alongTheEdge(double inside) {
    std::vector<StrokePoint> points;
    for (double angle = -1.5; angle < 1.5; angle += 0.1) {
        const double r = 110 + 8 * std::sin(angle * 5) - inside;
        points.push_back({{220 + r * std::cos(angle), 180 + r * std::sin(angle)}, 1});
    }
    return points;
}

ShapePtr strokeShape(const BrushSettings& brush, const std::vector<StrokePoint>& points, bool finished = true) {
    const StrokePtr stroke = Stroke::through(brush, points);
    return std::make_shared<Brush>(std::vector<StrokePtr>{finished ? stroke->finished() : stroke});
}

// What the plain stroke would have laid on the subject alone, and how far a mask is from that.
HemError strokeError(const Look& look, const EdgeScene& scene, const ShapePtr& held, BrushSettings plain,
                     const std::vector<StrokePoint>& points) {
    plain.holds = false;
    image::Plane<float> truth = look.plane(maskOf(strokeShape(plain, points)));
    scene.forEach([&](int x, int y) {
        truth.row(y)[static_cast<std::size_t>(x)] *= static_cast<float>(scene.matteAt(x + 0.5, y + 0.5));
    });
    return hemError(look.plane(maskOf(held)), truth);
}

ShapePtr region(std::vector<RegionDrag> drags, double reach = 50) {
    return std::make_shared<Region>(std::move(drags), reach);
}
RegionDrag acrossTheMiddle() {
    return {{{150, 175}, {220, 190}, {290, 180}}, false};
}

std::vector<base::Point> roughOutline(double off) {
    std::vector<base::Point> points;
    for (double angle = 0; angle < 6.28; angle += 0.12) {
        const double r = 110 + off * (1 + 0.4 * std::sin(angle * 7));
        points.push_back({220 + r * std::cos(angle), 180 + r * std::sin(angle)});
    }
    return points;
}

double iou(const image::Plane<float>& mask, const EdgeScene& scene) {
    double both = 0, either = 0;
    scene.forEach([&](int x, int y) {
        const bool m = mask.row(y)[static_cast<std::size_t>(x)] > 0.5f, t = scene.matteAt(x + 0.5, y + 0.5) > 0.5;
        both += m && t;
        either += m || t;
    });
    return both / either;
}

// A mask over tiles is bit for bit that over the whole, whether what was computed before is kept or not.
void expectSameByTiles(const EdgeScene& scene, const Mask& mask) {
    const image::Plane<float> all = Look(scene).plane(mask);
    for (const int tile : {100, 256}) {
        const Look look(scene);
        for (int y = 0; y < size.height; y += tile) {
            for (int x = 0; x < size.width; x += tile) {
                const Area area{base::intersected({x, y, x + tile, y + tile}, base::rectOf(size)), 0};
                const image::Plane<float> part = look.plane(mask, area);
                for (int row = 0; row < area.rect.height(); ++row) {
                    ASSERT_TRUE(std::equal(part.row(row).begin(), part.row(row).end(),
                                           all.row(area.rect.y0 + row).begin() + area.rect.x0))
                        << tile << ": " << x << " " << y + row;
                }
            }
        }
    }
}

// A coarser level is about the mean of the finer one.
void expectLevelsAgree(const EdgeScene& scene, const Mask& mask, double most) {
    const Look look(scene);
    const image::Plane<float> fine = look.plane(mask);
    const Area half{{0, 0, size.width / 2, size.height / 2}, 1};
    const image::Plane<float> coarse = look.plane(mask, half);
    double off = 0;
    for (int y = 0; y < half.rect.height(); ++y) {
        for (std::size_t x = 0; x < static_cast<std::size_t>(half.rect.width()); ++x) {
            const float mean = (fine.row(2 * y)[2 * x] + fine.row(2 * y)[2 * x + 1] + fine.row(2 * y + 1)[2 * x] +
                                fine.row(2 * y + 1)[2 * x + 1]) /
                               4;
            off += std::abs(double{coarse.row(y)[x]} - double{mean});
        }
    }
    EXPECT_LT(100 * off / (half.rect.width() * half.rect.height()), most);
}

ShapePtr reread(const Shape& shape) {
    nlohmann::json json;
    shape.toJson(json);
    auto again = shape.kind().fromJson(json);
    EXPECT_TRUE(again) << again.error().message;
    return again ? *again : nullptr;
}

}  // namespace

TEST(HeldStroke, DoesNotGoPastTheSubjectsEdge) {
    for (const double softPx : {1.2, 9.0}) {
        const EdgeScene made = scene(softPx);
        const Look look(made);
        for (const double radius : {30.0, 70.0}) {
            const auto points = alongTheEdge(0.3 * radius);
            const BrushSettings brush = holding(radius);
            const HemError held = strokeError(look, made, strokeShape(brush, points), brush, points);
            BrushSettings loose = brush;
            loose.holds = false;
            const HemError plain = strokeError(look, made, strokeShape(loose, points), brush, points);
            EXPECT_GT(plain.spillPct, 25) << "the rim does reach past the edge";
            EXPECT_LT(held.spillPct, softPx > 5 ? 2.0 : 0.7) << radius << " soft " << softPx;
            EXPECT_LT(held.shortPct, softPx > 5 ? 4.0 : 2.5) << radius << " soft " << softPx;
        }
    }
}

TEST(HeldStroke, WhileItIsPaintedItHoldsAsWell) {
    const EdgeScene made = scene();
    const Look look(made);
    const auto points = alongTheEdge(20);
    const HemError error = strokeError(look, made, strokeShape(holding(60), points, false), holding(60), points);
    EXPECT_LT(error.spillPct, 3);
    EXPECT_LT(error.shortPct, 6);
}

TEST(HeldStroke, PaintedOnPointByPointIsTheSameAsAtOnce) {
    const EdgeScene made = scene();
    const auto points = alongTheEdge(20);
    const Look look(made);
    StrokePtr stroke = std::make_shared<const Stroke>(holding(60), points.front());
    for (std::size_t i = 1; i < points.size(); ++i) {
        stroke = stroke->extended(points[i]);
        look.plane(maskOf(Brush().withStroke(stroke)));
    }
    const image::Plane<float> grown = look.plane(maskOf(Brush().withStroke(stroke->finished())));
    const image::Plane<float> once = Look(made).plane(maskOf(strokeShape(holding(60), points)));
    for (int y = 0; y < size.height; ++y)
        ASSERT_TRUE(std::equal(grown.row(y).begin(), grown.row(y).end(), once.row(y).begin())) << y;
}

TEST(HeldStroke, RemovingHoldsToo) {
    // From a full mask, a removing stroke on the background takes the mask off it up to the subject's edge.
    const EdgeScene made = scene();
    BrushSettings brush = holding(50);
    brush.removes = true;
    std::vector<StrokePoint> points;
    for (double angle = -0.8; angle < 0.8; angle += 0.1) {
        const double r = 110 + 8 * std::sin(angle * 5) + 15;
        points.push_back({{220 + r * std::cos(angle), 180 + r * std::sin(angle)}, 1});
    }
    Mask mask = maskOf(strokeShape(brush, points));
    BrushSettings all;
    all.sizePx = 2000;
    all.softnessPct = 0;
    mask.parts = {std::make_shared<const Part>(Part{
        1, "part", Combine::add, false, true, 100,
        std::make_shared<Brush>(std::vector<StrokePtr>{Stroke::through(all, std::vector<StrokePoint>{{{220, 180}, 1}}),
                                                       Stroke::through(brush, points)->finished()})})};
    const image::Plane<float> out = Look(made).plane(mask);
    EXPECT_GT(out.row(180)[320], 0.97f) << "within the subject, under the rim";
    EXPECT_LT(out.row(180)[342], 0.03f) << "just beyond its edge";
}

TEST(HeldStroke, TheColourHeldToIsThatUnderTheCentre) {
    const EdgeScene made = scene();
    PlainStore store;
    store.size = size;
    store.colourAt = [&](double x, double y) { return made.at(x, y); };
    const auto held = holdColourAt({220, 180}, 60, store.photo());
    EXPECT_NEAR(held[0], colour::encodedFromLinear(made.subject.r), 0.01);
    EXPECT_NEAR(held[2], colour::encodedFromLinear(made.subject.b), 0.01);
}

TEST(HeldStroke, IsTheSameByTilesAtEveryLevelAndWhenReread) {
    const EdgeScene made = scene();
    const auto shape = strokeShape(holding(60), alongTheEdge(20));
    expectSameByTiles(made, maskOf(shape));
    expectLevelsAgree(made, maskOf(shape), 0.15);
    const auto again = std::dynamic_pointer_cast<const Brush>(reread(*shape));
    ASSERT_TRUE(again);
    EXPECT_TRUE(again->strokes()[0]->brush().holds);
    EXPECT_TRUE(again->strokes()[0]->isFinished());
    const Look look(made);
    EXPECT_EQ(hemError(look.plane(maskOf(again)), look.plane(maskOf(shape))).spillPct, 0);
}

namespace {

// Short strokes over the whole subject, those at its rim from inside it.
std::vector<StrokePtr> manyStrokes(const BrushSettings& brush) {
    std::vector<StrokePtr> strokes;
    for (int row = 0; row < 5; ++row) {
        for (int column = 0; column < 3; ++column) {
            const double x = 140 + 60.0 * column, y = 100 + 40.0 * row;
            if (scene().outside(x, y) > -10 || scene().outside(x + 40, y + 5) > -10) continue;
            strokes.push_back(
                Stroke::through(brush, std::vector<StrokePoint>{{{x, y}, 1}, {{x + 40, y + 5}, 1}})->finished());
        }
    }
    return strokes;
}

double mostApart(const image::Plane<float>& a, const image::Plane<float>& b) {
    double most = 0;
    for (int y = 0; y < a.size().height; ++y) {
        for (std::size_t x = 0; x < a.row(y).size(); ++x)
            most = std::max(most, std::abs(double{a.row(y)[x]} - double{b.row(y)[x]}));
    }
    return most;
}

}  // namespace

TEST(HeldStrokes, InAnyOrderComeToTheSame) {
    const EdgeScene made = scene();
    std::vector<StrokePtr> strokes = manyStrokes(holding(40));
    const Look look(made);
    const image::Plane<float> before = look.plane(maskOf(std::make_shared<Brush>(strokes)));
    EXPECT_LT(hemError(before, look.plane(maskOf(std::make_shared<Brush>(manyStrokes(holding(41)))))).spillPct, 2);
    for (const std::uint32_t seed : {1u, 2u}) {
        std::shuffle(strokes.begin(), strokes.end(), std::mt19937(seed));
        EXPECT_LT(mostApart(look.plane(maskOf(std::make_shared<Brush>(strokes))), before), 1e-3);
    }
}

TEST(HeldStrokes, LaidOneByOneAndTakenBackAreTheSameAsAtOnce) {
    const EdgeScene made = scene();
    const std::vector<StrokePtr> strokes = manyStrokes(holding(40));
    const Look look(made);
    std::vector<image::Plane<float>> stages;
    auto brush = std::make_shared<const Brush>();
    for (std::size_t i = 0; i < strokes.size(); ++i) {
        brush = brush->withStroke(strokes[i]);
        stages.push_back(look.plane(maskOf(brush)));
        const auto once = std::make_shared<Brush>(std::vector(strokes.begin(), strokes.begin() + int(i) + 1));
        EXPECT_EQ(mostApart(stages.back(), Look(made).plane(maskOf(once))), 0) << i;
    }
    EXPECT_EQ(mostApart(look.plane(maskOf(brush->withoutLast())), stages[stages.size() - 2]), 0);
    expectSameByTiles(made, maskOf(brush));
}

// Runs broken by a plain stroke, one that removes, one of another size: however the area is cut up, and laid one by
// one.
TEST(HeldStrokes, AmongOthersAreTheSameByTilesAndOneByOne) {
    const EdgeScene made = scene();
    std::vector<StrokePtr> strokes = manyStrokes(holding(40));
    BrushSettings plain = holding(25), removing = holding(30);
    plain.holds = false;
    removing.removes = true;
    const std::vector<StrokePoint> across{{{180, 150}, 1}, {{260, 220}, 1}};
    for (const BrushSettings& other : {plain, removing, holding(110)}) {
        const auto at = strokes.begin() + static_cast<std::ptrdiff_t>(strokes.size() / 2);
        strokes.insert(at, Stroke::through(other, across)->finished());
    }
    const Look look(made);
    auto brush = std::make_shared<const Brush>();
    for (const StrokePtr& stroke : strokes) {
        brush = brush->withStroke(stroke);
        look.plane(maskOf(brush));
    }
    const auto once = std::make_shared<Brush>(strokes);
    EXPECT_EQ(mostApart(look.plane(maskOf(brush)), Look(made).plane(maskOf(once))), 0);
    expectSameByTiles(made, maskOf(once));
}

TEST(HeldStrokes, OverOneThingKeepToItAsOneDoes) {
    const EdgeScene made = scene();
    const BrushSettings brush = holding(40);
    const Look look(made);
    image::Plane<float> truth = [&] {
        BrushSettings plain = brush;
        plain.holds = false;
        return look.plane(maskOf(std::make_shared<Brush>(manyStrokes(plain))));
    }();
    made.forEach([&](int x, int y) {
        truth.row(y)[static_cast<std::size_t>(x)] *= static_cast<float>(made.matteAt(x + 0.5, y + 0.5));
    });
    const HemError error = hemError(look.plane(maskOf(std::make_shared<Brush>(manyStrokes(brush)))), truth);
    EXPECT_LT(error.spillPct, 0.3);
    EXPECT_LT(error.shortPct, 0.7);
}

TEST(HeldStrokes, AFaintOneOnWhatIsBesideLendsNothingToAFullOne) {
    const EdgeScene made = scene();
    BrushSettings faint = holding(40);
    faint.strengthPct = 20;
    const std::vector<StrokePoint> beside{{{360, 150}, 1}, {{360, 210}, 1}}, within{{{300, 150}, 1}, {{300, 210}, 1}};
    const auto both = std::make_shared<Brush>(std::vector<StrokePtr>{Stroke::through(faint, beside)->finished(),
                                                                     Stroke::through(holding(40), within)->finished()});
    const image::Plane<float> out = Look(made).plane(maskOf(both));
    made.forEach([&](int x, int y) {
        if (made.outside(x + 0.5, y + 0.5) > 2) {
            EXPECT_LT(out.row(y)[static_cast<std::size_t>(x)], 0.21f) << x << " " << y;
        }
    });
    EXPECT_GT(out.row(180)[300], 0.95f);
}

TEST(RegionMask, FillsOutToTheSubjectsEdge) {
    for (const double softPx : {1.2, 9.0}) {
        const EdgeScene made = scene(softPx);
        const image::Plane<float> mask = Look(made).plane(maskOf(region({acrossTheMiddle()})));
        EXPECT_GT(iou(mask, made), 0.985) << softPx;
        const HemError error = hemError(mask, made.matte());
        EXPECT_LT(error.spillPct + error.shortPct, softPx > 5 ? 2.5 : 1.0) << softPx;
    }
}

TEST(RegionMask, WithoutADragThatAddsItCoversNothing) {
    const EdgeScene made = scene();
    const Look look(made);
    EXPECT_TRUE(look.coverage(maskOf(region({})), whole)->isEmpty());
    EXPECT_TRUE(look.coverage(maskOf(region({{{{220, 180}, {240, 180}}, true}})), whole)->isEmpty());
}

TEST(RegionMask, TakesAwayWhatIsDraggedOverThoughItHasTheSameColour) {
    // Two discs of one colour joined by a bridge.
    EdgeScene made;
    made.size = size;
    made.outside = [](double x, double y) {
        const double bridge = std::max(std::abs(y - 180) - 10, std::abs(x - 240) - 80);
        return std::min({std::hypot(x - 130, y - 180) - 70, std::hypot(x - 350, y - 180) - 70, bridge});
    };
    const RegionDrag on{{{100, 170}, {160, 190}}, false}, off{{{330, 150}, {350, 180}, {365, 210}}, true};
    const Look look(made);
    const image::Plane<float> both = look.plane(maskOf(region({on})));
    EXPECT_GT(both.row(180)[350], 0.9f) << "it hangs together and looks alike";
    const image::Plane<float> one = look.plane(maskOf(region({on, off})));
    EXPECT_GT(one.row(180)[130], 0.9f);
    for (const auto& [x, y] : {std::pair{340, 165}, {350, 181}, {362, 204}})
        EXPECT_LT(one.row(y)[static_cast<std::size_t>(x)], 0.1f) << x << ": under the drag that takes away";
}

TEST(RegionMask, ReachesFurtherWhereItIsTold) {
    const EdgeScene made = scene();
    const Look look(made);
    const auto sum = [&](double reach) {
        double all = 0;
        const image::Plane<float> mask = look.plane(maskOf(region({acrossTheMiddle()}, reach)));
        made.forEach([&](int x, int y) { all += double{mask.row(y)[static_cast<std::size_t>(x)]}; });
        return all;
    };
    EXPECT_LE(sum(0), sum(50) * 1.001);
    EXPECT_LE(sum(50), sum(100) * 1.001);
}

TEST(RegionMask, IsTheSameByTilesAtEveryLevelAndWhenReread) {
    const EdgeScene made = scene();
    const auto shape = region({acrossTheMiddle(), {{{400, 40}, {440, 60}}, true}}, 60);
    expectSameByTiles(made, maskOf(shape));
    expectLevelsAgree(made, maskOf(shape), 0.15);
    const auto again = std::dynamic_pointer_cast<const Region>(reread(*shape));
    ASSERT_TRUE(again);
    ASSERT_EQ(again->drags().size(), 2u);
    EXPECT_TRUE(again->drags()[1].removes);
    EXPECT_EQ(again->drags()[0].points.size(), 3u);
    EXPECT_EQ(again->reachPct(), 60);
}

TEST(RegionMask, PartsApartAreKeptInTheDocument) {
    for (const bool apart : {false, true}) {
        const Region shape({acrossTheMiddle()}, 40, apart);
        const auto again = std::dynamic_pointer_cast<const Region>(reread(shape));
        ASSERT_TRUE(again);
        EXPECT_EQ(again->takesApart(), apart);
        EXPECT_EQ(again->reachPct(), 40);
    }
    EXPECT_FALSE(Region::kindInfo.fromJson(nlohmann::json::parse(R"({"drags": [], "apart": 3})")).has_value());
}

TEST(RegionMask, WrongDragsAreRefusedInOneSentence) {
    const std::pair<const char*, const char*> wrong[] = {
        {R"({})", "drags"},
        {R"({"drags": 3})", "drags"},
        {R"({"drags": [3]})", "drags"},
        {R"({"drags": [{"points": []}]})", "points"},
        {R"({"drags": [{"points": [[1]]}]})", "points"},
        {R"({"drags": [{"points": [[1, 2]], "removes": 7}]})", "removes"},
        {R"({"drags": [{"points": [[1, 2]]}], "reach": "far"})", "reach"},
        {R"({"drags": [{"points": [[1, 2]]}], "reach": 500})", "reach"}};
    for (const auto& [text, field] : wrong) {
        const auto read = Region::kindInfo.fromJson(nlohmann::json::parse(text));
        ASSERT_FALSE(read) << text;
        EXPECT_NE(read.error().message.find(field), std::string::npos) << read.error().message;
    }
}

TEST(SnappedOutline, BecomesTheSubjectsMatte) {
    const EdgeScene made = scene();
    const Look look(made);
    for (const double off : {5.0, 15.0, 30.0}) {
        const auto loose = std::make_shared<Outline>(roughOutline(off), 0);
        const auto snapped = std::make_shared<Outline>(roughOutline(off), 0, off + 5);
        EXPECT_LT(iou(look.plane(maskOf(loose)), made), 0.93 + 0.05 * (off < 10)) << off;
        EXPECT_GT(iou(look.plane(maskOf(snapped)), made), 0.99) << off;
        EXPECT_EQ(snapped->points().size(), loose->points().size()) << "the points stay as drawn";
    }
}

TEST(SnappedOutline, IsTheSameByTilesAtEveryLevelAndWhenReread) {
    const EdgeScene made = scene();
    const auto shape = std::make_shared<Outline>(roughOutline(15), 0, 20);
    expectSameByTiles(made, maskOf(shape));
    expectLevelsAgree(made, maskOf(shape), 0.15);
    const auto again = std::dynamic_pointer_cast<const Outline>(reread(*shape));
    ASSERT_TRUE(again);
    EXPECT_EQ(again->snapPx(), 20);
    nlohmann::json json;
    shape->toJson(json);
    json["snap"] = 900;
    EXPECT_FALSE(Outline::kindInfo.fromJson(json));
}

TEST(SnappedOutline, GoesNoFartherThanAsked) {
    const EdgeScene made = scene();
    const Look look(made);
    for (const double snap : {1.0, 3.0}) {
        const auto drawn = look.plane(maskOf(std::make_shared<Outline>(roughOutline(15), 0)));
        const auto snapped = look.plane(maskOf(std::make_shared<Outline>(roughOutline(15), 0, snap)));
        const image::Plane<float> distance = edge::distanceToEdge(edge::sidesOf(drawn), 60);
        made.forEach([&](int x, int y) {
            const auto i = static_cast<std::size_t>(x);
            if (double{distance.row(y)[i]} > 1.3 * snap + 2.5) {
                EXPECT_EQ(snapped.row(y)[i] > 0.5f, drawn.row(y)[i] > 0.5f) << x << ", " << y << " at " << snap;
            }
        });
    }
}

TEST(SnappedOutline, OfASmallDiscKeepsIt) {
    const EdgeScene made = scene();
    const Look look(made);
    std::vector<base::Point> disc;
    for (int i = 0; i < 40; ++i) disc.push_back({20 + 8 * std::cos(i * 0.157), 20 + 8 * std::sin(i * 0.157)});
    for (const double snap : {5.0, 20.0, 40.0, 60.0}) {
        double sum = 0;
        const auto plane = look.plane(maskOf(std::make_shared<Outline>(disc, 0, snap)));
        for (int y = 0; y < plane.size().height; ++y) {
            for (const float v : plane.row(y)) sum += double{v};
        }
        EXPECT_GT(sum, 0.25 * 200) << snap;
    }
}

TEST(EdgeSnap, PullsAnyMaskToTheEdgeByItsStrength) {
    const EdgeScene made = scene();
    const Look look(made);
    const auto drawn = std::make_shared<Outline>(roughOutline(6), 0);
    Refine refine;
    refine.edgeSnapPx = 10;
    const HemError before = hemError(look.plane(maskOf(drawn)), made.matte());
    const HemError after = hemError(look.plane(maskOf(drawn, refine)), made.matte());
    EXPECT_LT(after.spillPct, 0.05 * before.spillPct);
    EXPECT_LT(after.shortPct, 0.4);
    refine.edgeSnapPct = 50;
    EXPECT_NEAR(hemError(look.plane(maskOf(drawn, refine)), made.matte()).spillPct,
                (before.spillPct + after.spillPct) / 2, 0.1 * before.spillPct);
    refine.edgeSnapPct = 0;
    EXPECT_NEAR(hemError(look.plane(maskOf(drawn, refine)), made.matte()).spillPct, before.spillPct, 1e-3);
}

TEST(EdgeSnap, IsTheSameByTiles) {
    Refine refine;
    refine.edgeSnapPx = 10;
    refine.expandPx = 2;
    expectSameByTiles(scene(), maskOf(std::make_shared<Outline>(roughOutline(6), 0), refine));
    expectSameByTiles(scene(), maskOf(region({acrossTheMiddle()}), refine));
}

}  // namespace dimhem::mask
