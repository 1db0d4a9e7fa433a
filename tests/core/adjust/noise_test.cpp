#include "core/adjust/noise.h"

#include <gtest/gtest.h>

#include <cmath>
#include <random>

namespace dimhem::adjust {
namespace {

NoiseOfPlane noiseOfSigma(double levels, std::size_t blocks = 1000) {
    NoiseOfPlane plane;
    for (auto& band : plane.sigma) band.fill(levels / 255);
    plane.blocks = blocks;
    return plane;
}

NoiseByLevel levelsOf(std::initializer_list<double> sigmas, std::size_t blocks = 1000) {
    NoiseByLevel levels;
    for (const double sigma : sigmas)
        levels.push_back(
            {noiseOfSigma(sigma, blocks), noiseOfSigma(sigma / 2, blocks), noiseOfSigma(sigma / 4, blocks)});
    return levels;
}

Settings withAmounts(double luminance, double colour, double detail, double blotches) {
    Settings settings = neutralSettings(noise);
    settings.values = {luminance, colour, detail, blotches};
    return settings;
}

TEST(NoiseAdjustment, KeepsWhatWasMeasured) {
    const Settings settings = withNoise(withAmounts(100, 50, 0, 20), levelsOf({8, 4, 2, 1, 0.5}));
    EXPECT_TRUE(isValid(noise, settings));
    EXPECT_FALSE(lacksMeasuring(noise, settings));
    EXPECT_TRUE(lacksMeasuring(noise, withAmounts(100, 0, 0, 0)));
    EXPECT_EQ(measuredNoise(settings, 0, NoisePlane::y), std::vector<double>(noiseTones, 8.0));
    EXPECT_EQ(measuredNoise(settings, 2, NoisePlane::u), std::vector<double>(noiseTones, 1.0));
    EXPECT_EQ(measuredNoise(settings, 4, NoisePlane::y), std::vector<double>()) << "luminance has four levels";
    EXPECT_EQ(settings.values, (std::vector<double>{100, 50, 0, 20}));
}

TEST(NoiseAdjustment, WhereNothingIsMeasuredNothingChanges) {
    EXPECT_TRUE(isNeutral(noise, withAmounts(100, 100, 0, 100))) << "not measured yet";
    EXPECT_TRUE(isNeutral(noise, withNoise(withAmounts(100, 100, 0, 100), levelsOf({0, 0, 0, 0, 0}))));
    EXPECT_TRUE(isNeutral(noise, withNoise(withAmounts(0, 0, 50, 0), levelsOf({8, 4, 2, 1, 1}))));
    EXPECT_FALSE(isNeutral(noise, withNoise(withAmounts(0, 0, 0, 10), levelsOf({8, 4, 2, 1, 1}))));
}

TEST(NoiseAdjustment, CoarseLevelsAreHeldByTheFinerOnes) {
    // What is far stronger on a coarse level is the picture.
    const Settings settings = withNoise(withAmounts(100, 100, 0, 100), levelsOf({8, 40, 40, 40, 40}));
    EXPECT_DOUBLE_EQ(measuredNoise(settings, 1, NoisePlane::y)[3], 6.4);
    EXPECT_DOUBLE_EQ(measuredNoise(settings, 3, NoisePlane::u)[3], 8) << "as white noise beside 6.4 in luminance";
    // Too few blocks: half of what the level before has, as of white noise.
    NoiseByLevel few = levelsOf({8, 4, 2, 1, 1});
    few[1] = {noiseOfSigma(7, 10), noiseOfSigma(7, 10), noiseOfSigma(7, 10)};
    EXPECT_DOUBLE_EQ(measuredNoise(withNoise(withAmounts(1, 1, 1, 1), few), 1, NoisePlane::y)[0], 4);
}

TEST(NoiseAdjustment, OddTablesAreRefused) {
    Settings settings = withNoise(withAmounts(100, 100, 0, 100), levelsOf({8, 4, 2, 1, 0.5}));
    settings.tables[0][0] = 0.5;  // a level
    EXPECT_FALSE(isValid(noise, settings));
    settings.tables[0][0] = 5;
    EXPECT_FALSE(isValid(noise, settings));
    settings.tables[0].resize(3);
    EXPECT_FALSE(isValid(noise, settings));
}

// On one level, in one piece: normal noise on a plain grey, and on a step.
class OnOneLevel : public testing::Test {
protected:
    static constexpr base::Size inner{96, 72};

    static Settings measured(double sigma) {
        // White noise of each channel: 1/sqrt(3) of it in Y, 1/sqrt(2) in U, sqrt(6)/4 in V.
        NoiseLevel level{noiseOfSigma(sigma / std::sqrt(3.0)), noiseOfSigma(sigma / std::sqrt(2.0)),
                         noiseOfSigma(sigma * std::sqrt(6.0) / 4)};
        return withNoise(withAmounts(100, 100, 0, 100), {level});
    }

