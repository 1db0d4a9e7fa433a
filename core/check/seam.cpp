#include "core/check/seam.h"

#include <algorithm>
#include <cmath>

#include "core/kernel/extreme_filter.h"

namespace dimhem::check {

namespace {

constexpr int hidesWithinPx = 4;
constexpr float hides = 0.5f;  // of the photo's own range, as a part of it

// The larger of the steps across and down over three pixels.
image::Plane<float> stepsOf(const image::Plane<float>& v) {
    const base::Size size = v.size();
    return image::planeOf(size, [&](int x, int y) {
        const int x0 = std::max(x - 1, 0), x1 = std::min(x + 1, size.width - 1), y0 = std::max(y - 1, 0),
                  y1 = std::min(y + 1, size.height - 1);
        const auto column = [](int i) { return static_cast<std::size_t>(i); };
        const float across = std::abs(v.row(y)[column(x1)] - v.row(y)[column(x0)]),
                    down = std::abs(v.row(y1)[column(x)] - v.row(y0)[column(x)]);
        return std::max(across, down);
    });
}

}  // namespace

Seam seamOf(const image::Plane<float>& before, const image::Plane<float>& after) {
    const base::Size size = before.size();
    const image::Plane<float> effect = image::planeOf(size, [&](int x, int y) {
        const auto column = static_cast<std::size_t>(x);
        return after.row(y)[column] - before.row(y)[column];
    });
    const image::Plane<float> steps = stepsOf(effect), own = kernel::greatestAround(stepsOf(before), hidesWithinPx);
    Seam seam;
    seam.amount = image::filled(size, 0.0f);
    double sum = 0;
    for (int y = 0; y < size.height; ++y) {
        for (std::size_t x = 0; x < static_cast<std::size_t>(size.width); ++x) {
            const float step = steps.row(y)[x];
            if (step < seenStep) continue;
            seam.edgePixels += 1;
            if (hides * step <= own.row(y)[x]) continue;
            seam.amount.row(y)[x] = step;
            seam.pixels += 1;
            sum += step;
        }
    }
    if (seam.pixels > 0) seam.step = sum / seam.pixels;
    return seam;
}

}  // namespace dimhem::check
