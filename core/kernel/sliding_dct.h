// Noise taken from a plane by the discrete cosine transform of 8 x 8 patches that lie over one another.
//
// Two passes, each over patches at every second pixel of every second row. Their outcomes are averaged, a patch
// counting 1 / (8 + what it keeps of the squares of its coefficients' gains), and less towards its sides, by sin(pi (x
// + 1/2) / 8) across and down: so that no patch shows where its neighbours have an edge in them.
//   1  coefficients below 3 sigma become zero
//   2  each coefficient of the noisy patch times p^2 / (p^2 + sigma^2), p being that of the first pass's outcome
// sigma^2 is the noise of the patch in the coefficient's band. The mean of a patch stays.
//
// Published: Yu and Sapiro, "DCT image denoising", Image Processing On Line, 2011; the second pass as in Dabov, Foi,
// Katkovnik and Egiazarian, "Image denoising by sparse 3-D transform-domain collaborative filtering", IEEE TIP 16,
// 2007. Both cited from memory.
#pragma once

#include <array>

#include "core/image/plane.h"

namespace dimhem::kernel {

inline constexpr int patchSide = 8, patchStep = 2;

// How many patches a plane has, across and down; its sides must be even and hold a patch.
base::Size patchCount(base::Size plane);

// The mean of each patch.
image::Plane<float> patchMeans(const image::Plane<float>& plane);

// Bands of coefficients, by how fine they are: u + v up to and with.
inline constexpr std::array<int, 4> lastOfBand = {5, 8, 11, 14};
constexpr std::size_t bandOf(int uPlusV) {
    std::size_t band = 0;
    while (uPlusV > lastOfBand[band]) ++band;
    return band;
}

// The variance of the noise in each patch, by band: patchCount() of the plane.
using PatchNoise = std::array<image::Plane<float>, lastOfBand.size()>;

image::Plane<float> withoutSmallCoefficients(const image::Plane<float>& noisy, const PatchNoise& noise);
image::Plane<float> wienerFiltered(const image::Plane<float>& noisy, const image::Plane<float>& pilot,
                                   const PatchNoise& noise);

}  // namespace dimhem::kernel
