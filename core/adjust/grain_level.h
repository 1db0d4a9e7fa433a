// The grain of a picture: how strong it is at each tone, how coarse, and how much of it is colour.
//
// By second differences of the planes of noise_level.h over 1 and 2 pixels, on the level of the photo, in blocks beside
// which second differences over 4 pixels are least: those are flat, and choosing them by their neighbours does not make
// their own grain seem less. Grain that is white noise under a Gaussian of the size s
// has the correlation r(d) = exp(-d^2 / (4 s^2)), so its second differences have the mean square
// sigma^2 (6 - 8 r(d) + 2 r(2 d)): the ratio of the two tells s, either one then sigma.
#pragma once

#include <array>
#include <cstddef>
#include <vector>

#include "core/image/plane.h"

namespace dimhem::adjust {

inline constexpr std::size_t grainTones = 16;

struct GrainLevel {
    std::array<double, grainTones> sigma{};  // of luma, by tone, encoded 0..1
    double sizePx = 0;                       // s, in pixels of the photo; 0: single pixels
    double colour = 0;                       // sigma of a difference of colour beside that of luma
    std::size_t blocks = 0;                  // that were looked at
};

class GrainMeter {
public:
    // A block counts where the coverage, 0..1 and of the picture's size, is more than 0.9 on its mean. An empty
    // coverage means all of it.
    void add(const image::EncodedPlanes& picture, const image::Plane<float>& coverage = {});
    GrainLevel level() const;

private:
    struct Block {
        double tone, flat;                  // mean luma; mean square over 4 pixels, of the block beside it
        double fine, coarse, colourCoarse;  // over 1 pixel, over 2, and that of the colour differences
    };
    std::vector<Block> blocks_;
};

// The mean square of second differences over `d` pixels of grain of unit variance.
double secondDifferenceOfGrain(double sizePx, double d);

}  // namespace dimhem::adjust
