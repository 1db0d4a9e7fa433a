#include "core/edge/rim_coverage.h"

#include <algorithm>
#include <array>
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

using Colour3 = std::array<float, 3>;

Colour3 less(const Colour3& a, const Colour3& b) {
    return {a[0] - b[0], a[1] - b[1], a[2] - b[2]};
}
float product(const Colour3& a, const Colour3& b) {
    return a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
}
Colour3 colourAt(const Guide& linear, std::size_t x, int y) {
    return {linear.l.row(y)[x], linear.a.row(y)[x], linear.b.row(y)[x]};
}

// The colours of a side about each place: their mean, and how much they vary, all three channels together.
class SideTones {
public:
    SideTones(const Guide& linear, const Sides& sides, const image::Plane<float>& distance, Side side)
        : sums_(sideSums(linear, sides, distance, side, beyond, window, false)),
          squares_(kernel::boxSum(image::planeOf(sides.size(),
                                                 [&](int x, int y) {
                                                     const auto i = static_cast<std::size_t>(x);
                                                     if (sides.row(y)[i] != side || distance.row(y)[i] <= beyond)
                                                         return 0.0f;
                                                     const Colour3 c = colourAt(linear, i, y);
                                                     return product(c, c);
                                                 }),
                                  window)) {}

    bool isKnown(std::size_t x, int y) const { return sums_.count.row(y)[x] >= fewestSamples; }
    Colour3 mean(std::size_t x, int y) const {
        const float n = sums_.count.row(y)[x];
        return {sums_.sum[0].row(y)[x] / n, sums_.sum[1].row(y)[x] / n, sums_.sum[2].row(y)[x] / n};
    }
    float variance(std::size_t x, int y, const Colour3& mean) const {
        return std::max(0.0f, squares_.row(y)[x] / sums_.count.row(y)[x] - product(mean, mean));
    }

private:
    SideSums sums_;
    image::Plane<float> squares_;
};

struct Told {
    float covered = 0, trust = 0;
};

Told toldAt(const Guide& linear, const SideTones& inside, const SideTones& outside, std::size_t x, int y) {
    if (!inside.isKnown(x, y) || !outside.isKnown(x, y)) return {};
    const Colour3 f = inside.mean(x, y), b = outside.mean(x, y), way = less(f, b),
                  seen = less(colourAt(linear, x, y), b);
    const float length = product(way, way);
    if (length < leastApart * leastApart) return {};
    const float a = std::clamp(product(seen, way) / length, 0.0f, 1.0f);
    const Colour3 off = less(seen, {a * way[0], a * way[1], a * way[2]});
    const float varied = a * a * inside.variance(x, y, f) + (1 - a) * (1 - a) * outside.variance(x, y, b);
    const float spread = std::sqrt(varied / length);
    return {std::clamp((a - 0.5f) * (1 + 2 * spread) + 0.5f, 0.0f, 1.0f),
            std::clamp((unsure - spread) / (unsure - sure), 0.0f, 1.0f) *
                std::clamp(2 - std::sqrt(product(off, off) / length) / aside, 0.0f, 1.0f)};
}

// The smallest rectangle that holds all pixels of the rim and what is looked at about them.
base::Rect rimOf(const image::Plane<float>& distance) {
    const base::Size size = distance.size();
    base::Rect rim{size.width, size.height, 0, 0};
    for (int y = 0; y < size.height; ++y) {
        const auto isOn = [](float d) { return d <= rimPx; };
        const auto row = distance.row(y);
        const auto first = std::ranges::find_if(row, isOn);
        if (first == row.end()) continue;
        const auto last = std::find_if(row.rbegin(), row.rend(), isOn);
        rim = {std::min(rim.x0, static_cast<int>(first - row.begin())), std::min(rim.y0, y),
               std::max(rim.x1, static_cast<int>(row.rend() - last)), y + 1};
    }
    return rim.empty() ? rim : base::intersected(base::grown(rim, window + 1), base::rectOf(size));
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
    RimCoverage all{image::filled(sides.size(), 0.0f), image::filled(sides.size(), 0.0f)};
    const base::Rect rect = rimOf(distance);
    if (rect.empty()) return all;
    const Sides own = image::cropped(sides, rect);
    const image::Plane<float> near = image::cropped(distance, rect);
    const Guide linear =
        linearOf({image::cropped(guide.l, rect), image::cropped(guide.a, rect), image::cropped(guide.b, rect)});
    const SideTones inside(linear, own, near, Side::inside), outside(linear, own, near, Side::outside);
    RimCoverage rim{image::filled(rect.size(), 0.0f), image::filled(rect.size(), 0.0f)};
    for (int y = 0; y < rect.height(); ++y) {
        for (std::size_t x = 0; x < static_cast<std::size_t>(rect.width()); ++x) {
            if (near.row(y)[x] > rimPx) continue;
            const Told told = toldAt(linear, inside, outside, x, y);
            rim.covered.row(y)[x] = told.covered;
            rim.trust.row(y)[x] = told.trust;
        }
    }
    distrustWhereTheCutIsOff(own, near, rim);
    for (int y = 0; y < rect.height(); ++y) {
        std::ranges::copy(rim.covered.row(y), all.covered.row(rect.y0 + y).begin() + rect.x0);
        std::ranges::copy(rim.trust.row(y), all.trust.row(rect.y0 + y).begin() + rect.x0);
    }
    return all;
}

}  // namespace dimhem::edge
