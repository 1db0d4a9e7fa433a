// The colours read under the pointer.
#pragma once

#include "core/base/rect.h"
#include "core/colour/types.h"

namespace dimhem::ui {

struct PointerColours {
    base::Point place;                           // of the photo
    colour::EncodedRgb before, arriving, after;  // untouched, as it comes to the selected correction, as shown
};

}  // namespace dimhem::ui
