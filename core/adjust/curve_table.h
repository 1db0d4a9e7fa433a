// A curve of one channel as a few cubic pieces that fit into vector registers, so that looking it up costs no memory.
//
// What a curve is made of, exposure, levels, contrast and so on, one after the other, costs a pixel as much as each of
// them; their composition costs the same however many there are.
#pragma once

#include <functional>
#include <optional>
#include <span>

#include "core/adjust/monotone_spline.h"

namespace dimhem::adjust {

// value = c0 + u (c1 + u (c2 + u c3)), u = x - from; piece i from from[i] to from[i + 1], the last also beyond. Before the
// first, a straight line. Pieces that are not used begin at infinity.
struct CurveTable {
    static constexpr std::size_t most = 16;
    alignas(64) float from[most], c0[most], c1[most], c2[most], c3[most];
    float slopeBefore;
};

// Nothing where there are too many pieces.
std::optional<CurveTable> tableOf(std::span<const CurvePiece> pieces, float slopeBefore);
// A spline through at most 16 points.
CurveTable tableOf(const MonotoneSpline& spline);

// The curve f over 0..1, to within `tolerance` (times f where f is above 1) wherever it was tried: a thousand places,
// closer together towards 0. Continuous: f itself at the ends of each piece. Nothing where that takes too many pieces.
std::optional<CurveTable> fittedTable(const std::function<double(double)>& f, double tolerance);

// A fifth of a step of 16 bits.
inline constexpr double curveTolerance = 0.2 / 65535;

}  // namespace dimhem::adjust
