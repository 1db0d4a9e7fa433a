#include "core/edge/guided_filter.h"

#include <algorithm>
#include <vector>

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

// Turns six planes of covariances (ll, la, lb, aa, ab, bb), eps added, into those of the inverse matrix.
void invert(image::Plane<float> c[6], float eps) {
    const base::Size size = c[0].size();
    for (int y = 0; y < size.height; ++y) {
        float* row[6];
        for (int k = 0; k < 6; ++k) row[k] = c[k].row(y).data();
        for (int x = 0; x < size.width; ++x) {
            const float ll = row[0][x] + eps, la = row[1][x], lb = row[2][x], aa = row[3][x] + eps, ab = row[4][x],
                        bb = row[5][x] + eps;
            const float i0 = aa * bb - ab * ab, i1 = lb * ab - la * bb, i2 = la * ab - lb * aa;
            const float scale = 1 / (ll * i0 + la * i1 + lb * i2);
            row[0][x] = i0 * scale;
            row[1][x] = i1 * scale;
            row[2][x] = i2 * scale;
            row[3][x] = (ll * bb - lb * lb) * scale;
            row[4][x] = (la * lb - ll * ab) * scale;
            row[5][x] = (ll * aa - la * la) * scale;
        }
    }
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

image::Plane<float> Lines::over(const Guide& finer, base::Point first, double step) const {
    const base::Size size = finer.size();
    const auto width = static_cast<std::size_t>(offset.size().width);
    // Down once for each row of the finer picture, then across.
    std::vector<float> down[4];
    for (std::vector<float>& row : down) row.resize(width);
    std::vector<int> left(static_cast<std::size_t>(size.width));
    std::vector<float> right(left.size());
    for (std::size_t x = 0; x < left.size(); ++x) {
        const double u = first.x + static_cast<double>(x) * step - 0.5;
        left[x] = std::clamp(static_cast<int>(u), 0, offset.size().width - 2);
        right[x] = static_cast<float>(u - left[x]);
    }
    const image::Plane<float>* planes[4] = {&slope[0], &slope[1], &slope[2], &offset};
    image::Plane<float> out(size);
    for (int y = 0; y < size.height; ++y) {
        const double v = first.y + y * step - 0.5;
        const int top = std::clamp(static_cast<int>(v), 0, offset.size().height - 2);
        const auto low = static_cast<float>(v - top);
        for (int k = 0; k < 4; ++k) {
            const float *above = planes[k]->row(top).data(), *below = planes[k]->row(top + 1).data();
            for (std::size_t i = 0; i < width; ++i) down[k][i] = above[i] + low * (below[i] - above[i]);
        }
        const float *l = finer.l.row(y).data(), *a = finer.a.row(y).data(), *b = finer.b.row(y).data();
        float* to = out.row(y).data();
        for (std::size_t x = 0; x < left.size(); ++x) {
            const auto i = static_cast<std::size_t>(left[x]);
            const float t = right[x];
            const auto at = [i, t](const std::vector<float>& row) { return row[i] + t * (row[i + 1] - row[i]); };
            to[x] = std::clamp(at(down[0]) * l[x] + at(down[1]) * a[x] + at(down[2]) * b[x] + at(down[3]), 0.0f, 1.0f);
        }
    }
    return out;
}

Guiding::Guiding(Guide guide, int radius, double eps) : guide_(std::move(guide)), radius_(radius) {
    const image::Plane<float>* own[3] = {&guide_.l, &guide_.a, &guide_.b};
    for (int i = 0; i < 3; ++i) mean_[i] = kernel::boxMean(*own[i], radius);
    for (int i = 0, k = 0; i < 3; ++i) {
        for (int j = i; j < 3; ++j) inverse_[k++] = covariance(*own[i], *own[j], mean_[i], mean_[j], radius);
    }
    invert(inverse_, static_cast<float>(eps));
}

Lines Guiding::linesFor(const image::Plane<float>& plane) const {
    const image::Plane<float>* own[3] = {&guide_.l, &guide_.a, &guide_.b};
    const image::Plane<float> meanPlane = kernel::boxMean(plane, radius_);
    image::Plane<float> with[3];
    for (int i = 0; i < 3; ++i) with[i] = covariance(*own[i], plane, mean_[i], meanPlane, radius_);
    const base::Size size = plane.size();
    Lines lines{{image::Plane<float>(size), image::Plane<float>(size), image::Plane<float>(size)},
                image::Plane<float>(size)};
    for (int y = 0; y < size.height; ++y) {
        const float *inverse[6], *p[3], *mean[3];
        float* slope[3];
        for (int k = 0; k < 6; ++k) inverse[k] = inverse_[k].row(y).data();
        for (int i = 0; i < 3; ++i) {
            p[i] = with[i].row(y).data();
            mean[i] = mean_[i].row(y).data();
            slope[i] = lines.slope[i].row(y).data();
        }
        const float* all = meanPlane.row(y).data();
        float* offset = lines.offset.row(y).data();
        for (int x = 0; x < size.width; ++x) {
            slope[0][x] = inverse[0][x] * p[0][x] + inverse[1][x] * p[1][x] + inverse[2][x] * p[2][x];
            slope[1][x] = inverse[1][x] * p[0][x] + inverse[3][x] * p[1][x] + inverse[4][x] * p[2][x];
            slope[2][x] = inverse[2][x] * p[0][x] + inverse[4][x] * p[1][x] + inverse[5][x] * p[2][x];
            offset[x] = all[x] - slope[0][x] * mean[0][x] - slope[1][x] * mean[1][x] - slope[2][x] * mean[2][x];
        }
    }
    for (image::Plane<float>& slope : lines.slope) slope = kernel::boxMean(slope, radius_);
    lines.offset = kernel::boxMean(lines.offset, radius_);
    return lines;
}

image::Plane<float> guided(const Guide& guide, const image::Plane<float>& plane, int radius, double eps) {
    const Guiding guiding({centred(guide.l), centred(guide.a), centred(guide.b)}, radius, eps);
    Lines lines = guiding.linesFor(plane);
    const image::Plane<float>* channels[3] = {&guiding.guide().l, &guiding.guide().a, &guiding.guide().b};
    image::Plane<float> out = std::move(lines.offset);
    for (int i = 0; i < 3; ++i) {
        const image::Plane<float> part = combined(lines.slope[i], *channels[i], [](float s, float g) { return s * g; });
        out = combined(out, part, [](float v, float o) { return v + o; });
    }
    return out;
}

}  // namespace dimhem::edge
