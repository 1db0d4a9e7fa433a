#include "core/adjust/detail.h"

#include <gtest/gtest.h>

#include <cmath>
#include <functional>
#include <random>

#include "core/colour/lab.h"
#include "core/colour/srgb.h"
#include "core/kernel/srgb_rows.h"

namespace dimhem::adjust {
namespace {

constexpr base::Size size{240, 80};

// Of tones above L* 8 (CIE 15:2004).
double luminanceOf(double lightness) {
    return std::pow((lightness + 16) / 116, 3);
}

double encodedOf(double lightness) {
    return colour::encodedFromLinear(luminanceOf(lightness));
}

using Scene = std::function<double(int x, int y)>;

// A grey picture, in one piece at level 0.
class Picture {
public:
    explicit Picture(const Scene& encoded) {
        planes_.red = image::planeOf(size, [&](int x, int y) { return static_cast<float>(encoded(x, y)); });
        planes_.green = image::copied(planes_.red);
        planes_.blue = image::copied(planes_.red);
    }
    static Picture ofLightness(const Scene& lightness) {
        return Picture([&](int x, int y) { return encodedOf(lightness(x, y)); });
    }

    Picture applied(const Settings& settings) && {
        for (const Operation& operation : detail.prepare(settings)) {
            const auto& spatial = *std::get<std::unique_ptr<const SpatialOperation>>(operation);
            EXPECT_EQ(spatial.modelLevel(0), 0) << "these tests look at one level";
            const int by = spatial.reach(0);
            const auto grown = [&](const image::Plane<float>& from) {
                return image::planeOf({size.width + 2 * by, size.height + 2 * by}, [&](int x, int y) {
                    const int px = std::clamp(x - by, 0, size.width - 1), py = std::clamp(y - by, 0, size.height - 1);
                    return from.row(py)[static_cast<std::size_t>(px)];
                });
            };
            image::EncodedPlanes around;
            around.red = grown(planes_.red);
            around.green = grown(planes_.green);
            around.blue = grown(planes_.blue);
            std::vector<image::Plane<float>> model;
            for (std::size_t i = 0; i < spatial.planes(); ++i) model.emplace_back(size);
            spatial.makeModel(std::move(around), {}, {}, model);
            for (int y = 0; y < size.height; ++y) {
                kernel::ConvertibleRow row(kernel::rowOf(planes_, y), static_cast<std::size_t>(size.width));
                std::vector<const float*> rows;
                for (const auto& plane : model) rows.push_back(plane.row(y).data());
                spatial.row(row, rows);
                row.encoded();
            }
        }
        return std::move(*this);
    }

