#include "core/kernel/halving.h"

#include <vector>

namespace dimhem::kernel {

image::Plane<float> halved(const image::Plane<float>& plane) {
    image::Plane<float> out({plane.size().width / 2, plane.size().height / 2});
    for (int y = 0; y < out.size().height; ++y) {
        const float *a = plane.row(2 * y).data(), *b = plane.row(2 * y + 1).data();
        float* to = out.row(y).data();
        for (int x = 0; x < out.size().width; ++x) to[x] = (a[2 * x] + a[2 * x + 1] + b[2 * x] + b[2 * x + 1]) * 0.25f;
    }
    return out;
}

// A middle of the larger plane's lies a quarter of a pixel of the smaller from one of its middles.
void addDoubled(const image::Plane<float>& half, int margin, float factor, image::Plane<float>& out) {
    const base::Size size = out.size();
    const int pairs = (size.width + 1) / 2;
    std::vector<float> between(static_cast<std::size_t>(pairs) + 2);
    for (int y = 0; y < size.height; ++y) {
        const int near = margin + y / 2, far = y % 2 == 0 ? near - 1 : near + 1;
        const float *a = half.row(near).data() + margin - 1, *b = half.row(far).data() + margin - 1;
        for (int x = 0; x < pairs + 2; ++x)
            between[static_cast<std::size_t>(x)] = factor * (0.75f * a[x] + 0.25f * b[x]);
        float* to = out.row(y).data();
        const float* from = between.data() + 1;
        for (int x = 0; x < size.width / 2; ++x) {
            to[2 * x] += 0.75f * from[x] + 0.25f * from[x - 1];
            to[2 * x + 1] += 0.75f * from[x] + 0.25f * from[x + 1];
        }
        if (size.width % 2 == 1) to[size.width - 1] += 0.75f * from[pairs - 1] + 0.25f * from[pairs - 2];
    }
}

}  // namespace dimhem::kernel
