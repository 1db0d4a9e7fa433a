#include "core/check/figures.h"

#include <gtest/gtest.h>

#include <cmath>
#include <limits>
#include <random>

#include "core/edge/guide.h"

namespace dimhem::check {

namespace {

constexpr base::Size size{480, 320};
constexpr double grain = 0.012;

struct Rgb {
    double r, g, b;
};

template <class Colour>
edge::Guide guideOf(Colour colour, std::uint32_t seed, double noise = grain) {
    std::mt19937 random(seed);
    std::normal_distribution<double> spread(0, noise);
    image::EncodedPlanes picture(size);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const Rgb c = colour(x, y);
            const auto column = static_cast<std::size_t>(x);
            picture.red.row(y)[column] = static_cast<float>(c.r + spread(random));
            picture.green.row(y)[column] = static_cast<float>(c.g + spread(random));
            picture.blue.row(y)[column] = static_cast<float>(c.b + spread(random));
        }
    }
    const edge::Guide guide = edge::guideFrom(std::move(picture));
    return edge::denoised(guide, edge::noiseOf(guide.l));
}

// Full above, none from three quarters of the height on.
image::Plane<float> fromAbove(double strength = 1) {
    return image::planeOf(size, [=](int, int y) {
        const double t = std::clamp((y - 40.0) / 200, 0.0, 1.0);
        return static_cast<float>(strength * (1 - t * t * (3 - 2 * t)));
    });
}

Rgb sky(int, int y) {
    return {0.35 + 0.35 * y / 320, 0.5 + 0.25 * y / 320, 0.75 + 0.1 * y / 320};
}

bool isTower(int x, int y) {
    return x >= 200 && x < 250 && y >= 70;
}
bool isBalloon(int x, int y) {
    return std::hypot(x - 380, y - 100) < 18;
}
bool isHill(int x, int y) {
    return y > 250 + 15 * std::sin(x / 40.0);
}

double shareInside(const Finding& finding, const std::function<bool(int, int)>& truth,
                   const image::Plane<float>& mask) {
    double both = 0, either = 0;
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            if (mask.row(y)[x] < 0.05f) continue;
            bool in = false;  // even-odd
            const auto& line = finding.outline;
            for (std::size_t i = 0, j = line.size() - 1; i < line.size(); j = i++) {
                const base::Point a = line[i], b = line[j];
                if ((a.y > y + .5) != (b.y > y + .5) && x + .5 < (b.x - a.x) * (y + .5 - a.y) / (b.y - a.y) + a.x)
                    in = !in;
            }
            both += in && truth(x, y);
            either += in || truth(x, y);
        }
    }
    return both / either;
}

}  // namespace

TEST(Figures, WhatStandsBeforeTheSkyIsFound) {
    for (const double strength : {1.0, 0.3}) {
        const edge::Guide guide = guideOf(
            [](int x, int y) {
                if (isBalloon(x, y)) return Rgb{0.75, 0.2, 0.15};
                if (isTower(x, y)) return Rgb{0.3 + 0.05 * ((x / 8 + y / 5) % 2), 0.25, 0.22};
                return isHill(x, y) ? Rgb{0.2, 0.3, 0.12} : sky(x, y);
            },
            7);
        const image::Plane<float> mask = fromAbove(strength);
        const std::vector<Finding> found = figuresIn(mask, guide, 0.004);
        ASSERT_EQ(found.size(), 2u) << strength;
        for (const Finding& finding : found) {
            EXPECT_EQ(finding.kind, FindingKind::spill);
            EXPECT_TRUE(finding.isFigure);
        }
        EXPECT_GT(shareInside(found[0], isTower, mask), 0.85) << "the one with most of the gradient on it first";
        EXPECT_GT(shareInside(found[1], isBalloon, mask), 0.79) << "its outline is off by no more than it says";
        EXPECT_NEAR(found[1].pixels, strength * M_PI * 18 * 18 * 0.75, strength * 250);
    }
}

TEST(Figures, WhatIsLeftOutAlreadyIsNotFoundAgain) {
    const edge::Guide guide = guideOf([](int x, int y) { return isTower(x, y) ? Rgb{0.3, 0.25, 0.22} : sky(x, y); }, 8);
    image::Plane<float> mask = fromAbove();
    EXPECT_EQ(figuresIn(mask, guide, 0.004).size(), 1u);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            if (isTower(x, y)) mask.row(y)[x] = 0;
        }
    }
    EXPECT_TRUE(figuresIn(mask, guide, 0.004).empty());
}

