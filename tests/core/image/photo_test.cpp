#include "core/image/photo.h"

#include <gtest/gtest.h>

#include <cstring>

#include "core/image/plane.h"
#include "core/image/tiles.h"

namespace dimhem::image {

namespace {

// A 2 x 3 picture with the values 1..6 in reading order, grey.
Samples numbered() {
    Samples samples({2, 3}, 1, SampleType::u8);
    for (int i = 0; i < 6; ++i) samples.row(i / 2)[i % 2] = static_cast<std::byte>(i + 1);
    return samples;
}

std::string read(const Samples& samples) {
    std::string text;
    for (int y = 0; y < samples.size().height; ++y) {
        for (int x = 0; x < samples.size().width; ++x)
            text += static_cast<char>('0' + std::to_integer<int>(samples.row(y)[x]));
        text += '/';
    }
    return text;
}

}  // namespace

// Exif 2.32, tag 274: where the stored row 0 and column 0 lie in the upright picture.
TEST(Orientation, TurnsEveryOfTheEightUpright) {
    const char* expected[] = {"12/34/56/", "21/43/65/", "65/43/21/", "56/34/12/",
                              "135/246/",  "531/642/",  "642/531/",  "246/135/"};
    for (int orientation = 1; orientation <= 8; ++orientation) {
        EXPECT_EQ(read(oriented(numbered(), orientation)), expected[orientation - 1]) << "orientation " << orientation;
    }
}

TEST(Orientation, UnknownValuesChangeNothing) {
    EXPECT_EQ(read(oriented(numbered(), 0)), "12/34/56/");
    EXPECT_EQ(read(oriented(numbered(), 9)), "12/34/56/");
}

TEST(Samples, ReadRowScalesToOne) {
    Samples samples({1, 1}, 3, SampleType::u16);
    const std::uint16_t values[3] = {0, 32768, 65535};
    std::memcpy(samples.row(0), values, sizeof values);
    float out[3];
    samples.readRow(0, 0, 1, out);
    EXPECT_EQ(out[0], 0.0f);
    EXPECT_NEAR(out[1], 0.5f, 1e-5);
    EXPECT_EQ(out[2], 1.0f);
}

TEST(Plane, RowsAreAlignedAndApart) {
    for (int width = 1; width <= 70; ++width) {
        Plane<float> plane({width, 3});
        for (int y = 0; y < 3; ++y) {
            EXPECT_EQ(reinterpret_cast<std::uintptr_t>(plane.row(y).data()) % 64, 0u);
            EXPECT_EQ(plane.row(y).size(), static_cast<std::size_t>(width));
            std::fill(plane.row(y).begin(), plane.row(y).end(), static_cast<float>(y));
        }
        EXPECT_EQ(plane.row(0).back(), 0.0f);
        EXPECT_EQ(plane.row(1).front(), 1.0f);
    }
}

TEST(Tiles, CoverThePictureWithoutOverlap) {
    const base::Size size{300, 257};
    const TileGrid grid(size, 128);
    long area = 0;
    for (int row = 0; row < grid.rows(); ++row) {
        for (int column = 0; column < grid.columns(); ++column) {
            const base::Rect tile = grid.tile(column, row);
            EXPECT_FALSE(tile.empty());
            area += static_cast<long>(tile.width()) * tile.height();
        }
    }
    EXPECT_EQ(area, 300L * 257);
    EXPECT_EQ(grid.touched({127, 0, 129, 1}), (base::Rect{0, 0, 2, 1}));
    EXPECT_TRUE(grid.touched({400, 0, 500, 10}).empty());
}

TEST(Levels, RoundUpAndCoverThePhoto) {
    EXPECT_EQ(levelSize({2401, 1600}, 1), (base::Size{1201, 800}));
    EXPECT_EQ(levelSize({1, 1}, 8), (base::Size{1, 1}));
    EXPECT_EQ(levelRect({5, 5, 9, 9}, 2), (base::Rect{1, 1, 3, 3}));
}

}  // namespace dimhem::image
