#include "core/adjust/curve_table.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <vector>

namespace dimhem::adjust {

namespace {

struct Tried {
    double x, y;
};

// Where curves are steep, as exposure makes them near black, there are more.
std::vector<Tried> tried(const std::function<double(double)>& f) {
    constexpr int count = 1024;
    std::vector<Tried> out;
    out.reserve(count + 1);
    for (int i = 0; i <= count; ++i) {
        const double t = static_cast<double>(i) / count, x = t * t;
        out.push_back({x, f(x)});
    }
    return out;
}

// The cubic through f at both ends and at two places between.
CurvePiece through(const std::function<double(double)>& f, const Tried& first, const Tried& last) {
    constexpr double p = 0.25, q = 0.75;  // near the roots of the Chebyshev polynomial that has its outer ones at the ends
    const double h = last.x - first.x;
    const double y0 = first.y, yp = f(first.x + p * h) - y0, yq = f(first.x + q * h) - y0, y1 = last.y - y0;
    // Newton's divided differences over 0, p, q, 1.
    const double d1 = yp / p, d2 = (yq - yp) / (q - p), d3 = (y1 - yq) / (1 - q);
    const double e1 = (d2 - d1) / q, e2 = (d3 - d2) / (1 - p), g = e2 - e1;
    const double c3 = g, c2 = e1 - g * (p + q), c1 = d1 - e1 * p + g * p * q;
    return {static_cast<float>(first.x), static_cast<float>(y0), static_cast<float>(c1 / h),
            static_cast<float>(c2 / (h * h)), static_cast<float>(c3 / (h * h * h))};
}

bool isNear(const CurvePiece& piece, std::span<const Tried> places, double tolerance) {
    return std::all_of(places.begin(), places.end(), [&](const Tried& t) {
        const double u = t.x - double{piece.from};
        const double y = double{piece.c0} + u * (double{piece.c1} + u * (double{piece.c2} + u * double{piece.c3}));
        return std::abs(y - t.y) <= tolerance * std::max(1.0, std::abs(t.y));
    });
}

}  // namespace

CurveTable tableOf(const MonotoneSpline& spline) {
    // Its first piece is the line before the first point.
    return *tableOf(spline.pieces().subspan(1), spline.pieces()[0].c1);
}

std::optional<CurveTable> tableOf(std::span<const CurvePiece> pieces, float slopeBefore) {
    if (pieces.empty() || pieces.size() > CurveTable::most) return std::nullopt;
    CurveTable table{};
    table.slopeBefore = slopeBefore;
    for (std::size_t i = 0; i < CurveTable::most; ++i) {
        const bool used = i < pieces.size();
        const CurvePiece piece = used ? pieces[i] : CurvePiece{};
        table.from[i] = used ? piece.from : std::numeric_limits<float>::infinity();
        table.c0[i] = piece.c0;
        table.c1[i] = piece.c1;
        table.c2[i] = piece.c2;
        table.c3[i] = piece.c3;
    }
    return table;
}

std::optional<CurveTable> fittedTable(const std::function<double(double)>& f, double tolerance) {
    const std::vector<Tried> places = tried(f);
    std::vector<CurvePiece> pieces;
    const std::size_t last = places.size() - 1;
    for (std::size_t begin = 0; begin < last;) {
        const auto pieceTo = [&](std::size_t end) { return through(f, places[begin], places[end]); };
        const auto fits = [&](std::size_t end) {
            return isNear(pieceTo(end), std::span(places).subspan(begin, end - begin + 1), tolerance);
        };
        // The farthest end that still fits, by doubling and halving.
        std::size_t good = begin + 1, step = 32;
        while (good < last && step > 0) {
            const std::size_t next = std::min(last, good + step);
            if (fits(next)) {
                good = next;
                step *= 2;
            } else {
                step /= step > 32 ? 4 : 2;
            }
        }
        pieces.push_back(pieceTo(good));
        if (pieces.size() > CurveTable::most) return std::nullopt;
        begin = good;
    }
    return tableOf(pieces, pieces[0].c1);
}

}  // namespace dimhem::adjust
