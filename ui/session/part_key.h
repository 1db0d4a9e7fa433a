// The key that adds a part of a kind: 1 to 9, then 0, in the order of the list; V, D and W for those after; none
// beyond. With Alt the part takes away.
#pragma once

#include <QString>
#include <algorithm>
#include <string_view>

#include "core/mask/registry.h"

namespace dimhem::ui {

inline QString partKey(const mask::ShapeKind& kind) {
    const auto kinds = mask::shapeKinds();
    const auto place = std::ranges::find(kinds, &kind) - kinds.begin();
    constexpr std::string_view keys = "1234567890VDW";
    return place < std::ssize(keys) ? QString(QChar(keys[static_cast<std::size_t>(place)])) : QString();
}

// Fine detail replaces what is before it, and does not combine.
inline bool takesAwayByKey(const mask::ShapeKind& kind) {
    return !kind.makeFor({1, 1})->isZone() && !partKey(kind).isEmpty();
}

}  // namespace dimhem::ui
