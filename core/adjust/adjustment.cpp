#include "core/adjust/adjustment.h"

namespace dimhem::adjust {

std::vector<double> neutralValues(const AdjustmentKind& kind) {
    std::vector<double> values;
    for (const base::ParamSpec& spec : kind.params) values.push_back(spec.neutral);
    return values;
}

bool isNeutral(const AdjustmentKind& kind, std::span<const double> values) {
    for (std::size_t i = 0; i < kind.params.size(); ++i) {
        if (!kind.params[i].toggle && values[i] != kind.params[i].neutral) return false;
    }
    return true;
}

}  // namespace dimhem::adjust
