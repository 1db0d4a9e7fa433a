// How much of the thing each unknown pixel shows, told by the colours of the thing and of the ground near by.
//
// Per fixed block of 32 by 32 pixels the samples of each side about it are split into up to twelve clusters (Orchard
// and Bouman, "Color quantization of images", 1991): mean, isotropic variance v and weight w. A pixel of colour I is
// all thing, all ground, or a mixture of a cluster of each, a point a of the line between the two:
//   all     (1 - q)/2  w_i  N3(I; F_i, v_i + n)
//   mixed   q  w_i w_j  N2(r; V) / |F_i - B_j|     V = a^2 v_i + (1 - a)^2 v_j + n, r its distance from the line
// n is the noise: of light I and an encoded deviation s about 4e-6 + (2e-4 + 4.84 s^2) I, since the sRGB curve is near
// a power of 2.2. alpha is the mean over all of these, conf falls with their spread. Linear light throughout, since
// things mix in it. (Chuang et al., "A Bayesian approach to digital matting", 2001, is the model's root; both cited
// from memory.)
#pragma once

#include "core/image/plane.h"

namespace dimhem::edge {

// Of each pixel, what is known of it.
enum class Known : std::uint8_t { unknown, thing, ground };

struct Likely {
    image::Plane<float> alpha;  // 0..1; of known pixels 1 or 0
    image::Plane<float> trust;  // 0..1; of known pixels 1
};

struct LocalColourSettings {
    int reachPx = 64;          // about a block, twice as far while there are too few samples
    double mixedShare = 0.10;  // q
    double noise = 0;          // of the picture, encoded: its standard deviation
};

// `samples` says which pixels are samples of a side; alpha is told for those that are unknown in `known`. `at`: where
// the planes lie on the picture's lattice, by which blocks are placed.
Likely alphaByColours(const image::LinearPlanes& picture, base::Point at, const image::Plane<Known>& known,
                      const image::Plane<Known>& samples, const LocalColourSettings& settings);

}  // namespace dimhem::edge
