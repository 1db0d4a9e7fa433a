#include "core/edge/guide.h"

#include <algorithm>
#include <cmath>
#include <vector>

#include "core/edge/guided_filter.h"
#include "core/kernel/oklab_rows.h"

namespace dimhem::edge {

Guide guideFrom(image::EncodedPlanes encoded) {
    const auto width = static_cast<std::size_t>(encoded.size().width);
    for (int y = 0; y < encoded.size().height; ++y)
        kernel::oklabRow({encoded.red.row(y).data(), encoded.green.row(y).data(), encoded.blue.row(y).data()}, width);
    return {std::move(encoded.red), std::move(encoded.green), std::move(encoded.blue)};
}

Guide halved(const Guide& guide) {
    const base::Size size = guide.size(), half{(size.width + 1) / 2, (size.height + 1) / 2};
    Guide out{image::Plane<float>(half), image::Plane<float>(half), image::Plane<float>(half)};
    const auto halve = [&](const image::Plane<float>& from, image::Plane<float>& to) {
        for (int y = 0; y < half.height; ++y) {
            const auto upper = from.row(2 * y), lower = from.row(std::min(2 * y + 1, size.height - 1));
            for (int x = 0; x < half.width; ++x) {
                const int a = 2 * x, b = std::min(2 * x + 1, size.width - 1);
                to.row(y)[x] = 0.25f * (upper[a] + upper[b] + lower[a] + lower[b]);
            }
        }
    };
    halve(guide.l, out.l);
    halve(guide.a, out.a);
    halve(guide.b, out.b);
    return out;
}

double noiseOf(const image::Plane<float>& l) {
    const int width = l.size().width, height = l.size().height;
    std::vector<float> departures;
    for (int y = 1; y + 1 < height; ++y) {
        const float *up = l.row(y - 1).data(), *here = l.row(y).data(), *down = l.row(y + 1).data();
        for (int x = 1; x + 1 < width; ++x) {
            const float d = up[x - 1] - 2 * up[x] + up[x + 1] - 2 * here[x - 1] + 4 * here[x] - 2 * here[x + 1] +
                            down[x - 1] - 2 * down[x] + down[x + 1];
            departures.push_back(std::abs(d));
        }
    }
    if (departures.empty()) return 0;
    const auto third = departures.begin() + static_cast<std::ptrdiff_t>(departures.size() / 3);
    std::nth_element(departures.begin(), third, departures.end());
    // The mask's weights have the norm 6; a third of normal values lie within 0.4307 deviations.
    return *third / (6 * 0.4307);
}

Guide denoised(const Guide& guide, double noise) {
    const double eps = std::max(1e-8, 6.25 * noise * noise);
    return {guidedByItself(guide.l, 2, eps), guidedByItself(guide.a, 2, eps), guidedByItself(guide.b, 2, eps)};
}

}  // namespace dimhem::edge
