#include "core/kernel/dither_rows.h"

#include <gtest/gtest.h>

#include <cmath>
#include <vector>

namespace dimhem::kernel {
namespace {

constexpr std::size_t width = 509;

struct Row {
    explicit Row(float value) : red(width, value), green(width, value), blue(width, value) {}
    std::vector<float> red, green, blue;
    EncodedRow row() { return {red.data(), green.data(), blue.data()}; }
    ConstEncodedRow constRow() const { return {red.data(), green.data(), blue.data()}; }
};

TEST(Dither, MeanAndVarianceAfterRoundingDoNotDependOnTheValue) {
    for (const double at : {100.0, 100.25, 100.5, 100.83}) {
        double sum = 0, squares = 0, count = 0;
        for (int y = 0; y < 200; ++y) {
            Row row(static_cast<float>(at / 255));
            const Row photo(0.1f);
            addDither(row.row(), photo.constRow(), width, 0, y, eightBitStep);
            for (const auto* channel : {&row.red, &row.green, &row.blue}) {
                for (const float v : *channel) {
                    EXPECT_LE(std::abs(255 * double{v} - at), 1.001);
                    const double off = std::round(255 * double{v}) - at;
                    sum += off;
                    squares += off * off;
                    ++count;
                }
            }
        }
        // 1/6 of triangular noise of two steps, and 1/12 of rounding.
        EXPECT_NEAR(sum / count, 0, 0.01) << at;
        EXPECT_NEAR(squares / count, 0.25, 0.01) << at;
    }
}

TEST(Dither, PixelsOfThePhotoStay) {
    Row row(0.4f);
    Row photo(0.4f);
    photo.green[7] = 0.41f;
    addDither(row.row(), photo.constRow(), width, 0, 3, eightBitStep);
    for (std::size_t x = 0; x < width; ++x) EXPECT_EQ(row.red[x] == 0.4f, x != 7) << x;
}

TEST(Dither, GoesByThePlaceAlone) {
    Row whole(0.4f), part(0.4f);
    const Row photo(0.1f);
    addDither(whole.row(), photo.constRow(), width, 0, 12, eightBitStep);
    addDither(part.row(), photo.constRow(), 100, 37, 12, eightBitStep);
    for (std::size_t x = 0; x < 100; ++x) EXPECT_EQ(part.blue[x], whole.blue[x + 37]);
    EXPECT_NE(whole.red[5], whole.green[5]);
}

}  // namespace
}  // namespace dimhem::kernel
