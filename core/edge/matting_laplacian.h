// The matting Laplacian: how alpha goes on from pixel to pixel, where colours lie on a line in every small window.
//
// Levin, Lischinski and Weiss, "A closed-form solution to natural image matting", PAMI 2008, equation 12, with windows
// of 3 by 3 (cited from memory). Solves (L + lambda C) a = lambda C a0 on the unknown pixels, the known ones fixed, by
// conjugate gradients with the diagonal as preconditioner. Sums are taken in a fixed order.
#pragma once

#include <vector>

#include "core/edge/local_colours.h"

namespace dimhem::edge {

class MattingLaplacian {
public:
    // `fixed`: alpha of the known pixels. Only what lies about unknown pixels is worked out.
    MattingLaplacian(const image::LinearPlanes& picture, const image::Plane<Known>& known,
                     const image::Plane<float>& fixed);

    // From what the colours say and how far to trust it; begins at `start`, 0..1, and ends where the root mean square
    // of D^-1 r is below `accuracy`, D the diagonal and r what is left.
    image::Plane<float> solve(const Likely& likely, const image::Plane<float>& start, double lambda,
                              double accuracy) const;

private:
    static constexpr int around = 25;  // of a pixel's neighbours, five by five
    base::Size size_;
    const image::Plane<float>& fixed_;
    std::vector<int> places_;  // of the unknown pixels, counted along the rows
    std::vector<int> index_;   // of each pixel among them; -1: known
    struct Run {
        std::size_t first, count;
    };
    std::vector<Run> runs_;                   // of unknown pixels that lie side by side
    static constexpr std::size_t spare = 64;  // floats past an end that whole vectors may touch
    std::vector<float> stencil_;  // of each unknown pixel: first that of the first neighbour of all, and so on
    std::size_t stride_ = 0;      // from one neighbour's weights to the next one's
};

}  // namespace dimhem::edge
