// Lines of known width and colour, followed through strips.
#include "core/edge/followed_line.h"

#include <gtest/gtest.h>

#include <cmath>
#include <functional>
#include <random>

#include "core/colour/srgb.h"

namespace dimhem::edge {
namespace {

constexpr int wide = 121, rows = 400;
constexpr double middle = wide / 2.0;

using Rgb = std::array<double, 3>;

struct Drawn {
    double width = 3, blur = 0.67, sag = 20, noise = 0;
    std::function<Rgb(int x, int y)> ground = [](int, int) { return Rgb{0.4, 0.45, 0.6}; };
    std::function<Rgb(double off, int y)> line = [](double, int) { return Rgb{0.05, 0.05, 0.06}; };

    double at(int row) const { return sag * std::sin(row * 3.14159 / rows); }
    image::LinearPlanes strip() const {
        image::LinearPlanes out({wide, rows});
        std::mt19937 random(5);
        std::normal_distribution<double> grain(0, 1);
        for (int y = 0; y < rows; ++y) {
            for (int x = 0; x < wide; ++x) {
                const double off = x + 0.5 - middle - at(y), a = lineCoverage(off, width, blur);
                const Rgb behind = ground(x, y), thing = line(off, y);
                image::Plane<float>* planes[3] = {&out.red, &out.green, &out.blue};
                for (std::size_t c = 0; c < 3; ++c) {
                    const double v = a * thing[c] + (1 - a) * behind[c];
                    planes[c]->row(y)[x] = static_cast<float>(
                        colour::linearFromEncoded(colour::encodedFromLinear(v) + noise * grain(random)));
                }
            }
        }
        return out;
    }
};

struct Off {
    double across = 0, width = 0, worstAcross = 0;  // mean, mean relative, worst
};

Off offOf(const FollowedLine& line, const Drawn& drawn) {
    Off off;
    for (int y = 0; y < rows; ++y) {
        const LineSpot& spot = line.spots[static_cast<std::size_t>(y)];
        off.across += std::abs(spot.across - drawn.at(y)) / rows;
        off.worstAcross = std::max(off.worstAcross, std::abs(spot.across - drawn.at(y)));
        off.width += std::abs(spot.width / drawn.width - 1) / rows;
    }
    return off;
}

Rgb hills(int x, int y) {
    const double v = 0.35 + 0.15 * std::sin(y / 37.0) * std::cos(x / 29.0);
    return {v, v + 0.05, v + 0.1};
}

}  // namespace

TEST(FollowedLine, WidthAndPlaceOfALineOfKnownWidth) {
    for (const double width : {1.5, 3.0, 6.0, 12.0}) {
        for (const double noise : {0.0, 0.02}) {
            for (const bool uneven : {false, true}) {
                Drawn drawn{.width = width, .noise = noise};
                if (uneven) drawn.ground = hills;
                const Off off = offOf(followedLine(drawn.strip(), {3, 3}, noise), drawn);
                SCOPED_TRACE(::testing::Message() << width << " noise " << noise << " uneven " << uneven);
                EXPECT_LT(off.across, 0.25);
                EXPECT_LT(off.worstAcross, 1.2);
                EXPECT_LT(off.width, width < 2 ? 0.2 : 0.06);
            }
        }
    }
}

TEST(FollowedLine, AsWideInASoftPhotoAsInASharpOne) {
    for (const double width : {3.0, 6.0, 12.0}) {
        for (const double noise : {0.0, 0.02}) {
            const Drawn drawn{.width = width, .blur = 1.23, .noise = noise, .ground = hills};
            const FollowedLine line = followedLine(drawn.strip(), {3, 3}, noise);
            SCOPED_TRACE(::testing::Message() << width << " noise " << noise);
            EXPECT_LT(offOf(line, drawn).width, 0.08);
            EXPECT_LT(offOf(line, drawn).worstAcross, 1.2);
            EXPECT_NEAR(line.blur, drawn.blur, 0.3);
        }
    }
}

// Its colour need not be even: lit on one side, or light here and dark there.
TEST(FollowedLine, ShadedAndChangingLines) {
    Drawn pole{.width = 12, .sag = 0, .noise = 0.01};
    pole.line = [](double off, int) {
        const double lit = std::clamp(off / 6, -1.0, 1.0), v = 0.45 + 0.35 * lit - 0.1 * lit * lit;
        return Rgb{v, v, v};
    };
    const Off ofPole = offOf(followedLine(pole.strip(), {3, 3}, 0.01), pole);
    EXPECT_LT(ofPole.across, 0.5);
    EXPECT_LT(ofPole.width, 0.1);
    Drawn rope{.width = 4, .noise = 0.01};
    rope.line = [](double, int y) { return y < 190 ? Rgb{0.05, 0.05, 0.05} : Rgb{0.9, 0.9, 0.85}; };
    const Off ofRope = offOf(followedLine(rope.strip(), {3, 3}, 0.01), rope);
    EXPECT_LT(ofRope.across, 0.25);
    EXPECT_LT(ofRope.width, 0.1);
}

// Another line that crosses it, one that runs beside it, and the edge of a roof are not it.
TEST(FollowedLine, KeepsToItsOwnLine) {
    const Drawn plain{.width = 3, .noise = 0.01};
    const auto withOther = [&](auto other) {
        Drawn drawn = plain;
        drawn.ground = [other](int x, int y) {
            return other(x + 0.5 - middle, y) ? Rgb{0.03, 0.03, 0.03} : Rgb{0.4, 0.45, 0.6};
        };
        return offOf(followedLine(drawn.strip(), {3, 3}, 0.01), drawn);
    };
    const Off crossed = withOther([](double x, int y) { return std::abs(x - 0.25 * (y - 200)) < 2; });
    EXPECT_LT(crossed.across, 0.4);
    const Off beside = withOther([](double x, int) { return std::abs(x - 32) < 2; });
    EXPECT_LT(beside.across, 0.25);
    const Off roof = withOther([](double x, int) { return x < -14; });
    EXPECT_LT(roof.across, 0.25);
}

// Hidden for a while, it goes straight on.
TEST(FollowedLine, GoesOnWhereItIsHidden) {
    Drawn drawn{.width = 3, .sag = 0, .noise = 0.01};
    drawn.line = [](double, int y) { return y > 150 && y < 230 ? Rgb{0.4, 0.45, 0.6} : Rgb{0.05, 0.05, 0.06}; };
    const Off off = offOf(followedLine(drawn.strip(), {3, 3}, 0.01), drawn);
    EXPECT_LT(off.across, 0.6);
    EXPECT_LT(off.worstAcross, 3);
}

TEST(FollowedLine, BeginsAndEndsWithinReachOfItsPlaces) {
    Drawn drawn{.width = 3, .sag = 0};
    drawn.ground = [](int x, int) {
        return std::abs(x + 0.5 - middle - 20) < 3 ? Rgb{0.9, 0.9, 0.9} : Rgb{0.4, 0.4, 0.4};
    };
    drawn.line = [](double, int) { return Rgb{0.38, 0.38, 0.38}; };  // hardly there; the clear one is 20 off
    const FollowedLine near = followedLine(drawn.strip(), {4, 4}, 0.0);
    EXPECT_LT(std::abs(near.spots.front().across), 6);
    EXPECT_LT(std::abs(near.spots.back().across), 6);
    const FollowedLine far = followedLine(drawn.strip(), {24, 24}, 0.0);
    EXPECT_NEAR(far.spots[rows / 2].across, 20, 0.5);
}

TEST(FollowedLine, StripsOfAnySizeAreTaken) {
    for (const base::Size size : {base::Size{3, 1}, {3, 2}, {25, 1}, {25, 7}}) {
        image::LinearPlanes strip(size);
        for (image::Plane<float>* plane : {&strip.red, &strip.green, &strip.blue}) *plane = image::filled(size, 0.3f);
        const FollowedLine line = followedLine(strip, {2, 2}, 0.01);
        ASSERT_EQ(line.spots.size(), static_cast<std::size_t>(size.height));
        for (const LineSpot& spot : line.spots) {
            EXPECT_TRUE(std::isfinite(spot.across) && std::isfinite(spot.width));
            EXPECT_GT(spot.width, 0);
        }
    }
}

// The integral across is the width: what a line covers does not depend on its blur.
TEST(FollowedLine, CoverageIsAsWideAsTheLine) {
    for (const double width : {0.5, 1.0, 4.0}) {
        for (const double blur : {0.3, 0.7, 2.0}) {
            double sum = 0;
            for (double d = -40; d < 40; d += 0.01) sum += 0.01 * lineCoverage(d, width, blur);
            EXPECT_NEAR(sum, width, 0.002 * width + 1e-3);
            EXPECT_NEAR(lineCoverage(0.4, width, blur), lineCoverage(-0.4, width, blur), 1e-6);
        }
    }
}

}  // namespace dimhem::edge
