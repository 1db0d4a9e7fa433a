// Shadow lift: takes a shadow off, by how much of each channel's light it holds back.
//
// In linear light a place that the shadow covers by m gets P = J (1 - m + m / k): k, the gain, is how many times more
// light falls where there is no shadow. It differs by channel, since shade is lit by the sky. So
//
//   J = P / (1 - m + m / k)     m = coverage x strength, k = gain ^ amount
//
// which is exact in the soft border as well: no seam. Below 0 a shadow is laid on: J = P (1 - m + m / k), k = gain ^
// -amount.
//
// The gains are measured where the mask fades: in a window of one material P = a + b m, with a = J, so k = a / (a + b)
// (ordinary least squares); those windows count whose fit is good in every channel, and their median is taken.
#pragma once

#include <optional>

#include "core/adjust/adjustment.h"
#include "core/colour/types.h"

namespace dimhem::adjust {

extern const AdjustmentKind shadowLift;

// The gains of each channel, 1 where nothing is held back.
colour::LinearRgb gainsOf(const Settings& settings);
Settings withGains(Settings settings, const colour::LinearRgb& gains);

// From the soft border of the subject's mask; nothing where it has none that is fit for it. `coverage` is taken for m.
std::optional<colour::LinearRgb> gainsFromBorder(const Subject& subject);

}  // namespace dimhem::adjust
