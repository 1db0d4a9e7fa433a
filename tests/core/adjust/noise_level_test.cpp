#include "core/adjust/noise_level.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <functional>
#include <random>

namespace dimhem::adjust {
namespace {

constexpr base::Size size{640, 480};

NoiseLevel measured(const image::EncodedPlanes& picture, const image::Plane<float>& coverage = {}) {
    NoiseMeter meter;
    meter.add(picture, coverage);
    return meter.level();
}

using Tone = std::function<double(int x, int y)>;  // 0..1

double smooth(int x, int y) {
    return 0.15 + 0.7 * x / size.width + 0.08 * std::sin(y * 0.01);
}

// Half of it is a fine, strong texture, in bands, so that each tone also lies on flat places.
double textured(int x, int y) {
    return smooth(x, y) + (y / 40 % 2 == 1 ? 0.12 * std::sin(x * 0.9) * std::sin(y * 1.1) : 0);
}

// Grey, with independent normal noise in each channel, of a sigma that may depend on the tone.
image::EncodedPlanes noisy(const Tone& tone, const std::function<double(double)>& sigma, unsigned seed) {
    std::mt19937 random(seed);
    std::normal_distribution<double> normal;
    image::EncodedPlanes out(size);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const double v = tone(x, y);
            for (image::Plane<float>* plane : {&out.red, &out.green, &out.blue})
                plane->row(y)[static_cast<std::size_t>(x)] = static_cast<float>(v + sigma(v) * normal(random));
        }
    }
    return out;
}

// Independent noise of sigma s in each channel is s / sqrt(3) in Y, s / sqrt(2) in U, s sqrt(6) / 4 in V.
TEST(NoiseLevel, IsThatOfWhiteNoiseOnSmoothAndOnTexturedPictures) {
    for (const Tone& tone : {Tone(smooth), Tone(textured)}) {
        for (const double of255 : {2.0, 5.0, 10.0, 20.0, 30.0}) {
            const double s = of255 / 255;
            const NoiseLevel found = measured(noisy(
                tone, [=](double) { return s; }, 7));
            EXPECT_NEAR(found.y.overall, s / std::sqrt(3), 0.1 * s / std::sqrt(3)) << of255;
            EXPECT_NEAR(found.u.overall, s / std::sqrt(2), 0.1 * s / std::sqrt(2)) << of255;
            EXPECT_NEAR(found.v.overall, s * std::sqrt(6) / 4, 0.1 * s * std::sqrt(6) / 4) << of255;
        }
    }
}

TEST(NoiseLevel, FollowsTheTone) {
    const auto sigma = [](double v) { return std::sqrt(1e-5 + 6e-4 * std::max(0.0, v)); };
    const NoiseLevel found = measured(noisy(smooth, sigma, 3));
    for (std::size_t tone = 3; tone < 13; ++tone) {
        const double expected = sigma((static_cast<double>(tone) + 0.5) / noiseTones) / std::sqrt(3);
        EXPECT_NEAR(found.y.ofTone(tone), expected, 0.1 * expected) << tone;
    }
}

TEST(NoiseLevel, WhiteNoiseIsAlikeInAllBands) {
    const NoiseLevel found = measured(noisy(
        smooth, [](double) { return 0.03; }, 5));
    for (const auto& band : found.y.sigma) EXPECT_NEAR(band[8], 0.03 / std::sqrt(3), 0.1 * 0.03 / std::sqrt(3));
}

// A tone that lies in texture alone does not seem much noisier than the others.
TEST(NoiseLevel, TextureIsNotTakenForNoise) {
    std::mt19937 random(2);
    std::normal_distribution<double> normal;
    // Fine grain, as of grass or gravel: noise blurred over three pixels, in the dark half.
    image::Plane<float> grain = image::planeOf(size, [&](int, int) { return static_cast<float>(normal(random)); });
    const auto at = [&](int x, int y) {
        double sum = 0;
        for (int j = -1; j <= 1; ++j) {
            for (int i = -1; i <= 1; ++i)
                sum += double{grain.row(std::clamp(
                    y + j, 0, size.height - 1))[static_cast<std::size_t>(std::clamp(x + i, 0, size.width - 1))]};
        }
        return sum / 9;
    };
    const double s = 0.01;
    const NoiseLevel found = measured(noisy(
        [&](int x, int y) { return x < size.width / 2 ? 0.25 + 0.05 * at(x, y) : 0.7; }, [&](double) { return s; }, 6));
    EXPECT_NEAR(found.y.ofTone(11), s / std::sqrt(3), 0.1 * s / std::sqrt(3));
    EXPECT_LT(found.y.ofTone(4), 1.5 * s / std::sqrt(3));
}

TEST(NoiseLevel, OfNoneIsNextToNone) {
    EXPECT_LT(measured(noisy(
                           textured, [](double) { return 0.0; }, 1))
                  .y.overall,
              1.0 / 255);
}

// The left half has four times the noise of the right one: each is measured under its own mask.
TEST(NoiseLevel, UnderAMaskIsThatOfTheMaskedPlaces) {
    image::EncodedPlanes picture = noisy(
        smooth, [](double v) { return v < 0.5 ? 0.04 : 0.01; }, 9);
    const auto half = [](bool left) {
        return image::planeOf(size, [=](int x, int) { return (x < size.width / 2) == left ? 1.0f : 0.0f; });
    };
    EXPECT_NEAR(measured(picture, half(true)).y.overall, 0.04 / std::sqrt(3), 0.003);
    EXPECT_NEAR(measured(picture, half(false)).y.overall, 0.01 / std::sqrt(3), 0.001);
    EXPECT_EQ(measured(picture, image::filled(size, 0.0f)).y.blocks, 0u);
    EXPECT_EQ(measured(picture, image::filled(size, 0.0f)).y.overall, 0);
}

TEST(NoiseLevel, InPiecesItIsThatOfTheWhole) {
    const image::EncodedPlanes picture = noisy(
        textured, [](double) { return 0.02; }, 13);
    NoiseMeter meter;
    for (int x = 0; x < size.width; x += 160) {
        const base::Rect part{x, 0, x + 160, size.height};
        image::EncodedPlanes piece;
        piece.red = image::cropped(picture.red, part);
        piece.green = image::cropped(picture.green, part);
        piece.blue = image::cropped(picture.blue, part);
        meter.add(piece);
    }
    const double whole = measured(picture).y.overall;
    EXPECT_NEAR(meter.level().y.overall, whole, 0.05 * whole);
}

TEST(NoiseLevel, PicturesTooSmallForABlockHaveNone) {
    for (const base::Size tiny : {base::Size{1, 1}, base::Size{7, 90}, base::Size{12, 9}}) {
        image::EncodedPlanes picture(tiny);
        for (image::Plane<float>* plane : {&picture.red, &picture.green, &picture.blue})
            *plane = image::filled(tiny, 0.5f);
        EXPECT_EQ(measured(picture).y.overall, 0);
    }
}

}  // namespace
}  // namespace dimhem::adjust
