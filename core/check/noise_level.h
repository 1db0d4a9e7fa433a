// How much noise a picture has, by its tone: measured on places that are flat, in luminance and in two colour
// differences, on one level. Three quarters of each tone's blocks may be texture through and through.
//
//   planes     Y = (R + G + B) / 3, U = (R - B) / 2, V = (R - 2G + B) / 4, of encoded values 0..1
//   blocks     8 x 8, by the orthonormal DCT, none of them on the grid that JPEG quantises on
//   by tone    16 tones by a block's mean of Y; of each, the flattest quarter: those with the least energy at
//              2 <= u + v <= 8. The coefficients are in two halves, each measured on the blocks that are flat by the
//              other, so that choosing the flat ones does not make the noise seem less
//   sigma      root of the mean over 4 <= u + v <= 8 of (median |c| / 0.6745)^2, evened out over neighbouring tones
//   spectrum   the same for each coefficient, over the square of sigma: 1 everywhere where the noise is white
//
// A tone that occurs in texture alone is taken for noisier than it is.
//
// The median's factor: a normal distribution's median absolute deviation (common practice). The DCT: Ahmed, Natarajan,
// Rao, "Discrete Cosine Transform", 1974; cited from memory.
#pragma once

#include <array>
#include <cstddef>
#include <vector>

#include "core/image/plane.h"

namespace dimhem::check {

inline constexpr std::size_t noiseTones = 16;

struct NoiseOfPlane {
    std::array<double, noiseTones> sigma{};  // by tone, 0..1 of the encoded scale
    std::array<double, 64> spectrum{};       // row by row; symmetric
    std::size_t blocks = 0;                  // that were looked at; 0: nothing is known

    double overall = 0;  // the median over all blocks, each by its tone
};

struct NoiseLevel {
    NoiseOfPlane y, u, v;
};

// Gathers blocks from pieces of a picture, so that it never has to be there as a whole. Pieces must begin at multiples
// of 8 pixels of the level, where the grid of a JPEG file begins.
class NoiseMeter {
public:
    // A block counts where the coverage, 0..1 and of the picture's size, is more than 0.9 on its mean. An empty
    // coverage means all of it.
    void add(const image::EncodedPlanes& picture, const image::Plane<float>& coverage = {});
    NoiseLevel level() const;

private:
    using Block = std::array<float, 64>;
    struct Blocks {
        Block y, u, v;
        double tone;  // the mean of Y
    };
    NoiseOfPlane levelOf(Block Blocks::*plane) const;
    std::vector<Blocks> blocks_;
};

}  // namespace dimhem::check
