// How much noise a picture has, by its tone: measured on places that are flat, in luminance and in two colour
// differences, on one level. Three quarters of each tone's blocks may be texture through and through.
//
//   planes     Y = (R + G + B) / 3, U = (R - B) / 2, V = (R - 2G + B) / 4, of encoded values 0..1
//   blocks     8 x 8, by the orthonormal DCT, none of them on the grid that JPEG quantises on
//   by tone    16 tones by a block's mean of Y; of each, the flattest quarter: those with the least energy at
//              2 <= u + v <= 8. The coefficients are in two halves, each measured on the blocks that are flat by the
//              other, so that choosing the flat ones does not make the noise seem less
//   by band    four bands of u + v, since a file of JPEG takes fine noise out where it is weak, not where it is strong
//   sigma      root of the mean over a band of (median |c| / 0.6745)^2, evened out over neighbouring tones; alike in
//   all
//              bands where the noise is white
//
// Texture falls off towards the fine bands. A tone that has clearly more in the coarse bands, beside what it has in a
// fine one, than the flattest tone does is taken to have no more: the rest is texture.
//
// The DCT: Ahmed, Natarajan,
// Rao, "Discrete Cosine Transform", 1974; cited from memory.
#pragma once

#include <array>
#include <cstddef>
#include <vector>

#include "core/image/plane.h"
#include "core/kernel/sliding_dct.h"

namespace dimhem::adjust {

// The bands are those of the sliding DCT. The coarsest is measured at 4 and 5: below may be the picture itself, and
// coarse noise is a coarser level's own.
inline constexpr std::size_t noiseTones = 16, noiseBands = kernel::lastOfBand.size();

struct NoiseOfPlane {
    std::array<std::array<double, noiseTones>, noiseBands> sigma{};  // 0..1 of the encoded scale
    std::size_t blocks = 0;                                          // that were looked at; 0: nothing is known

    double ofTone(std::size_t tone) const;  // at 4 <= u + v <= 8
    double overall = 0;                     // the same, the median over all blocks, each by its tone
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

}  // namespace dimhem::adjust
