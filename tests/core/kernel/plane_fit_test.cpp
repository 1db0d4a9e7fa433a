#include "core/kernel/plane_fit.h"

#include <gtest/gtest.h>

#include <cmath>
#include <random>

namespace dimhem::kernel {
namespace {

using image::Plane;

constexpr base::Size size{60, 50};
constexpr double sigma = 3;

std::vector<PlaneFit> fitted(const Plane<float>& values, const Plane<float>& weights) {
    std::vector<Plane<float>> all;
    all.push_back(image::copied(values));
    return fittedPlanes(all, weights, sigma);
}

TEST(PlaneFit, ASlopeComesOutAsItIsAlsoBesideWhatHasNoWeight) {
    const auto slope = [](int x, int y) { return static_cast<float>(20 + 0.7 * x - 0.4 * y); };
    const Plane<float> values = image::planeOf(size, [&](int x, int y) { return x < 30 ? slope(x, y) : 90.0f; }),
                       weights = image::planeOf(size, [](int x, int) { return x < 30 ? 1.0f : 0.0f; });
    const auto fits = fitted(values, weights);
    const int by = planeFitReach(sigma);
    EXPECT_EQ(fits[0].value.size(), (base::Size{size.width - 2 * by, size.height - 2 * by}));
    for (int y = 0; y < fits[0].value.size().height; ++y) {
        for (int x = 0; x < 30 - by; ++x) {
            EXPECT_NEAR(fits[0].value.row(y)[static_cast<std::size_t>(x)], slope(x + by, y + by), 0.01) << x;
            EXPECT_LT(fits[0].variance.row(y)[static_cast<std::size_t>(x)], 0.01) << x;
        }
    }
}

// Against the normal equations, solved in double.
TEST(PlaneFit, IsTheWeightedLeastSquaresFit) {
    std::mt19937 random(5);
    std::uniform_real_distribution<float> any(-4, 4), part(0, 1);
    const Plane<float> values = image::planeOf(size, [&](int, int) { return any(random); }),
                       weights = image::planeOf(size, [&](int, int) { return part(random); });
    const auto fits = fitted(values, weights);
    const int by = planeFitReach(sigma), px = 21, py = 17;
    double m[3][3] = {}, right[3] = {}, all = 0, squares = 0;
    for (int y = -by; y <= by; ++y) {
        for (int x = -by; x <= by; ++x) {
            const auto i = static_cast<std::size_t>(px + by + x);
            const double w = std::exp(-(x * x + y * y) / (2 * sigma * sigma)) * double{weights.row(py + by + y)[i]};
            const double v = double{values.row(py + by + y)[i]}, of[3] = {1, double(x), double(y)};
            for (int a = 0; a < 3; ++a) {
                for (int b = 0; b < 3; ++b) m[a][b] += w * of[a] * of[b];
                right[a] += w * of[a] * v;
            }
            all += w;
            squares += w * v * v;
        }
    }
    // As much is added to the spread of the weights, so that a line of them is no trouble.
    for (int a = 1; a < 3; ++a) m[a][a] += 1e-4 * sigma * sigma * all;
    const double det = m[0][0] * (m[1][1] * m[2][2] - m[1][2] * m[2][1]) -
                       m[0][1] * (m[1][0] * m[2][2] - m[1][2] * m[2][0]) +
                       m[0][2] * (m[1][0] * m[2][1] - m[1][1] * m[2][0]);
    const double value =
        (right[0] * (m[1][1] * m[2][2] - m[1][2] * m[2][1]) - m[0][1] * (right[1] * m[2][2] - m[1][2] * right[2]) +
         m[0][2] * (right[1] * m[2][1] - m[1][1] * right[2])) /
        det;
    EXPECT_NEAR(fits[0].value.row(py)[px], value, 1e-4);
    EXPECT_GT(fits[0].variance.row(py)[px], 0);
    EXPECT_LT(fits[0].variance.row(py)[px], squares / all);
}

TEST(PlaneFit, TheVarianceIsThatOfRoundingToSteps) {
    constexpr double step = 4;
    const Plane<float> values = image::planeOf(
        size, [](int x, int y) { return static_cast<float>(step * std::round((0.9 * x + 0.3 * y) / step)); });
    const auto fits = fitted(values, image::filled(size, 1.0f));
    double sum = 0, count = 0;
    for (int y = 0; y < fits[0].variance.size().height; ++y) {
        for (const float v : fits[0].variance.row(y)) sum += double{v}, ++count;
    }
    EXPECT_NEAR(sum / count, step * step / 12, 0.1 * step * step / 12);
}

TEST(PlaneFit, WithoutWeightNothingIsKnown) {
    const auto fits = fitted(image::filled(size, 7.0f), image::filled(size, 0.0f));
    EXPECT_TRUE(std::isinf(fits[0].variance.row(0)[0]));
    EXPECT_TRUE(std::isfinite(fits[0].value.row(0)[0]));
}

}  // namespace
}  // namespace dimhem::kernel
