#include "core/edge/rim_coverage.h"

#include <algorithm>
#include <cmath>

#include "core/edge/side_sums.h"
#include "core/kernel/box_sum.h"

namespace dimhem::edge {

namespace {

constexpr int window = 5;                      // where the colours of a side are taken, to either side
constexpr float beyond = 2;                    // so far from the cut, in pixels
constexpr float sure = 0.06f, unsure = 0.25f;  // standard deviation of what is told
constexpr float aside = 0.04f;                 // of the way from B to F: how far off it a mixture of them may lie
constexpr float leastApart = 0.03f;            // of F and B, in linear light

// The guide's colours as linear sRGB (Ottosson, "A perceptual color space for image processing", 2020).
Guide linearOf(const Guide& guide) {
    Guide out{image::Plane<float>(guide.size()), image::Plane<float>(guide.size()), image::Plane<float>(guide.size())};
    for (int y = 0; y < guide.size().height; ++y) {
        const float *l = guide.l.row(y).data(), *a = guide.a.row(y).data(), *b = guide.b.row(y).data();
        float *red = out.l.row(y).data(), *green = out.a.row(y).data(), *blue = out.b.row(y).data();
        for (int x = 0; x < guide.size().width; ++x) {
            const float p = l[x] + 0.3963377774f * a[x] + 0.2158037573f * b[x],
                        q = l[x] - 0.1055613458f * a[x] - 0.0638541728f * b[x],
                        r = l[x] - 0.0894841775f * a[x] - 1.2914855480f * b[x];
            const float pp = p * p * p, qq = q * q * q, rr = r * r * r;
            red[x] = 4.0767416621f * pp - 3.3077115913f * qq + 0.2309699292f * rr;
            green[x] = -1.2684380046f * pp + 2.6097574011f * qq - 0.3413193965f * rr;
            blue[x] = -0.0041960863f * pp - 0.7034186147f * qq + 1.7076147010f * rr;
        }
    }
    return out;
}

struct Tone {
    float mean[3];
    float variance;  // of all three together
};

Tone toneAt(const SideSums& sums, std::size_t x, int y) {
    Tone tone{{}, 0};
    const float n = sums.count.row(y)[x];
    for (int c = 0; c < 3; ++c) {
        tone.mean[c] = sums.sum[c].row(y)[x] / n;
        tone.variance += std::max(0.0f, sums.square[c].row(y)[x] / n - tone.mean[c] * tone.mean[c]);
    }
    return tone;
}

// Beside the pixels the edge passes through, colours and the cut must say the same: else the cut is not on the edge.
void distrustWhereTheCutIsOff(const Sides& sides, const image::Plane<float>& distance, RimCoverage& rim) {
    constexpr int about = 3;
    constexpr float passed = 1.2f, agrees = 0.12f, differs = 0.25f;
    const base::Size size = sides.size();
    const auto isBeside = [&](int x, int y) { return distance.row(y)[x] > passed && rim.trust.row(y)[x] > 0; };
    const auto off = [&](int x, int y) {
        const float own = sides.row(y)[x] == Side::inside ? 1.0f : 0.0f;
        return isBeside(x, y) ? std::abs(rim.covered.row(y)[x] - own) : 0.0f;
    };
    const image::Plane<float> count =
        kernel::boxSum(image::planeOf(size, [&](int x, int y) { return isBeside(x, y) ? 1.0f : 0.0f; }), about);
    const image::Plane<float> offs = kernel::boxSum(image::planeOf(size, off), about);
    for (int y = 0; y < size.height; ++y) {
        for (std::size_t x = 0; x < static_cast<std::size_t>(size.width); ++x) {
            const float n = count.row(y)[x], mean = n > 0 ? offs.row(y)[x] / n : 1.0f;
            rim.trust.row(y)[x] *= std::clamp((differs - mean) / (differs - agrees), 0.0f, 1.0f);
        }
    }
}

}  // namespace

RimCoverage rimCoverage(const Guide& guide, const Sides& sides, const image::Plane<float>& distance) {
    const base::Size size = sides.size();
    RimCoverage out{image::filled(size, 0.0f), image::filled(size, 0.0f)};
    const Guide linear = linearOf(guide);
    const SideSums inside = sideSums(linear, sides, distance, Side::inside, beyond, window),
                   outside = sideSums(linear, sides, distance, Side::outside, beyond, window);
    for (int y = 0; y < size.height; ++y) {
        for (std::size_t x = 0; x < static_cast<std::size_t>(size.width); ++x) {
            if (distance.row(y)[x] > rimPx || inside.count.row(y)[x] < fewestSamples ||
                outside.count.row(y)[x] < fewestSamples)
                continue;
            const Tone f = toneAt(inside, x, y), b = toneAt(outside, x, y);
            const float p[3] = {linear.l.row(y)[x], linear.a.row(y)[x], linear.b.row(y)[x]};
            float along = 0, length = 0;
            for (int c = 0; c < 3; ++c) {
                along += (p[c] - b.mean[c]) * (f.mean[c] - b.mean[c]);
                length += (f.mean[c] - b.mean[c]) * (f.mean[c] - b.mean[c]);
            }
            if (length < leastApart * leastApart) continue;
            const float a = std::clamp(along / length, 0.0f, 1.0f);
            float off = 0;
            for (int c = 0; c < 3; ++c) {
                const float d = p[c] - b.mean[c] - a * (f.mean[c] - b.mean[c]);
                off += d * d;
            }
            const float spread = std::sqrt((a * a * f.variance + (1 - a) * (1 - a) * b.variance) / length);
            out.covered.row(y)[x] = std::clamp((a - 0.5f) * (1 + 2 * spread) + 0.5f, 0.0f, 1.0f);
            out.trust.row(y)[x] = std::clamp((unsure - spread) / (unsure - sure), 0.0f, 1.0f) *
                                  std::clamp(2 - std::sqrt(off / length) / aside, 0.0f, 1.0f);
        }
    }
    distrustWhereTheCutIsOff(sides, distance, out);
    return out;
}

}  // namespace dimhem::edge
