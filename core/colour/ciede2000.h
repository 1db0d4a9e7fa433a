// The CIEDE2000 colour difference (CIE 142-2001), after Sharma, Wu and Dalal, "The CIEDE2000 Color-Difference
// Formula: Implementation Notes, Supplementary Test Data, and Mathematical Observations", 2005. kL = kC = kH = 1.
#pragma once

#include "core/colour/types.h"

namespace dimhem::colour {

double ciede2000(const Lab& one, const Lab& two);

}  // namespace dimhem::colour
