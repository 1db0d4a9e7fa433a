#include "ui/session/photo_gesture.h"

#include <algorithm>
#include <cmath>

namespace dimhem::ui {

base::Rect PhotoDrag::area() const {
    constexpr int aboutPx = 3;
    const auto floored = [](double v) { return static_cast<int>(std::floor(v)); };
    if (!far) {
        const int x = floored(to.x), y = floored(to.y);
        return {x - aboutPx, y - aboutPx, x + aboutPx + 1, y + aboutPx + 1};
    }
    return {floored(std::min(from.x, to.x)), floored(std::min(from.y, to.y)), floored(std::max(from.x, to.x)) + 1,
            floored(std::max(from.y, to.y)) + 1};
}

}  // namespace dimhem::ui
