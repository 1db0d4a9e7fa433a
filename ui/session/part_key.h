// The key that adds a part of a kind: 1 to 9, then 0, in the order of the list; V, D and W for the last three.
#pragma once

#include <QString>
#include <algorithm>

#include "core/mask/registry.h"

namespace dimhem::ui {

inline QString partKey(const mask::ShapeKind& kind) {
    const auto kinds = mask::shapeKinds();
    const auto place = std::ranges::find(kinds, &kind) - kinds.begin();
    return QString(QChar("1234567890VDW"[place]));
}

}  // namespace dimhem::ui
