#include "core/adjust/adjustment.h"

namespace dimhem::adjust {

std::vector<double> neutralValues(const AdjustmentKind& kind) {
    std::vector<double> values;
    for (const base::ParamSpec& spec : kind.params) values.push_back(spec.neutral);
    return values;
}

Settings neutralSettings(const AdjustmentKind& kind) {
    Settings settings(neutralValues(kind));
    for (const TableSpec& spec : kind.tables) settings.tables.emplace_back(spec.neutral.begin(), spec.neutral.end());
    return settings;
}

bool isNeutral(const AdjustmentKind& kind, const Settings& settings) {
    if (kind.idle && kind.idle(settings)) return true;
    for (std::size_t i = 0; i < kind.params.size(); ++i) {
        if (!kind.params[i].toggle && settings.values[i] != kind.params[i].neutral) return false;
    }
    return settings.tables == neutralSettings(kind).tables;
}

}  // namespace dimhem::adjust
