// A curve of one channel as a few cubic pieces that fit into vector registers, so that looking it up costs no memory.
//
// What a curve is made of, exposure, levels, contrast and so on, one after the other, costs a pixel as much as each of
// them; their composition costs the same however many there are.
#pragma once

#include <functional>
#include <optional>
#include <span>
#include <vector>

#include "core/adjust/monotone_spline.h"

namespace dimhem::adjust {

// value = c0 + u (c1 + u (c2 + u c3)), u = x - from; piece i from from[i] to from[i + 1], the last also beyond. Before
// the first, a straight line. Pieces that are not used begin at infinity.
struct CurveTable {
    static constexpr std::size_t most = 16;
    alignas(64) float from[most], c0[most], c1[most], c2[most], c3[most];
    float slopeBefore;
};

// Nothing where there are too many pieces.
std::optional<CurveTable> tableOf(std::span<const CurvePiece> pieces, float slopeBefore);
// A spline through at most 16 points.
CurveTable tableOf(const MonotoneSpline& spline);

// The curve f over 0..1, near enough wherever it was tried: at some hundred places, closer together towards 0. Near is
// a fifth of a step of 16 bits of the encoded value, times that where it is above 1. Continuous: f itself at the ends
// of each piece. `breaks` are the places where f changes its form: a piece ends at each. Nothing where that takes too
// many.
std::optional<CurveTable> fittedTable(const std::function<double(double)>& f, std::vector<double> breaks);
// The same of linear light: from the curve of the encoded values and its breaks.
std::optional<CurveTable> fittedTableOfLight(const std::function<double(double)>& encodedCurve,
                                             std::vector<double> breaks);

}  // namespace dimhem::adjust
