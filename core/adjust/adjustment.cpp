#include "core/adjust/adjustment.h"

namespace dimhem::adjust {

void apply(const Operations& operations, kernel::ConvertibleRow& row) {
    for (const Operation& operation : operations) {
        if (const auto* linear = std::get_if<std::unique_ptr<const LinearOperation>>(&operation)) {
            (*linear)->row(row.linear(), row.count());
        } else {
            std::get<std::unique_ptr<const EncodedOperation>>(operation)->row(row.encoded(), row.count());
        }
    }
}

void apply(const Operations& operations, kernel::EncodedRow pixels, std::size_t count) {
    kernel::ConvertibleRow row(pixels, count);
    apply(operations, row);
    row.encoded();
}

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

bool isValid(const AdjustmentKind& kind, const Settings& settings) {
    if (settings.values.size() != kind.params.size() || settings.tables.size() != kind.tables.size()) return false;
    for (std::size_t i = 0; i < kind.params.size(); ++i) {
        if (!base::inRange(kind.params[i], settings.values[i])) return false;
    }
    for (std::size_t i = 0; i < kind.tables.size(); ++i) {
        const TableSpec& spec = kind.tables[i];
        const Table& table = settings.tables[i];
        const std::size_t rows = rowsOf(spec, table);
        if (table.size() != rows * spec.columns.size() || rows < spec.leastRows || rows > spec.mostRows) return false;
        for (std::size_t k = 0; k < table.size(); ++k) {
            if (!base::inRange(spec.columns[k % spec.columns.size()], table[k])) return false;
        }
    }
    return !kind.wanted || !kind.wanted(settings);
}

}  // namespace dimhem::adjust
