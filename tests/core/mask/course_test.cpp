// The course of an outline between its points: through them, as the formula of the curve has it, with corners.
#include "core/mask/course.h"

#include <gtest/gtest.h>

#include <cmath>
#include <nlohmann/json.hpp>
#include <random>

#include "core/mask/outline.h"
#include "tests/support/documents.h"
#include "tests/support/plain_store.h"

namespace dimhem::mask {

namespace {

using Points = std::vector<base::Point>;

Points ring(std::size_t count, double radius, base::Point centre = {100, 75}) {
    Points points;
    for (std::size_t i = 0; i < count; ++i) {
        const double a = 2 * 3.14159265358979 * static_cast<double>(i) / static_cast<double>(count);
        points.push_back(centre + base::Point{radius * std::cos(a), radius * std::sin(a)});
    }
    return points;
}

Points scattered(std::uint32_t seed, std::size_t count = 9) {
    std::mt19937 random(seed);
    Points points;
    for (std::size_t i = 0; i < count; ++i)
        points.push_back({static_cast<double>(random() % 2000) / 10, static_cast<double>(random() % 1500) / 10});
    return points;
}

double lengthOf(base::Point p) {
    return std::hypot(p.x, p.y);
}

// Barry and Goldman's pyramid (1988) for a centripetal spline: the formula itself, in place of its Bezier form.
base::Point spline(const std::array<base::Point, 4>& p, double part) {
    std::array<double, 4> t{};
    for (std::size_t i = 1; i < 4; ++i) t[i] = t[i - 1] + std::sqrt(lengthOf(p[i] - p[i - 1]));
    const double at = t[1] + part * (t[2] - t[1]);
    const auto between = [&](base::Point a, base::Point b, double ta, double tb) {
        return a * ((tb - at) / (tb - ta)) + b * ((at - ta) / (tb - ta));
    };
    const base::Point a1 = between(p[0], p[1], t[0], t[1]), a2 = between(p[1], p[2], t[1], t[2]),
                      a3 = between(p[2], p[3], t[2], t[3]);
    const base::Point b1 = between(a1, a2, t[0], t[2]), b2 = between(a2, a3, t[1], t[3]);
    return between(b1, b2, t[1], t[2]);
}

double distanceTo(const Points& line, base::Point p) {
    double nearest = 1e9;
    for (std::size_t i = 0; i < line.size(); ++i) {
        const base::Point a = line[i], way = line[(i + 1) % line.size()] - a;
        const double length = std::max(1e-12, way.x * way.x + way.y * way.y);
        const double on = std::clamp(((p - a).x * way.x + (p - a).y * way.y) / length, 0.0, 1.0);
        nearest = std::min(nearest, lengthOf(p - a - way * on));
    }
    return nearest;
}

}  // namespace

TEST(Course, StraightIsThePointsThemselves) {
    const Points points = scattered(1);
    const Course course = courseThrough(points, {});
    EXPECT_EQ(course.line, points);
    EXPECT_EQ(course.starts.size(), points.size());
}

TEST(Course, CurvedIsTheSplineThroughThePoints) {
    for (std::uint32_t seed = 1; seed <= 20; ++seed) {
        const Points points = scattered(seed);
        const std::size_t count = points.size();
        const Course course = courseThrough(points, {true, {}});
        for (std::size_t i = 0; i < count; ++i) {
            EXPECT_EQ(course.line[course.starts[i]], points[i]) << seed;
            const std::array<base::Point, 4> p{points[(i + count - 1) % count], points[i], points[(i + 1) % count],
                                               points[(i + 2) % count]};
            for (double part = 0.05; part < 1; part += 0.1)
                EXPECT_LT(distanceTo(course.line, spline(p, part)), 0.08) << seed << ", " << i << " at " << part;
        }
    }
}

TEST(Course, TwelvePointsMakeACircle) {
    for (const double radius : {20.0, 300.0}) {
        const Course course = courseThrough(ring(12, radius, {0, 0}), {true, {}});
        for (const base::Point& p : course.line) EXPECT_NEAR(lengthOf(p), radius, 0.005 * radius);
    }
}

TEST(Course, BetweenTwoCornersItIsStraightAndElsewhereItHasNone) {
    const Points points = ring(8, 50);
    const Course course = courseThrough(points, {true, {2, 3}});
    const base::Point way = points[3] - points[2];
    for (std::size_t i = course.starts[2]; i < course.starts[3]; ++i) {
        const base::Point off = course.line[i] - points[2];
        EXPECT_NEAR(off.x * way.y - off.y * way.x, 0, 1e-6 * lengthOf(way));
    }
    const auto turnAt = [&](std::size_t point) {
        const std::size_t at = course.starts[point], count = course.line.size();
        const base::Point in = course.line[at] - course.line[(at + count - 1) % count],
                          out = course.line[(at + 1) % count] - course.line[at];
        return std::abs(std::atan2(in.x * out.y - in.y * out.x, in.x * out.x + in.y * out.y));
    };
    EXPECT_LT(turnAt(0), 0.2);
    EXPECT_LT(turnAt(5), 0.2);
    EXPECT_GT(turnAt(2), 0.3);
    EXPECT_GT(turnAt(3), 0.3);
}

TEST(Course, PointsThatFallTogetherAndManyOfThemAreTaken) {
    const Course course = courseThrough({{10, 10}, {10, 10}, {60, 10}, {60, 10}, {60, 10}, {30, 50}}, {true, {1}});
    for (const base::Point& p : course.line) EXPECT_TRUE(std::isfinite(p.x) && std::isfinite(p.y));
    Points far;
    for (std::size_t i = 0; i < mostOutlinePoints; ++i) far.push_back({i % 2 ? 0.0 : 60'000.0, i % 3 * 20'000.0});
    EXPECT_LT(courseThrough(far, {true, {}}).line.size(), 2'000'000u);
}

TEST(Joining, CornersGoWithTheirPoints) {
    Joining joining{true, {}};
    joining.turn(5);
    joining.turn(2);
    EXPECT_EQ(joining.corners, (std::vector<std::size_t>{2, 5}));
    joining.insertedAt(3);
    EXPECT_EQ(joining.corners, (std::vector<std::size_t>{2, 6}));
    joining.insertedAt(2);
    EXPECT_EQ(joining.corners, (std::vector<std::size_t>{3, 7})) << "what is put in there comes before it";
    joining.removedAt(0);
    EXPECT_EQ(joining.corners, (std::vector<std::size_t>{2, 6}));
    joining.removedAt(6);
    EXPECT_EQ(joining.corners, (std::vector<std::size_t>{2}));
    EXPECT_TRUE(joining.isCorner(2));
    joining.turn(2);
    EXPECT_FALSE(joining.isCorner(2));
}

TEST(Outline, CurvedItCoversADisc) {
    tests::PlainStore none(false);
    const Area whole{{0, 0, 200, 150}, 0};
    const auto coverage = Outline(ring(12, 50), 0, 0, {true, {}}).over(whole, none).value();
    double sum = 0;
    for (int y = 0; y < 150; ++y) {
        for (int x = 0; x < 200; ++x) {
            const double d = std::hypot(x + 0.5 - 100, y + 0.5 - 75);
            if (d < 49) {
                EXPECT_EQ(tests::at(*coverage, x, y), 65535) << x << " " << y;
            }
            if (d > 51) {
                EXPECT_EQ(tests::at(*coverage, x, y), 0) << x << " " << y;
            }
            sum += tests::at(*coverage, x, y) / 65535.0;
        }
    }
    EXPECT_NEAR(sum, 3.14159265 * 50 * 50, 0.01 * 3.14159265 * 50 * 50);
}

TEST(Outline, HowItsPointsAreJoinedIsInItsKeyAndInTheDocument) {
    tests::PlainStore none(false);
    const Area whole{{0, 0, 200, 150}, 0};
    const Joining some{true, {1, 4}};
    const Outline curved(ring(6, 50), 2, 0, some), straight(ring(6, 50), 2);
    EXPECT_FALSE(curved.over(whole, none).key() == straight.over(whole, none).key());
    EXPECT_FALSE(curved.over(whole, none).key() == Outline(ring(6, 50), 2, 0, {true, {}}).over(whole, none).key());
    nlohmann::json json;
    curved.toJson(json);
    const auto back = Outline::kindInfo.fromJson(json);
    ASSERT_TRUE(back);
    EXPECT_EQ(std::dynamic_pointer_cast<const Outline>(*back)->joining(), some);
    for (const char* wrong : {R"([6])", R"([4, 1])", R"([1, 1])", R"([-1])", R"(3)", R"(["1"])", R"([1.5])"}) {
        json["corners"] = nlohmann::json::parse(wrong);
        EXPECT_FALSE(Outline::kindInfo.fromJson(json)) << wrong;
    }
}

}  // namespace dimhem::mask
