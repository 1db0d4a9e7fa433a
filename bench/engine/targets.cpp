#include "bench/engine/targets.h"

namespace dimhem::bench {

namespace {

// The seconds that 100 megapixels may take, on a machine that copies 24 megapixels in 43 ms.
constexpr double seconds(double s) {
    return s / 0.043;
}

constexpr Target all[] = {
    {"renderAll/mixed/percent:100", "x_copy", 4.5},
    {"renderAll/mixed/percent:30", "x_copy", 1.6},
    {"renderAll/mixed/percent:5", "x_copy", 0.4},
    {"renderAll/light_and_white_balance/percent:100", "x_copy", 7},
    {"renderAll/light_and_white_balance/percent:30", "x_copy", 3},
    {"renderAll/light_and_white_balance/percent:5", "x_copy", 0.8},
    {"sliderMove/top:0", "x_copy", 0.21},
    {"sliderMove/top:1", "x_copy", 0.06},
    {"exportJpeg/percent:100", "x_copy", 10.5},
    {"exportJpeg/percent:5", "x_copy", 5},
    {"openFirstPixels", "x_copy", 1.5},
    {"openAllPixels", "x_copy", 3.5},
    {"brushDab/fit:1", "p95_ms", 2},
    {"brushDab/fit:0", "p95_ms", 4},
    {"brushDabOn100Megapixels/fit:1", "p95_ms", 2},
    {"brushDabOn100Megapixels/fit:0", "p95_ms", 4},
    {"peakMemory/at_24_megapixels/percent:30", "peak_MB", 238},
    {"peakMemory/at_100_megapixels/percent:30", "peak_MB", 1400},
    {"exportLarge/no_correction", "x_copy", seconds(2)},
    {"exportLarge/strokes", "x_copy", seconds(3)},
    {"exportLarge/colour_range", "x_copy", seconds(4)},
    {"exportLarge/luminosity_range_feather_20", "x_copy", seconds(4)},
    {"exportLarge/held_strokes_and_edge_snap", "x_copy", seconds(10)},
    {"beside/opencv", "times_ours", 20, true},
    {"beside/libvips", "times_ours", 55, true},
    {"beside/imagemagick", "times_ours", 35, true},
};

}  // namespace

std::span<const Target> targets() {
    return all;
}

}  // namespace dimhem::bench
