#include "core/adjust/monotone_spline.h"

#include <algorithm>
#include <cmath>

namespace dimhem::adjust {

namespace {

double endSlope(double h0, double h1, double s0, double s1) {
    const double d = ((2 * h0 + h1) * s0 - h0 * s1) / (h0 + h1);
    if (d * s0 <= 0) return 0;
    if (s0 * s1 <= 0 && std::abs(d) > 3 * std::abs(s0)) return 3 * s0;
    return d;
}

std::vector<double> slopesOf(std::span<const base::Point> p) {
    const std::size_t n = p.size();
    std::vector<double> h, s, out(n, 0);
    for (std::size_t i = 0; i + 1 < n; ++i) {
        h.push_back(p[i + 1].x - p[i].x);
        s.push_back((p[i + 1].y - p[i].y) / h[i]);
    }
    if (n == 2) return {s[0], s[0]};
    if (n < 2) return out;
    for (std::size_t i = 1; i + 1 < n; ++i) {
        if (s[i - 1] * s[i] <= 0) continue;
        const double w1 = 2 * h[i] + h[i - 1], w2 = h[i] + 2 * h[i - 1];
        out[i] = (w1 + w2) / (w1 / s[i - 1] + w2 / s[i]);
    }
    out.front() = endSlope(h[0], h[1], s[0], s[1]);
    out.back() = endSlope(h[n - 2], h[n - 3], s[n - 2], s[n - 3]);
    return out;
}

CurvePiece piece(double from, double c0, double c1, double c2 = 0, double c3 = 0) {
    return {static_cast<float>(from), static_cast<float>(c0), static_cast<float>(c1), static_cast<float>(c2),
            static_cast<float>(c3)};
}

}  // namespace

MonotoneSpline::MonotoneSpline(std::span<const base::Point> p) {
    const std::vector<double> d = slopesOf(p);
    const base::Point first = p.front(), last = p.back();
    pieces_.push_back(piece(first.x, first.y, first.x <= 0 ? d.front() : 0));  // of what lies before it
    for (std::size_t i = 0; i + 1 < p.size(); ++i) {
        const double h = p[i + 1].x - p[i].x, s = (p[i + 1].y - p[i].y) / h;
        pieces_.push_back(
            piece(p[i].x, p[i].y, d[i], (3 * s - 2 * d[i] - d[i + 1]) / h, (d[i] + d[i + 1] - 2 * s) / (h * h)));
    }
    pieces_.push_back(piece(last.x, last.y, last.x >= 1 ? d.back() : 0));
}

double MonotoneSpline::at(double x) const {
    const auto after = std::upper_bound(pieces_.begin() + 1, pieces_.end(), x,
                                        [](double v, const CurvePiece& c) { return v < c.from; });
    const CurvePiece& c = *(after - 1);
    const double u = x - c.from;
    return c.c0 + u * (c.c1 + u * (c.c2 + u * c.c3));
}

}  // namespace dimhem::adjust
