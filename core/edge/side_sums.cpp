#include "core/edge/side_sums.h"

#include "core/kernel/box_sum.h"

namespace dimhem::edge {

SideSums sideSums(const Guide& guide, const Sides& sides, const image::Plane<float>& distance, Side side, float beyond,
                  int window, bool withSquares) {
    const base::Size size = sides.size();
    image::Plane<float> counts(size), values(size);
    for (int y = 0; y < size.height; ++y) {
        const Side* on = sides.row(y).data();
        const float* from = distance.row(y).data();
        float* to = counts.row(y).data();
        for (int x = 0; x < size.width; ++x) to[x] = on[x] == side && from[x] > beyond ? 1.0f : 0.0f;
    }
    const auto summed = [&](const image::Plane<float>& channel, bool squared) {
        for (int y = 0; y < size.height; ++y) {
            const float *v = channel.row(y).data(), *n = counts.row(y).data();
            float* to = values.row(y).data();
            if (squared) {
                for (int x = 0; x < size.width; ++x) to[x] = v[x] * v[x] * n[x];
            } else {
                for (int x = 0; x < size.width; ++x) to[x] = v[x] * n[x];
            }
        }
        return kernel::boxSum(values, window);
    };
    SideSums out;
    out.count = kernel::boxSum(counts, window);
    const image::Plane<float>* channels[3] = {&guide.l, &guide.a, &guide.b};
    for (int c = 0; c < 3; ++c) {
        out.sum[c] = summed(*channels[c], false);
        if (withSquares) out.square[c] = summed(*channels[c], true);
    }
    return out;
}

}  // namespace dimhem::edge
