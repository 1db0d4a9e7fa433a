#include "core/edge/guided_filter.h"

#include <algorithm>

#include "core/kernel/bilinear.h"
#include "core/kernel/box_sum.h"

namespace dimhem::edge {

namespace {

template <class F>
image::Plane<float> combined(const image::Plane<float>& x, const image::Plane<float>& y, F f) {
    image::Plane<float> out(x.size());
    for (int row = 0; row < x.size().height; ++row) {
        std::transform(x.row(row).begin(), x.row(row).end(), y.row(row).begin(), out.row(row).begin(), f);
    }
    return out;
}

image::Plane<float> meanOfProduct(const image::Plane<float>& x, const image::Plane<float>& y, int radius) {
    return kernel::boxMean(combined(x, y, [](float a, float b) { return a * b; }), radius);
}

image::Plane<float> covariance(const image::Plane<float>& x, const image::Plane<float>& y,
                               const image::Plane<float>& meanX, const image::Plane<float>& meanY, int radius) {
    image::Plane<float> out = meanOfProduct(x, y, radius);
    for (int row = 0; row < out.size().height; ++row) {
        float* to = out.row(row).data();
        const float *mx = meanX.row(row).data(), *my = meanY.row(row).data();
        for (int i = 0; i < out.size().width; ++i) to[i] -= mx[i] * my[i];
    }
    return out;
}

// Less its mean over the whole plane: products of what is far from zero lose digits.
image::Plane<float> centred(const image::Plane<float>& plane) {
    double sum = 0;
    for (int y = 0; y < plane.size().height; ++y) {
        for (const float v : plane.row(y)) sum += static_cast<double>(v);
    }
    const auto mean = static_cast<float>(sum / (static_cast<double>(plane.size().width) * plane.size().height));
    return combined(plane, plane, [mean](float v, float) { return v - mean; });
}

// Of one pixel: the line through the guide's three channels, by Cramer's rule on the symmetric matrix of their
// covariances.
struct Line {
    float a[3];
};

Line lineOf(const float c[6], const float p[3], float eps) {
    const float ll = c[0] + eps, la = c[1], lb = c[2], aa = c[3] + eps, ab = c[4], bb = c[5] + eps;
    const float i0 = aa * bb - ab * ab, i1 = lb * ab - la * bb, i2 = la * ab - lb * aa;
    const float i3 = ll * bb - lb * lb, i4 = la * lb - ll * ab, i5 = ll * aa - la * la;
    const float scale = 1 / (ll * i0 + la * i1 + lb * i2);
    return {{(i0 * p[0] + i1 * p[1] + i2 * p[2]) * scale, (i1 * p[0] + i3 * p[1] + i4 * p[2]) * scale,
             (i2 * p[0] + i4 * p[1] + i5 * p[2]) * scale}};
}

}  // namespace

image::Plane<float> guidedByItself(const image::Plane<float>& plane, int radius, double eps) {
    return guided(plane, plane, radius, eps);
}

image::Plane<float> guided(const image::Plane<float>& guide, const image::Plane<float>& plane, int radius, double eps) {
    const image::Plane<float> own = centred(guide);
    const image::Plane<float> meanGuide = kernel::boxMean(own, radius), meanPlane = kernel::boxMean(plane, radius);
    const image::Plane<float> variance = covariance(own, own, meanGuide, meanGuide, radius);
    image::Plane<float> slope = covariance(own, plane, meanGuide, meanPlane, radius);
    const auto flat = static_cast<float>(eps);
    slope = combined(slope, variance, [flat](float c, float v) { return c / (std::max(v, 0.0f) + flat); });
    image::Plane<float> offset = combined(slope, meanGuide, [](float s, float m) { return s * m; });
    offset = combined(meanPlane, offset, [](float m, float o) { return m - o; });
    const image::Plane<float> meanSlope = kernel::boxMean(slope, radius), meanOffset = kernel::boxMean(offset, radius);
    image::Plane<float> out = combined(meanSlope, own, [](float s, float g) { return s * g; });
    return combined(out, meanOffset, [](float v, float o) { return v + o; });
}

float Lines::at(double x, double y, const std::array<float, 3>& colour) const {
    double v = kernel::bilinear(offset, x, y);
    for (std::size_t i = 0; i < 3; ++i) v += kernel::bilinear(slope[i], x, y) * double{colour[i]};
    return static_cast<float>(std::clamp(v, 0.0, 1.0));
}

Lines guidingLines(const Guide& guide, const image::Plane<float>& plane, int radius, double eps) {
    const image::Plane<float>* own[3] = {&guide.l, &guide.a, &guide.b};
    const image::Plane<float> mean[3] = {kernel::boxMean(*own[0], radius), kernel::boxMean(*own[1], radius),
                                         kernel::boxMean(*own[2], radius)};
    const image::Plane<float> meanPlane = kernel::boxMean(plane, radius);
    image::Plane<float> among[6], with[3];
    for (int i = 0, k = 0; i < 3; ++i) {
        for (int j = i; j < 3; ++j) among[k++] = covariance(*own[i], *own[j], mean[i], mean[j], radius);
        with[i] = covariance(*own[i], plane, mean[i], meanPlane, radius);
    }
    const base::Size size = plane.size();
    Lines lines{{image::Plane<float>(size), image::Plane<float>(size), image::Plane<float>(size)},
                image::Plane<float>(size)};
    for (int y = 0; y < size.height; ++y) {
        for (std::size_t x = 0; x < static_cast<std::size_t>(size.width); ++x) {
            const float c[6] = {among[0].row(y)[x], among[1].row(y)[x], among[2].row(y)[x],
                                among[3].row(y)[x], among[4].row(y)[x], among[5].row(y)[x]};
            const float p[3] = {with[0].row(y)[x], with[1].row(y)[x], with[2].row(y)[x]};
            const Line line = lineOf(c, p, static_cast<float>(eps));
            float rest = meanPlane.row(y)[x];
            for (int i = 0; i < 3; ++i) {
                lines.slope[i].row(y)[x] = line.a[i];
                rest -= line.a[i] * mean[i].row(y)[x];
            }
            lines.offset.row(y)[x] = rest;
        }
    }
    for (image::Plane<float>& slope : lines.slope) slope = kernel::boxMean(slope, radius);
    lines.offset = kernel::boxMean(lines.offset, radius);
    return lines;
}

image::Plane<float> guided(const Guide& guide, const image::Plane<float>& plane, int radius, double eps) {
    const Guide own{centred(guide.l), centred(guide.a), centred(guide.b)};
    Lines lines = guidingLines(own, plane, radius, eps);
    const image::Plane<float>* channels[3] = {&own.l, &own.a, &own.b};
    image::Plane<float> out = std::move(lines.offset);
    for (int i = 0; i < 3; ++i) {
        const image::Plane<float> part = combined(lines.slope[i], *channels[i], [](float s, float g) { return s * g; });
        out = combined(out, part, [](float v, float o) { return v + o; });
    }
    return out;
}

}  // namespace dimhem::edge
