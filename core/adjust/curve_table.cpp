#include "core/adjust/curve_table.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <vector>

#include "core/colour/srgb.h"

namespace dimhem::adjust {

namespace {

struct Tried {
    double x, y, tolerance;
};

// The cubic through f at both ends and at two places between.
CurvePiece through(const std::function<double(double)>& f, const Tried& first, const Tried& last) {
    constexpr double p = 0.25,
                     q = 0.75;  // near the roots of the Chebyshev polynomial that has its outer ones at the ends
    const double h = last.x - first.x;
    const double y0 = first.y, yp = f(first.x + p * h) - y0, yq = f(first.x + q * h) - y0, y1 = last.y - y0;
    // Newton's divided differences over 0, p, q, 1.
    const double d1 = yp / p, d2 = (yq - yp) / (q - p), d3 = (y1 - yq) / (1 - q);
    const double e1 = (d2 - d1) / q, e2 = (d3 - d2) / (1 - p), g = e2 - e1;
    const double c3 = g, c2 = e1 - g * (p + q), c1 = d1 - e1 * p + g * p * q;
    return {static_cast<float>(first.x), static_cast<float>(y0), static_cast<float>(c1 / h),
            static_cast<float>(c2 / (h * h)), static_cast<float>(c3 / (h * h * h))};
}

constexpr double stepPart = 0.2 / 65535;

using Tolerance = double (*)(double y);

double toleranceOfEncoded(double y) {
    return stepPart * std::max(1.0, std::abs(y));
}

// How far linear light may be off for its encoded value to be as near.
double toleranceOfLight(double y) {
    constexpr double leastSlope = 1 / 12.92;
    const double encoded = colour::encodedFromLinear(std::abs(y));
    const double slope = 2.4 / 1.055 * std::pow((encoded + 0.055) / 1.055, 1.4);
    return stepPart * std::max(1.0, encoded) * std::max(leastSlope, slope);
}

// Where curves are steep, as exposure makes them near black, there are more.
std::vector<Tried> tried(const std::function<double(double)>& f, Tolerance tolerance, std::vector<double> places) {
    constexpr int count = 256;
    for (int i = 0; i <= count; ++i) places.push_back(static_cast<double>(i) * i / (count * count));
    std::erase_if(places, [](double x) { return !(x >= 0 && x <= 1); });
    std::sort(places.begin(), places.end());
    places.erase(std::unique(places.begin(), places.end()), places.end());
    std::vector<Tried> out;
    out.reserve(places.size());
    for (const double x : places) {
        const double y = f(x);
        out.push_back({x, y, tolerance(y)});
    }
    return out;
}

bool isNear(const CurvePiece& piece, std::span<const Tried> places) {
    return std::all_of(places.begin(), places.end(), [&](const Tried& t) {
        const double u = t.x - double{piece.from};
        const double y = double{piece.c0} + u * (double{piece.c1} + u * (double{piece.c2} + u * double{piece.c3}));
        return std::abs(y - t.y) <= t.tolerance;
    });
}

// The farthest of the places that one piece can go to, by doubling and halving.
std::size_t farthest(const std::function<double(double)>& f, std::span<const Tried> places) {
    const auto fits = [&](std::size_t end) {
        return isNear(through(f, places[0], places[end]), places.first(end + 1));
    };
    std::size_t good = 1, step = 16;
    while (good + 1 < places.size() && step > 0) {
        const std::size_t next = std::min(places.size() - 1, good + step);
        if (fits(next)) {
            good = next;
            step *= 2;
        } else {
            step /= step > 16 ? 4 : 2;
        }
    }
    return good;
}

std::optional<CurveTable> fitted(const std::function<double(double)>& f, Tolerance tolerance,
                                 const std::vector<double>& breaks) {
    const std::vector<Tried> places = tried(f, tolerance, breaks);
    const auto isBreak = [&](const Tried& t) { return std::find(breaks.begin(), breaks.end(), t.x) != breaks.end(); };
    std::vector<CurvePiece> pieces;
    for (auto begin = places.begin(); begin + 1 != places.end();) {
        const auto next = std::find_if(begin + 1, places.end() - 1, isBreak);
        const auto end = begin + static_cast<std::ptrdiff_t>(farthest(f, {begin, next + 1}));
        if (pieces.size() == CurveTable::most) return std::nullopt;
        pieces.push_back(through(f, *begin, *end));
        begin = end;
    }
    return tableOf(pieces, pieces[0].c1);
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

std::optional<CurveTable> fittedTable(const std::function<double(double)>& f, std::vector<double> breaks) {
    return fitted(f, toleranceOfEncoded, breaks);
}

std::optional<CurveTable> fittedTableOfLight(const std::function<double(double)>& encodedCurve,
                                             std::vector<double> breaks) {
    constexpr double encodeKnee = 0.0031308;  // IEC 61966-2-1
    for (double& place : breaks) place = colour::linearFromEncoded(place);
    breaks.push_back(encodeKnee);
    return fitted(
        [&](double light) { return colour::linearFromEncoded(encodedCurve(colour::encodedFromLinear(light))); },
        toleranceOfLight, breaks);
}

}  // namespace dimhem::adjust
