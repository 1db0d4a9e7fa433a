// What lay under the mask when an adjustment was measured, so that it can be told whether it still does.
#pragma once

#include <array>

#include "core/base/rect.h"

namespace dimhem::document {

struct MeasuredUnder {
    double coveredPct = 0;            // of the photo
    base::Point middle;               // of what is covered, in pixels of the photo
    std::array<double, 3> meanLab{};  // of the picture as it arrived there
    bool found = true;                // false: there was nothing to be found
    friend bool operator==(const MeasuredUnder&, const MeasuredUnder&) = default;
};

}  // namespace dimhem::document
