#include "core/edge/matting_laplacian.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/edge/matting_laplacian.cpp"

#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include <algorithm>
#include <array>
#include <cmath>

HWY_BEFORE_NAMESPACE();
namespace dimhem::edge {
namespace HWY_NAMESPACE {

namespace hn = hwy::HWY_NAMESPACE;

// Pixels in a row: what each gets from the 25 about it. The weights of one neighbour lie together, `stride` apart from
// those of the next. May write past the end, up to a vector.
void GatherRun(const float* weights, std::size_t stride, const float* trust, const float* field, std::ptrdiff_t rowStep,
               float* out, std::size_t count) {
    const hn::ScalableTag<float> d;
    for (std::size_t i = 0; i < count; i += hn::Lanes(d)) {
        auto sum = hn::Mul(hn::LoadU(d, trust + i), hn::LoadU(d, field + i));
        const float* weight = weights + i;
        for (int y = -2; y <= 2; ++y) {
            const float* row = field + i + y * rowStep - 2;
            for (std::size_t x = 0; x < 5; ++x, weight += stride)
                sum = hn::MulAdd(hn::LoadU(d, weight), hn::LoadU(d, row + x), sum);
        }
        hn::StoreU(sum, d, out + i);
    }
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::edge
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace dimhem::edge {

HWY_EXPORT(GatherRun);

namespace {

using image::Plane;
using Colour = std::array<double, 3>;

// The inverse of a symmetric matrix of three, given and returned as 00 01 02 11 12 22.
std::array<double, 6> inverseOf(const std::array<double, 6>& m) {
    const double a = m[3] * m[5] - m[4] * m[4], b = m[2] * m[4] - m[1] * m[5], c = m[1] * m[4] - m[2] * m[3];
    const double scale = 1 / (m[0] * a + m[1] * b + m[2] * c);
    return {a * scale,
            b * scale,
            c * scale,
            (m[0] * m[5] - m[2] * m[2]) * scale,
            (m[1] * m[2] - m[0] * m[4]) * scale,
            (m[0] * m[3] - m[1] * m[1]) * scale};
}

constexpr int windowPixels = 9;

// One window: how its nine pixels hang together.
std::array<std::array<float, windowPixels>, windowPixels> affinities(const std::array<Colour, windowPixels>& pixels) {
    constexpr double eps = 1e-5;  // of the summed covariance
    Colour mean{};
    for (const Colour& p : pixels) {
        for (std::size_t c = 0; c < 3; ++c) mean[c] += p[c] / windowPixels;
    }
    std::array<Colour, windowPixels> off;
    std::array<double, 6> sum{eps, 0, 0, eps, 0, eps};
    for (std::size_t i = 0; i < windowPixels; ++i) {
        for (std::size_t c = 0; c < 3; ++c) off[i][c] = pixels[i][c] - mean[c];
        const Colour& o = off[i];
        const double parts[] = {o[0] * o[0], o[0] * o[1], o[0] * o[2], o[1] * o[1], o[1] * o[2], o[2] * o[2]};
        for (std::size_t k = 0; k < 6; ++k) sum[k] += parts[k];
    }
    const std::array<double, 6> inverse = inverseOf(sum);  // of the sum: nine times the covariance
    std::array<std::array<float, windowPixels>, windowPixels> out;
    for (std::size_t i = 0; i < windowPixels; ++i) {
        const Colour& o = off[i];
        const Colour turned{inverse[0] * o[0] + inverse[1] * o[1] + inverse[2] * o[2],
                            inverse[1] * o[0] + inverse[3] * o[1] + inverse[4] * o[2],
                            inverse[2] * o[0] + inverse[4] * o[1] + inverse[5] * o[2]};
        for (std::size_t j = 0; j < windowPixels; ++j) {
            const double same = turned[0] * off[j][0] + turned[1] * off[j][1] + turned[2] * off[j][2];
            out[i][j] = static_cast<float>((i == j ? 1 : 0) - 1.0 / windowPixels - same);
        }
    }
    return out;
}

}  // namespace

MattingLaplacian::MattingLaplacian(const image::LinearPlanes& picture, const Plane<Known>& known,
                                   const Plane<float>& fixed)
    : size_(picture.size()), fixed_(fixed) {
    const auto width = static_cast<std::size_t>(size_.width);
    index_.assign(width * static_cast<std::size_t>(size_.height), -1);
    for (int y = 0; y < size_.height; ++y) {
        for (int x = 0; x < size_.width; ++x) {
            if (known.view().at(x, y) != Known::unknown) continue;
            const int place = y * size_.width + x;
            index_[static_cast<std::size_t>(place)] = static_cast<int>(places_.size());
            if (x == 0 || runs_.empty() || places_.empty() || places_.back() + 1 != place)
                runs_.push_back({places_.size(), 0});
            ++runs_.back().count;
            places_.push_back(place);
        }
    }
    stride_ = places_.size() + spare;
    stencil_.assign(stride_ * around, 0);
    const auto indexAt = [&](int x, int y) { return index_[static_cast<std::size_t>(y * size_.width + x)]; };
    for (int y = 1; y + 1 < size_.height; ++y) {
        for (int x = 1; x + 1 < size_.width; ++x) {
            std::array<int, windowPixels> unknown;
            bool any = false;
            for (int k = 0; k < windowPixels; ++k) {
                unknown[static_cast<std::size_t>(k)] = indexAt(x + k % 3 - 1, y + k / 3 - 1);
                any = any || unknown[static_cast<std::size_t>(k)] >= 0;
            }
            if (!any) continue;
            std::array<Colour, windowPixels> pixels;
            for (int k = 0; k < windowPixels; ++k) {
                const int px = x + k % 3 - 1, py = y + k / 3 - 1;
                pixels[static_cast<std::size_t>(k)] = {double{picture.red.view().at(px, py)},
                                                       double{picture.green.view().at(px, py)},
                                                       double{picture.blue.view().at(px, py)}};
            }
            const auto links = affinities(pixels);
            for (std::size_t i = 0; i < windowPixels; ++i) {
                if (unknown[i] < 0) continue;
                float* weights = stencil_.data() + unknown[i];
                for (std::size_t j = 0; j < windowPixels; ++j) {
                    const int dx = static_cast<int>(j % 3) - static_cast<int>(i % 3),
                              dy = static_cast<int>(j / 3) - static_cast<int>(i / 3);
                    weights[static_cast<std::size_t>((dy + 2) * 5 + dx + 2) * stride_] += links[i][j];
                }
            }
        }
    }
}

Plane<float> MattingLaplacian::solve(const Likely& likely, const Plane<float>& start, double lambda,
                                     double accuracy) const {
    const std::size_t count = places_.size();
    // Alpha of all pixels in one row, with two more rows at either end, so that no neighbour lies outside.
    const auto width = static_cast<std::size_t>(size_.width);
    const std::size_t pad = 2 * width + 2;
    std::vector<float> field(index_.size() + 2 * pad + spare, 0);
    std::vector<float> diagonal(count), wanted(count), trust(count + spare);
    for (std::size_t i = 0; i < count; ++i) {
        const int x = places_[i] % size_.width, y = places_[i] / size_.width;
        trust[i] = static_cast<float>(lambda) * likely.trust.view().at(x, y);
        wanted[i] = trust[i] * likely.alpha.view().at(x, y);
        diagonal[i] = std::max(1e-6f, stencil_[12 * stride_ + i] + trust[i]);
    }
    const auto apply = [&](const std::vector<float>& in, std::vector<float>& out) {
        for (const Run& run : runs_)
            std::copy_n(in.data() + run.first, run.count,
                        field.data() + pad + static_cast<std::size_t>(places_[run.first]));
        for (const Run& run : runs_) HWY_DYNAMIC_DISPATCH(GatherRun)
        (stencil_.data() + run.first, stride_, trust.data() + run.first,
         field.data() + pad + static_cast<std::size_t>(places_[run.first]), static_cast<std::ptrdiff_t>(width),
         out.data() + run.first, run.count);
    };
    const auto dot = [&](const std::vector<float>& a, const std::vector<float>& b) {
        double sum = 0;
        for (std::size_t i = 0; i < count; ++i) sum += double{a[i]} * double{b[i]};
        return sum;
    };
    // With the known pixels in the field once: what they bring in moves to the right side.
    for (int y = 0; y < size_.height; ++y) {
        for (int x = 0; x < size_.width; ++x) {
            const auto place = static_cast<std::size_t>(y * size_.width + x);
            if (index_[place] < 0) field[pad + place] = fixed_.view().at(x, y);
        }
    }
    std::vector<float> x(count), r(count), z(count), p(count), ap(count + spare);
    for (std::size_t i = 0; i < count; ++i) x[i] = start.view().at(places_[i] % size_.width, places_[i] / size_.width);
    apply(x, ap);
    for (std::size_t i = 0; i < count; ++i) r[i] = wanted[i] - ap[i];
    // From here on the map is linear in the unknown pixels alone.
    for (std::size_t place = 0; place < index_.size(); ++place) {
        if (index_[place] < 0) field[pad + place] = 0;
    }
    constexpr int mostSteps = 120;
    double before = 1;
    for (int step = 0; step < mostSteps; ++step) {
        double off = 0;
        for (std::size_t i = 0; i < count; ++i) {
            z[i] = r[i] / diagonal[i];
            off += double{z[i]} * double{z[i]};
        }
        if (off < accuracy * accuracy * static_cast<double>(count)) break;
        const double rz = dot(r, z);
        const auto beta = static_cast<float>(step == 0 ? 0 : rz / before);
        before = rz;
        for (std::size_t i = 0; i < count; ++i) p[i] = z[i] + beta * p[i];
        apply(p, ap);
        const double curvature = dot(p, ap);
        if (!(curvature > 0)) break;
        const auto go = static_cast<float>(rz / curvature);
        for (std::size_t i = 0; i < count; ++i) {
            x[i] += go * p[i];
            r[i] -= go * ap[i];
        }
    }
    Plane<float> out = image::copied(fixed_);
    for (std::size_t i = 0; i < count; ++i)
        out.view().at(places_[i] % size_.width, places_[i] / size_.width) = std::clamp(x[i], 0.0f, 1.0f);
    return out;
}

}  // namespace dimhem::edge
#endif
