// The rows of the banding correction (banding.h), as vectors. Values beyond the photo are not numbers.
#pragma once

#include "core/kernel/srgb_rows.h"

namespace dimhem::adjust {

// The planes of its model: where the bands lead to, whether the fit is one, whether values keep to the steps, whether
// there is no edge, and the mean of what is alike.
enum BandingPlane : std::size_t { toRed, toGreen, toBlue, isFit, keepsSteps, noEdge, meanRed, meanGreen, meanBlue };

struct BandingAmounts {
    float amount, keep, most[3];  // most: of the change, encoded
};
void bandingRow(const BandingAmounts& amounts, const float* const* model, kernel::EncodedRow pixels, std::size_t count);

// From 0 up to `none` to 1 from `all` on.
struct Ramp {
    float none, all;
};

// What is like a value: less and less up to `width` from it. The value is the pixel's own, or brought from that towards
// the mean of the nine about it by `toMean`, 0..1, where there is grain.
struct Alike {
    float width, toMean;
};
// `rows` from two above to two below, with two more pixels at either end. `mean`: of what lies within two pixels and is
// alike. `free` is brought down to 0 where what lies within two pixels is further apart than `edge` says.
void alikeRow(const float* const rows[5], const Alike& alike, const Ramp& edge, float* mean, float* free,
              std::size_t count);

// Second differences over two pixels, of all directions the greatest: `free` is brought down to 0 by them. `rows`: two
// above, the row, two below, with two more pixels at either end.
void bendRow(const float* const rows[3], const Ramp& bend, float* free, std::size_t count);

// Adds weight cos(turn (v - phase)) to `sum` and 1 to `inside`, of numbers.
void accordanceRow(const float* values, float turn, float phase, float weight, float* sum, float* inside,
                   std::size_t count);

// One channel's fit: `to` is brought from the wider fit's value to this one's by `wider`, 0..1; `about` grows by
// variance / expected; `off` is at least how far the fit lies from the picture, in `most`.
struct FittedRow {
    const float *value, *variance, *picture, *wider;
};
void fitRow(const FittedRow& fitted, float expected, float most, float* to, float* about, float* off,
            std::size_t count);

// fit = (1 - ramp(about part)) (1 - ramp(off)).
void isFitRow(const float* about, float part, const Ramp& variance, const float* off, const Ramp& distance, float* fit,
              std::size_t count);

}  // namespace dimhem::adjust