    static image::EncodedPlanes noisy(double sigma, double step) {
        std::mt19937 random(11);
        std::normal_distribution<double> normal;
        image::EncodedPlanes out;
        for (image::Plane<float>* plane : {&out.red, &out.green, &out.blue}) {
            *plane = image::planeOf({inner.width + 40, inner.height + 40}, [&](int x, int) {
                return static_cast<float>(0.4 + (x < 68 ? 0 : step) + normal(random) * sigma / 255);
            });
        }
        return out;
    }

    // The change of the model of level 0 without any on a coarser one, added to the picture.
    static image::EncodedPlanes cleaned(const image::EncodedPlanes& picture, const Settings& settings) {
        const Operations operations = noise.prepare(settings);
        const auto& spatial = *std::get<std::unique_ptr<const SpatialOperation>>(operations[0]);
        const int by = spatial.reach(0);
        const base::Rect own{by, by, by + inner.width, by + inner.height};
        image::EncodedPlanes around, out;
        around.red = image::copied(picture.red), out.red = image::cropped(picture.red, own);
        around.green = image::copied(picture.green), out.green = image::cropped(picture.green, own);
        around.blue = image::copied(picture.blue), out.blue = image::cropped(picture.blue, own);
        std::vector<image::Plane<float>> model, none;
        for (std::size_t i = 0; i < spatial.planes(); ++i) {
            model.emplace_back(inner);
            none.push_back(image::filled<float>({(inner.width + 40) / 2, (inner.height + 40) / 2}, 0));
        }
        spatial.makeModel(std::move(around), {}, none, model);
        for (int y = 0; y < inner.height; ++y) {
            std::vector<const float*> rows;
            for (const auto& plane : model) rows.push_back(plane.row(y).data());
            kernel::ConvertibleRow row(kernel::rowOf(out, y), static_cast<std::size_t>(inner.width));
            spatial.row(row, rows);
        }
        return out;
    }

    static double meanOfColumn(const image::EncodedPlanes& p, std::size_t x) {
        double sum = 0;
        for (int y = 0; y < inner.height; ++y)
            sum += double{p.red.row(y)[x]} + double{p.green.row(y)[x]} + double{p.blue.row(y)[x]};
        return sum / 3 / inner.height;
    }
};

TEST_F(OnOneLevel, TheFineNoiseGoesAndAStepStays) {
    for (const double sigma : {3.0, 10.0}) {
        const double step = 0.3;
        const image::EncodedPlanes out = cleaned(noisy(sigma, step), measured(sigma));
        double squares = 0, count = 0;
        for (int y = 0; y < inner.height; ++y) {
            for (std::size_t x = 0; x < static_cast<std::size_t>(inner.width); ++x) {
                for (const auto* plane : {&out.red, &out.green, &out.blue}) {
                    squares += std::pow(double{plane->row(y)[x]} - (0.4 + (x < 48 ? 0 : step)), 2);
                    ++count;
                }
            }
        }
        // Coarser noise than 8 pixels stays on this level: a quarter or so of sigma.
        EXPECT_LT(255 * std::sqrt(squares / count), 0.45 * sigma);
        // The step has the same height from one pixel to the next, to a twentieth.
        EXPECT_NEAR(meanOfColumn(out, 48) - meanOfColumn(out, 47), step, 0.05 * step) << sigma;
    }
}

TEST_F(OnOneLevel, DetailPutsTheFinestPartOfLuminanceBack) {
    const image::EncodedPlanes in = noisy(8, 0);
    Settings settings = measured(8);
    settings.values = {100, 0, 100, 0};
    const image::EncodedPlanes out = cleaned(in, settings);
    for (int y = 0; y < inner.height; ++y) {
        for (std::size_t x = 0; x < static_cast<std::size_t>(inner.width); ++x)
            ASSERT_EQ(out.red.row(y)[x], in.red.row(y + 20)[x + 20]);
    }
}

TEST_F(OnOneLevel, HalfOfAnAmountIsHalfOfTheChange) {
    const image::EncodedPlanes in = noisy(8, 0.2);
    Settings settings = measured(8);
    const image::EncodedPlanes whole = cleaned(in, settings);
    settings.values = {50, 50, 0, 50};
    const image::EncodedPlanes half = cleaned(in, settings);
    for (int y = 0; y < inner.height; ++y) {
        for (std::size_t x = 0; x < static_cast<std::size_t>(inner.width); ++x) {
            const double before = double{in.green.row(y + 20)[x + 20]};
            ASSERT_NEAR(half.green.row(y)[x], (before + double{whole.green.row(y)[x]}) / 2, 1e-6);
        }
    }
}

}  // namespace
}  // namespace dimhem::adjust
