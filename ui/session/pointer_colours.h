// The colours read under the pointer.
#pragma once

#include <array>
#include <optional>

#include "core/base/rect.h"
#include "core/colour/types.h"

namespace dimhem::ui {

struct PointerColours {
    base::Point place;                           // of the photo
    colour::EncodedRgb before, arriving, after;  // untouched, as it comes to the selected correction, as shown
    std::optional<std::array<float, 3>> held;    // what a brush that holds edges would hold to; encoded
};

}  // namespace dimhem::ui
