#include "core/edge/side_sums.h"

#include "core/kernel/box_sum.h"

namespace dimhem::edge {

SideSums sideSums(const Guide& guide, const Sides& sides, const image::Plane<float>& distance, Side side, float beyond,
                  int window, bool withSquares) {
    const base::Size size = sides.size();
    const auto summed = [&](const image::Plane<float>* channel, bool squared) {
        image::Plane<float> values(size);
        for (int y = 0; y < size.height; ++y) {
            for (int x = 0; x < size.width; ++x) {
                const bool counts = sides.row(y)[x] == side && distance.row(y)[x] > beyond;
                const float v = !counts ? 0.0f : channel ? channel->row(y)[x] : 1.0f;
                values.row(y)[x] = squared ? v * v : v;
            }
        }
        return kernel::boxSum(values, window);
    };
    SideSums out;
    out.count = summed(nullptr, false);
    const image::Plane<float>* channels[3] = {&guide.l, &guide.a, &guide.b};
    for (int c = 0; c < 3; ++c) {
        out.sum[c] = summed(channels[c], false);
        if (withSquares) out.square[c] = summed(channels[c], true);
    }
    return out;
}

}  // namespace dimhem::edge
