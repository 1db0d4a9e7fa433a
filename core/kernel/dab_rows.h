// One dab of a brush, row by row.
//
// Profile over the distance d from the centre, radius r, softness s (0..1), core c = r (1 - s):
//
//   1 |-------.                    d <= c: 1
//     |        `.                  c < d < r: 1 - (3 t^2 - 2 t^3), t = (d - c) / (r - c)
//     |          `.                d >= r: 0
//   0 |            `---->  d       The passage is never narrower than one pixel of the row (an anti-aliased disc).
//     0       c    r
#pragma once

#include <cstddef>
#include <cstdint>

namespace dimhem::kernel {

struct DabShape {
    double centreX = 0;  // in pixels of the row's level
    double centreY = 0;
    double radius = 1;
    double softness = 0.5;  // 0..1
    double ceiling = 1;     // height of the profile, 0..1 (pressure)
    double build = 1;       // how far towards the ceiling one dab goes, above 0, up to 1
};

// The half-open range of pixels of row y the dab can touch; empty where first >= last.
struct DabSpan {
    int first, last;
};
DabSpan dabSpan(const DabShape& dab, int y);

// Raises `stroke` (coverage of the stroke so far, 0..1) over pixels x0 .. x0 + count of row y:
//   stroke = max(stroke, min(p, stroke + build p)), p = ceiling * profile.
// Many dabs thus build up to the profile and never beyond it.
void dabRow(const DabShape& dab, int y, int x0, float* stroke, std::size_t count);

// strength * stroke laid into 16-bit coverage: added, or taken away where `removes`.
void layRow(const float* stroke, float strength, bool removes, std::uint16_t* coverage, std::size_t count);

// `laid` (16 bits) laid into coverage towards `held` (how much each pixel belongs to what is painted) instead of
// towards all, never past it.
void layHeldRow(const std::uint16_t* laid, const std::uint16_t* held, bool removes, std::uint16_t* coverage,
                std::size_t count);

}  // namespace dimhem::kernel
