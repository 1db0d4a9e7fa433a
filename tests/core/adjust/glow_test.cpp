#include "core/adjust/glow.h"

#include <gtest/gtest.h>

#include <array>
#include <cmath>
#include <numbers>

namespace dimhem::adjust {
namespace {

Settings settingsOf(double amount, double radius, double from = 60, double warmth = 0) {
    return {{amount, radius, from, warmth}};
}

// What it makes of a linear picture, worked out in one piece at level 0.
image::LinearPlanes glowed(const image::LinearPlanes& picture, const Settings& settings) {
    const Operations operations = glow.prepare(settings);
    const auto& spatial = *std::get<std::unique_ptr<const SpatialOperation>>(operations[0]);
    const int by = spatial.reach(0);
    const base::Size size = picture.size(), wide{size.width + 2 * by, size.height + 2 * by};
    image::LinearPlanes around(wide), out(size);
    const auto fill = [&](const image::Plane<float>& from, image::Plane<float>& grown, image::Plane<float>& copy) {
        grown = image::planeOf(wide, [&](int x, int y) {
            return from.row(std::clamp(
                y - by, 0, size.height - 1))[static_cast<std::size_t>(std::clamp(x - by, 0, size.width - 1))];
        });
        copy = image::copied(from);
    };
    fill(picture.red, around.red, out.red);
    fill(picture.green, around.green, out.green);
    fill(picture.blue, around.blue, out.blue);
    std::vector<image::Plane<float>> model;
    for (int c = 0; c < 3; ++c) model.emplace_back(size);
    spatial.makeModel(kernel::encoded(std::move(around)), {}, {}, model);
    for (int y = 0; y < size.height; ++y) {
        const float* rows[3] = {model[0].row(y).data(), model[1].row(y).data(), model[2].row(y).data()};
        kernel::ConvertibleRow row(kernel::rowOf(out, y), static_cast<std::size_t>(size.width));
        spatial.row(row, rows);
    }
    return out;
}

// A square lamp, white, on a dark grey.
constexpr base::Size size{121, 121};
constexpr float dark = 0.01f;

image::LinearPlanes lamp() {
    image::LinearPlanes out(size);
    for (image::Plane<float>* plane : {&out.red, &out.green, &out.blue}) {
        *plane = image::planeOf(
            size, [](int x, int y) { return std::abs(x - 60) <= 4 && std::abs(y - 60) <= 4 ? 0.9f : dark; });
    }
    return out;
}

TEST(Glow, IsTheGaussianOfWhatIsBright) {
    const double radius = 12, sigma = radius / 2;
    const image::LinearPlanes out = glowed(lamp(), settingsOf(50, radius));
    // The integral of a Gaussian over the lamp's pixels, by the error function.
    const auto part = [&](double at) {
        const auto below = [&](double edge) { return std::erf((edge - at) / (sigma * std::numbers::sqrt2)) / 2; };
        return below(64.5) - below(55.5);
    };
    for (int y = 30; y <= 90; y += 5) {
        for (int x = 30; x <= 90; x += 5) {
            const bool inLamp = std::abs(x - 60) <= 4 && std::abs(y - 60) <= 4;
            const double expected = (inLamp ? 0.9 : dark) + 0.5 * 0.9 * part(x) * part(y);
            ASSERT_NEAR(out.red.row(y)[static_cast<std::size_t>(x)], expected, 0.004) << x << ", " << y;
        }
    }
}

TEST(Glow, NothingGetsDarkerAndWhatIsFarFromLightStays) {
    const image::LinearPlanes in = lamp(), out = glowed(in, settingsOf(100, 8));
    for (int y = 0; y < size.height; ++y) {
        for (std::size_t x = 0; x < 121; ++x) {
            ASSERT_GE(out.green.row(y)[x], in.green.row(y)[x]);
            if (y < 40 || y > 80) {
                ASSERT_EQ(out.green.row(y)[x], in.green.row(y)[x]);
            }
        }
    }
}

TEST(Glow, ATonePassesSmoothlyFromNotCountingToCountingInFull) {
    double before = -1, step = 0;
    for (int i = 0; i <= 200; ++i) {
        const float light = static_cast<float>(i) / 200;
        image::LinearPlanes flat({40, 40});
        for (image::Plane<float>* plane : {&flat.red, &flat.green, &flat.blue}) *plane = image::filled({40, 40}, light);
        const double added = glowed(flat, settingsOf(100, 6, 40)).red.row(20)[20] - light;
        if (before >= 0) step = std::max(step, std::abs(added - before));
        before = added;
        if (i == 10) {
            EXPECT_NEAR(added, 0, 1e-6) << "L* 27";
        }
        if (i == 100) {
            EXPECT_NEAR(added, light, 1e-4) << "L* 76";
        }
    }
    EXPECT_LT(step, 0.03);
}

TEST(Glow, WarmthTiltsTheLightAndKeepsItsLuminance) {
    const auto addedAt = [](double warmth) {
        const image::LinearPlanes out = glowed(lamp(), settingsOf(100, 12, 60, warmth));
        return std::array<double, 3>{out.red.row(60)[70] - dark, out.green.row(60)[70] - dark,
                                     out.blue.row(60)[70] - dark};
    };
    const auto luminance = [](const std::array<double, 3>& c) { return 0.2126 * c[0] + 0.7152 * c[1] + 0.0722 * c[2]; };
    const auto even = addedAt(0), warm = addedAt(100), cool = addedAt(-100);
    EXPECT_NEAR(even[0], even[2], 1e-6);
    EXPECT_NEAR(warm[0] / warm[2], 1.35 / 0.65, 1e-3);
    EXPECT_NEAR(cool[0] / cool[2], 0.65 / 1.35, 1e-3);
    EXPECT_NEAR(luminance(warm), luminance(even), 1e-5);
    EXPECT_NEAR(luminance(cool), luminance(even), 1e-5);
}

}  // namespace
}  // namespace dimhem::adjust
