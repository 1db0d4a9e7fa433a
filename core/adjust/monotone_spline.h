// A curve through points that never swings past them: piecewise cubic Hermite interpolation with the slopes of Fritsch
// and Butland (SIAM J. Sci. Stat. Comput. 5, 1984; the weighted harmonic mean of the neighbouring slopes, none where
// these have different signs), three-point slopes at the ends.
//
//   - Where the points rise the curve rises; where they fall it falls.
//   - Before the first point and after the last it is flat, except beyond 0 and 1 where the end point lies there: then
//     it goes straight on, so that the identity is the identity everywhere.
#pragma once

#include <span>
#include <vector>

#include "core/base/rect.h"

namespace dimhem::adjust {

// value = c0 + u (c1 + u (c2 + u c3)), u = x - from, from `from` to the next piece's.
struct CurvePiece {
    float from, c0, c1, c2, c3;
};

class MonotoneSpline {
public:
    // At least one point, x strictly rising.
    explicit MonotoneSpline(std::span<const base::Point> points);

    double at(double x) const;
    std::span<const CurvePiece> pieces() const { return pieces_; }  // rising; the first is of all before the second

private:
    std::vector<CurvePiece> pieces_;
};

}  // namespace dimhem::adjust
