#include "core/adjust/detail.h"

#include <gtest/gtest.h>

#include <cmath>
#include <functional>

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

// L* of a grey picture, in one piece at level 0, after both scales.
class Picture {
public:
    explicit Picture(const std::function<double(int x, int y)>& lightness) {
        planes_.red = image::planeOf(size, [&](int x, int y) {
            return static_cast<float>(colour::encodedFromLinear(luminanceOf(lightness(x, y))));
        });
        planes_.green = image::copied(planes_.red);
        planes_.blue = image::copied(planes_.red);
    }

    void apply(const Settings& settings) {
        for (const Operation& operation : detail.prepare(settings)) {
            const auto& spatial = *std::get<std::unique_ptr<const SpatialOperation>>(operation);
            ASSERT_EQ(spatial.modelLevel(0), 0);
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
            std::vector<image::Plane<float>> model(2);
            for (auto& plane : model) plane = image::Plane<float>(size);
            spatial.makeModel(std::move(around), 0, {}, model);
            for (int y = 0; y < size.height; ++y) {
                kernel::ConvertibleRow row(kernel::rowOf(planes_, y), static_cast<std::size_t>(size.width));
                const float* rows[] = {model[0].row(y).data(), model[1].row(y).data()};
                spatial.row(row, rows);
                row.encoded();
            }
        }
    }

    double at(int x, int y = 40) const {
        return colour::lightness(colour::linearFromEncoded(double{planes_.green.row(y)[static_cast<std::size_t>(x)]}));
    }

private:
    image::EncodedPlanes planes_;
};

Settings amountOf(double percent, double scale = 16) {
    return {{percent, scale}};
}

TEST(DetailAdjustment, AStepKeepsItsHeightWithoutAHalo) {
    Picture picture([](int x, int) { return x < 120 ? 30 : 70; });
    picture.apply(amountOf(100));
    double overshoot = 0;
    for (int x = 60; x < 180; ++x) {
        if (std::abs(x - 119.5) < 1) continue;
        overshoot = std::max(overshoot, x < 120 ? 30 - picture.at(x) : picture.at(x) - 70);
    }
    EXPECT_LT(overshoot, 0.06 * 40);
}

TEST(DetailAdjustment, TextureGrowsAlsoBesideAStep) {
    const auto texture = [](int x, int y) { return 2 * std::sin(x * 0.9) * std::sin(y * 0.9); };
    const auto scene = [&](int x, int y) { return (x < 120 ? 35 : 65) + texture(x, y); };
    Picture picture(scene);
    picture.apply(amountOf(100));
    const auto gain = [&](int from, int to) {
        double with = 0, of = 0;
        for (int y = 20; y < 60; ++y) {
            for (int x = from; x < to; ++x) {
                with += texture(x, y) * picture.at(x, y);
                of += texture(x, y) * texture(x, y);
            }
        }
        return with / of;
    };
    const double far = gain(40, 75), near = gain(128, 149);
    EXPECT_GT(far, 1.6);
    EXPECT_GT(near, 0.75 * far);
}

TEST(DetailAdjustment, BelowNoneItEvensTextureOut) {
    Picture picture([](int x, int y) { return 50 + 3 * std::sin(x * 0.9) * std::sin(y * 0.9); });
    picture.apply(amountOf(-100));
    double least = 100, most = 0;
    for (int x = 60; x < 180; ++x) {
        least = std::min(least, picture.at(x));
        most = std::max(most, picture.at(x));
    }
    EXPECT_LT(most - least, 0.5 * 6);
}

TEST(DetailAdjustment, NoAmountChangesNothing) {
    EXPECT_TRUE(isNeutral(detail, amountOf(0, 100)));
    EXPECT_TRUE(detail.prepare(amountOf(0)).empty());
}

}  // namespace
}  // namespace dimhem::adjust
