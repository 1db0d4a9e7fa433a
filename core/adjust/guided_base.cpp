#include "core/adjust/guided_base.h"

#include <algorithm>

#include "core/adjust/luma_plane.h"
#include "core/kernel/box_sum.h"

namespace dimhem::adjust {

namespace {

using image::Plane;

Plane<float> product(const Plane<float>& a, const Plane<float>& b) {
    Plane<float> out(a.size());
    for (int y = 0; y < a.size().height; ++y) {
        const float *l = a.row(y).data(), *r = b.row(y).data();
        float* to = out.row(y).data();
        for (int x = 0; x < a.size().width; ++x) to[x] = l[x] * r[x];
    }
    return out;
}

}  // namespace

void makeBase(const image::EncodedPlanes& around, int radius, double flat, std::span<Plane<float>> planes) {
    const base::Size size = planes[0].size();
    const base::Rect own{2 * radius, 2 * radius, 2 * radius + size.width, 2 * radius + size.height};
    const Plane<float> luma = lumaOf(around), mean = kernel::boxMean(luma, radius),
                       square = kernel::boxMean(product(luma, luma), radius);
    const auto even = static_cast<float>(flat * flat);
    const Plane<float>* channels[] = {&around.red, &around.green, &around.blue};
    for (std::size_t c = 0; c < 3; ++c) {
        const Plane<float> of = kernel::boxMean(*channels[c], radius),
                           with = kernel::boxMean(product(luma, *channels[c]), radius);
        Plane<float> slope(luma.size()), offset(luma.size());
        for (int y = 0; y < luma.size().height; ++y) {
            const float *m = mean.row(y).data(), *s = square.row(y).data(), *o = of.row(y).data(),
                        *w = with.row(y).data();
            float *a = slope.row(y).data(), *b = offset.row(y).data();
            for (int x = 0; x < luma.size().width; ++x) {
                const float variance = std::max(0.0f, s[x] - m[x] * m[x]);
                a[x] = (w[x] - m[x] * o[x]) / (variance + even);
                b[x] = o[x] - a[x] * m[x];
            }
        }
        planes[2 * c] = image::cropped(kernel::boxMean(slope, radius), own);
        planes[2 * c + 1] = image::cropped(kernel::boxMean(offset, radius), own);
    }
}

}  // namespace dimhem::adjust