// Not found is a right answer, a wrong one never is: what has no clear edge is no figure, and where the gradient lies
// over many things it cannot be told what it is for.
TEST(Figures, NothingIsFoundWhereThereIsNone) {
    for (std::uint32_t seed = 1; seed <= 6; ++seed) {
        std::mt19937 random(seed);
        const auto number = [&] { return random() / 4294967296.0; };
        const double px = 200 + 300 * number(), py = 100 * number();
        std::vector<Rgb> blocks(96 * 64);
        for (Rgb& block : blocks) block = {number(), number(), number()};
        const auto blockAt = [&](int x, int y, int side) { return blocks[std::size_t(y / side * 96 + x / side)]; };
        const auto cloud = [=](int x, int y) {
            return 0.5 + 0.5 * std::sin(x / (px / 6) + py) * std::cos(y / 60.0 + px);
        };
        const std::pair<const char*, std::function<Rgb(int, int)>> kinds[] = {
            {"plain", [](int x, int y) { return sky(x, y); }},
            {"falling off to the corners",
             [](int x, int y) {
                 const double far = std::hypot(x - 240, y - 160) / 290;
                 return Rgb{0.7 - 0.4 * far * far, 0.7 - 0.4 * far * far, 0.7 - 0.4 * far * far};
             }},
            {"soft clouds",
             [&](int x, int y) {
                 const Rgb s = sky(x, y);
                 const double c = 0.5 * cloud(x, y);
                 return Rgb{s.r + c * (0.9 - s.r), s.g + c * (0.9 - s.g), s.b + c * (0.92 - s.b)};
             }},
            {"a soft blob",
             [=](int x, int y) {
                 const double t = std::clamp((std::hypot(x - px, y - py - 60) - 20) / 60, 0.0, 1.0);
                 const double k = 0.35 + 0.65 * t * t * (3 - 2 * t);
                 const Rgb s = sky(x, y);
                 return Rgb{s.r * k, s.g * k, s.b * k};
             }},
            {"two tones with a soft border",
             [=](int x, int y) {
                 const double t = std::clamp((y - 90 - 30 * std::sin(x / px * 3)) / 50, 0.0, 1.0);
                 return Rgb{0.4 + 0.4 * t, 0.5 + 0.2 * t, 0.75 - 0.25 * t};
             }},
            {"blocks", [&](int x, int y) { return blockAt(x, y, 5); }},
            {"faint blocks",
             [&](int x, int y) {
                 const Rgb s = sky(x, y), b = blockAt(x, y, 7);
                 return Rgb{s.r + 0.04 * (b.r - .5), s.g + 0.04 * (b.g - .5), s.b + 0.04 * (b.b - .5)};
             }},
            {"grass",
             [&](int x, int y) {
                 const double n = blockAt(x, y, 5).r;
                 return Rgb{0.2 + 0.25 * n, 0.3 + 0.3 * n, 0.1 + 0.1 * n};
             }},
            {"a thing in grass", [&](int x, int y) {
                 if (isBalloon(x, y)) return Rgb{0.75, 0.2, 0.15};
                 const double n = blockAt(x, y, 5).r > 0.5 ? 0.45 : 0.3;
                 return Rgb{n, n + 0.1, 0.5 * n};
             }}};
        for (const auto& [name, colour] : kinds) {
            const auto found = figuresIn(fromAbove(), guideOf(colour, seed), 0.004);
            EXPECT_TRUE(found.empty()) << name << " " << seed << ": " << found.size();
        }
    }
}

TEST(Figures, OfMasksThatSayNothing) {
    const edge::Guide guide = guideOf([](int x, int y) { return isTower(x, y) ? Rgb{0.3, 0.25, 0.22} : sky(x, y); }, 9);
    EXPECT_TRUE(figuresIn(image::filled(size, 0.0f), guide, 0.004).empty());
    EXPECT_TRUE(figuresIn(fromAbove(0.1), guide, 0.004).empty()) << "too faint to be seen";
    image::Plane<float> spot = image::filled(size, 0.0f);
    spot.row(20)[20] = 1;
    EXPECT_TRUE(figuresIn(spot, guide, 0.004).empty());
    // Pixels that are no numbers, or far beyond white, are no ground; nothing else comes of them.
    const float odd[] = {std::numeric_limits<float>::quiet_NaN(), std::numeric_limits<float>::infinity(), -3e30f};
    edge::Guide damaged = guideOf([](int x, int y) { return isTower(x, y) ? Rgb{0.3, 0.25, 0.22} : sky(x, y); }, 9);
    for (int i = 0; i < 3; ++i) {
        damaged.l.row(30)[100 + 40 * i] = odd[i];
        damaged.a.row(60)[110 + 40 * i] = odd[i];
    }
    EXPECT_LE(figuresIn(fromAbove(), damaged, 0.004).size(), 1u);
    for (const base::Size small : {base::Size{1, 1}, {2, 7}, {9, 1}}) {
        const auto plane = [&] { return image::filled(small, 0.5f); };
        EXPECT_TRUE(figuresIn(image::filled(small, 1.0f), {plane(), plane(), plane()}, 0).empty());
    }
}

}  // namespace dimhem::check
