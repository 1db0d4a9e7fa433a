// A bracket holds several corrections under one strength and one switch of their own, beside each one's.
#pragma once

#include "core/base/param.h"
#include "core/document/id.h"

namespace dimhem::document {

struct Bracket {
    Id id = 0;
    bool enabled = true;
    double strengthPct = 100;  // times that of each correction
    friend bool operator==(const Bracket&, const Bracket&) = default;
};

inline constexpr base::ParamSpec bracketStrengthSpec = {
    .id = "strength",
    .label = "Bracket",
    .unit = "%",
    .max = 100,
    .neutral = 100,
    .tip = "The strength of all corrections under the bracket together, times each one's own."};

}  // namespace dimhem::document