    double at(int x, int y = 40) const { return double{planes_.green.row(y)[static_cast<std::size_t>(x)]}; }
    double lightness(int x, int y = 40) const { return colour::lightness(colour::linearFromEncoded(at(x, y))); }

private:
    image::EncodedPlanes planes_;
};

Settings with(std::initializer_list<std::pair<std::string_view, double>> values, double noiseLevels = 0) {
    Settings settings = neutralSettings(detail);
    for (const auto& [id, value] : values) {
        const auto at = std::ranges::find(detail.params, id, &base::ParamSpec::id);
        EXPECT_NE(at, detail.params.end()) << id;
        settings.values[static_cast<std::size_t>(at - detail.params.begin())] = value;
    }
    settings.tables = {{noiseLevels}};
    EXPECT_TRUE(isValid(detail, settings));
    return settings;
}

// How much of a texture is in a picture, as a part of what it was.
double gainOf(const Scene& texture, const Scene& value, int from, int to) {
    double sum = 0, with = 0, of = 0, count = 0;
    for (int y = 20; y < 60; ++y) {
        for (int x = from; x < to; ++x) sum += value(x, y), ++count;
    }
    for (int y = 20; y < 60; ++y) {
        for (int x = from; x < to; ++x) {
            with += texture(x, y) * (value(x, y) - sum / count);
            of += texture(x, y) * texture(x, y);
        }
    }
    return with / of;
}

TEST(LocalContrast, AStepKeepsItsHeightWithoutAHalo) {
    const Picture picture = Picture::ofLightness([](int x, int) {
                                return x < 120 ? 30 : 70;
                            }).applied(with({{"local-contrast", 100}, {"scale", 16}}));
    double overshoot = 0;
    for (int x = 60; x < 180; ++x) {
        if (std::abs(x - 119.5) < 1) continue;
        overshoot = std::max(overshoot, x < 120 ? 30 - picture.lightness(x) : picture.lightness(x) - 70);
    }
    EXPECT_LT(overshoot, 0.01 * 40);
}

// Near black a ratio of lightness is a large one of light: it is held to four times, and to a quarter.
TEST(LocalContrast, BesideNearBlackNothingGrowsBeyondFourTimes) {
    for (const double amount : {100.0, -100.0}) {
        const Scene light = [](int x, int y) { return (x / 3 + y / 3) % 2 == 0 ? 0.00002 : x < 120 ? 0.003 : 0.4; };
        const Scene encoded = [&](int x, int y) { return colour::encodedFromLinear(light(x, y)); };
        const Picture picture = Picture(encoded).applied(with({{"local-contrast", amount}, {"scale", 8}}));
        double most = 0, least = 1e9;
        for (int y = 10; y < 70; ++y) {
            for (int x = 10; x < 230; ++x) {
                const double gain = colour::linearFromEncoded(picture.at(x, y)) / light(x, y);
                most = std::max(most, gain);
                least = std::min(least, gain);
            }
        }
        EXPECT_LT(most, 4.05) << amount;
        EXPECT_GT(least, 0.24) << amount;
        EXPECT_TRUE(most > 3.9 || least < 0.26)
            << amount << ": the scene does not come to the limits, " << most << " " << least;
    }
}

TEST(LocalContrast, TextureGrowsAlsoBesideAStep) {
    const Scene texture = [](int x, int y) { return 2 * std::sin(x * 0.9) * std::sin(y * 0.9); };
    const Picture picture = Picture::ofLightness([&](int x, int y) {
                                return (x < 120 ? 35 : 65) + texture(x, y);
                            }).applied(with({{"local-contrast", 100}, {"scale", 16}}));
    const auto value = [&](int x, int y) { return picture.lightness(x, y); };
    const double far = gainOf(texture, value, 40, 75), near = gainOf(texture, value, 128, 149);
    EXPECT_GT(far, 1.6);
    EXPECT_GT(near, 0.8 * far);
}

TEST(LocalContrast, BelowNoneItEvensTextureOut) {
    const Picture picture = Picture::ofLightness([](int x, int y) {
                                return 50 + 3 * std::sin(x * 0.9) * std::sin(y * 0.9);
                            }).applied(with({{"local-contrast", -100}, {"scale", 16}}));
    double least = 100, most = 0;
    for (int x = 60; x < 180; ++x) {
        least = std::min(least, picture.lightness(x));
        most = std::max(most, picture.lightness(x));
    }
    EXPECT_LT(most - least, 0.5 * 6);
}

// Against the sum itself, in double.
TEST(Sharpening, IsADirectConvolutionWhereNothingHoldsIt) {
    const Scene scene = [](int x, int y) { return 0.5 + 0.03 * std::sin(x * 1.1) * std::cos(y * 0.7); };
    const Picture picture =
        Picture(scene).applied(with({{"sharpen", 150}, {"sharpen-radius", 1.5}, {"sharpen-halo", 100}}));
    double worst = 0;
    for (int y = 30; y < 50; ++y) {
        for (int x = 60; x < 180; ++x) {
            double sum = 0, weights = 0;
            for (int v = -5; v <= 5; ++v) {
                for (int u = -5; u <= 5; ++u) {
                    const double w = std::exp(-(u * u + v * v) / (2 * 1.5 * 1.5));
                    sum += w * scene(x + u, y + v);
                    weights += w;
                }
            }
            const double wanted = scene(x, y) + 1.5 * (scene(x, y) - sum / weights);
            worst = std::max(worst, std::abs(picture.at(x, y) - wanted));
        }
    }
    EXPECT_LT(worst, 1e-5);
}

TEST(Sharpening, NoPixelGoesFurtherBeyondItsSurroundingsThanTheHaloSays) {
    const Scene edge = [](int x, int) { return 0.3 + 0.4 / (1 + std::exp(-(x - 119.5) / 1.5)); };
    for (const double halo : {0.0, 25.0}) {
        const Picture picture =
            Picture(edge).applied(with({{"sharpen", 300}, {"sharpen-radius", 2}, {"sharpen-halo", halo}}));
        for (int x = 60; x < 180; ++x) {
            const double low = edge(x - 2, 0), high = edge(x + 2, 0), room = halo / 100 * (high - low) + 1e-6;
            EXPECT_GE(picture.at(x), low - room) << x;
            EXPECT_LE(picture.at(x), high + room) << x;
        }
        EXPECT_GT(picture.at(120) - picture.at(119), 1.5 * (edge(120, 0) - edge(119, 0))) << "and yet it is steeper";
    }
}

TEST(Sharpening, NoiseUpToTheThresholdStays) {
    std::mt19937 random(3);
    std::uniform_real_distribution<double> noise(-2.0 / 255, 2.0 / 255);
    std::vector<double> values;
    for (int i = 0; i < size.width * size.height; ++i) values.push_back(0.4 + noise(random));
    const Scene scene = [&](int x, int y) { return values[static_cast<std::size_t>(y * size.width + x)]; };
    const Settings sparing = with({{"sharpen", 200}, {"sharpen-threshold", 4}}, 1.2);
    const Picture spared = Picture(scene).applied(sparing),
                  sharpened = Picture(scene).applied(with({{"sharpen", 200}, {"sharpen-threshold", 0}}, 1.2));
    double most = 0;
    for (int y = 20; y < 60; ++y) {
        for (int x = 60; x < 180; ++x) {
            EXPECT_NEAR(spared.at(x, y), scene(x, y), 1e-6);
            most = std::max(most, std::abs(sharpened.at(x, y) - scene(x, y)));
        }
    }
    EXPECT_GT(most, 1.0 / 255);
}

TEST(EdgeSoftening, EvensTextureAndLeavesAStep) {
    const Scene texture = [](int x, int y) { return 0.015 * std::sin(x * 1.3) * std::sin(y * 1.1); };
    const Picture picture = Picture([&](int x, int y) {
                                return (x < 120 ? 0.3 : 0.7) + texture(x, y);
                            }).applied(with({{"soften", 100}, {"soften-radius", 8}}));
    const auto value = [&](int x, int y) { return picture.at(x, y); };
    EXPECT_LT(gainOf(texture, value, 40, 90), 0.15);
    EXPECT_NEAR(picture.at(117), 0.3, 0.02);
    EXPECT_NEAR(picture.at(122), 0.7, 0.02);
}

// Texture of five pixels on patches of forty.
class Split : public testing::Test {
protected:
    static double weave(int x, int y) { return 0.01 * std::sin(x * 1.2) * std::sin(y * 1.2); }
    static double patches(int x, int) { return 0.03 * std::sin(x * 0.155); }
    static Picture of(std::string_view what) {
        return Picture([](int x, int y) { return 0.5 + weave(x, y) + patches(x, y); })
            .applied(with({{what, 100}, {"split", 4}}));
    }
    static double left(const Picture& picture, const Scene& of) {
        return gainOf(
            of, [&](int x, int y) { return picture.at(x, y); }, 60, 182);
    }
};

TEST_F(Split, TextureGoesToneStays) {
    const Picture picture = of("soften-texture");
    EXPECT_LT(left(picture, weave), 0.25);
    EXPECT_GT(left(picture, patches), 0.85);
}

TEST_F(Split, ToneGoesTextureStays) {
    const Picture picture = of("soften-tone");
    EXPECT_GT(left(picture, weave), 0.9);
    EXPECT_LT(left(picture, patches), 0.6);
}

TEST(DetailAdjustment, NoAmountChangesNothing) {
    EXPECT_TRUE(isNeutral(detail, with({{"scale", 100}, {"sharpen-radius", 4}, {"soften-radius", 100}})));
    EXPECT_TRUE(detail.prepare(with({})).empty());
}

TEST(DetailAdjustment, EachAmountIsAnOperationOfItsOwn) {
    EXPECT_EQ(
        detail.prepare(with({{"soften", 10}, {"soften-texture", 10}, {"soften-tone", 10}, {"sharpen", 10}})).size(),
        4u);
}

}  // namespace
}  // namespace dimhem::adjust
