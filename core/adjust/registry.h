// Every kind of adjustment, in the order in which they are offered.
#pragma once

#include <span>

#include "core/adjust/adjustment.h"

namespace dimhem::adjust {

std::span<const AdjustmentKind* const> adjustmentKinds();
const AdjustmentKind* findAdjustmentKind(std::string_view id);  // null where unknown

}  // namespace dimhem::adjust
