// A piece of a row in linear light, for adjustments that look at all three channels at once in plain loops.
#pragma once

#include <algorithm>
#include <array>

#include "core/kernel/mix_rows.h"
#include "core/kernel/srgb_rows.h"

namespace dimhem::adjust {

struct LinearChunk {
    static constexpr std::size_t most = 256;
    std::array<float, most> red, green, blue;

    void decode(const kernel::RgbRow& row, std::size_t at, std::size_t count) {
        std::copy_n(row.red + at, count, red.data());
        std::copy_n(row.green + at, count, green.data());
        std::copy_n(row.blue + at, count, blue.data());
        for (float* channel : {red.data(), green.data(), blue.data()}) kernel::decodeRow(channel, count);
    }
    void encode(const kernel::RgbRow& row, std::size_t at, std::size_t count) {
        for (float* channel : {red.data(), green.data(), blue.data()}) kernel::encodeRow(channel, count);
        std::copy_n(red.data(), count, row.red + at);
        std::copy_n(green.data(), count, row.green + at);
        std::copy_n(blue.data(), count, row.blue + at);
    }
    // Y of a pixel (sRGB, IEC 61966-2-1).
    float luminance(std::size_t i) const { return 0.2126f * red[i] + 0.7152f * green[i] + 0.0722f * blue[i]; }
};

}  // namespace dimhem::adjust
