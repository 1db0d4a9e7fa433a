#include "core/edge/transmission.h"

#include <gtest/gtest.h>

namespace dimhem::edge {

// Brighter to the right, and a little downwards: the thousandth of 200 000 places are the last 200 of the last column.
TEST(AirLight, IsTheBrighterHalfOfTheThousandthWithTheLightestSurroundings) {
    constexpr base::Size size{500, 400};
    const auto light = [](double x, double y) { return 0.2 + 0.0012 * x + 2e-6 * y; };
    image::LinearPlanes picture(size);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const auto i = static_cast<std::size_t>(x);
            picture.red.row(y)[i] = static_cast<float>(light(x, y));
            picture.green.row(y)[i] = static_cast<float>(light(x, y) + 0.01);
            picture.blue.row(y)[i] = static_cast<float>(light(x, y) + 0.03);
        }
    }
    const colour::LinearRgb air = airLight(picture);
    EXPECT_NEAR(air.r, light(499, 349.5), 1e-6);
    EXPECT_NEAR(air.g, light(499, 349.5) + 0.01, 1e-6);
    EXPECT_NEAR(air.b, light(499, 349.5) + 0.03, 1e-6);
    // A single light speck is not the air: its surroundings are as dark as those of others.
    picture.red.row(10)[50] = picture.green.row(10)[50] = picture.blue.row(10)[50] = 1;
    EXPECT_NEAR(airLight(picture).r, light(499, 349.5), 1e-6);
}

}  // namespace dimhem::edge
