#include "core/adjust/adjustment.h"

#include <algorithm>

namespace dimhem::adjust {

bool isByCoverage(const Operation& operation) {
    return std::holds_alternative<std::unique_ptr<const CoverageOperation>>(operation);
}

bool isPainting(const Operation& operation) {
    return std::holds_alternative<std::unique_ptr<const PaintingOperation>>(operation);
}

bool hasModel(const Operation& operation) {
    return isPainting(operation) || std::holds_alternative<std::unique_ptr<const SpatialOperation>>(operation);
}

namespace {

struct ApplyOne {
    kernel::ConvertibleRow& row;
    std::span<const float* const> model;

    void operator()(const std::unique_ptr<const EncodedOperation>& operation) const {
        operation->row(row.encoded(), row.count());
    }
    void operator()(const std::unique_ptr<const LinearOperation>& operation) const {
        operation->row(row.linear(), row.count());
    }
    void operator()(const std::unique_ptr<const CoverageOperation>& operation) const {
        const std::vector<float> full(row.count(), 1.0f);
        operation->row(row.linear(), full.data(), row.count());
    }
    void operator()(const std::unique_ptr<const SpatialOperation>& operation) const {
        if (!model.empty()) operation->row(row, model);
    }
    void operator()(const std::unique_ptr<const PaintingOperation>&) const {
        if (model.empty()) return;
        const kernel::EncodedRow to = row.encoded();
        std::copy_n(model[0], row.count(), to.red);
        std::copy_n(model[1], row.count(), to.green);
        std::copy_n(model[2], row.count(), to.blue);
    }
};

}  // namespace

void apply(std::span<const Operation> operations, kernel::ConvertibleRow& row, const ModelRows& models) {
    std::size_t next = 0;
    for (const Operation& operation : operations) {
        std::span<const float* const> model;
        if (hasModel(operation) && next < models.size()) model = models[next++];
        std::visit(ApplyOne{row, model}, operation);
    }
}

void apply(std::span<const Operation> operations, kernel::EncodedRow pixels, std::size_t count,
           const ModelRows& models) {
    kernel::ConvertibleRow row(pixels, count);
    apply(operations, row, models);
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

Settings forAnotherPhoto(const AdjustmentKind& kind, Settings settings) {
    const Settings neutral = neutralSettings(kind);
    for (std::size_t i = 0; i < kind.tables.size(); ++i) {
        if (kind.tables[i].measured || kind.tables[i].ofThisPhoto) settings.tables[i] = neutral.tables[i];
    }
    return settings;
}

Settings startingSettings(const AdjustmentKind& kind) {
    Settings settings = neutralSettings(kind);
    if (!kind.startValues.empty()) settings.values.assign(kind.startValues.begin(), kind.startValues.end());
    return settings;
}

bool isNeutral(const AdjustmentKind& kind, const Settings& settings) {
    if (kind.isIdentity && kind.isIdentity(settings)) return true;
    for (std::size_t i = 0; i < kind.params.size(); ++i) {
        if (!kind.params[i].toggle && settings.values[i] != kind.params[i].neutral) return false;
    }
    return settings.tables == neutralSettings(kind).tables;
}

bool lacksMeasuring(const AdjustmentKind& kind, const Settings& settings) {
    if (!kind.measure) return false;
    for (std::size_t i = 0; i < kind.tables.size(); ++i) {
        if (kind.tables[i].measured && settings.tables[i].empty()) return true;
    }
    return false;
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
    return !kind.invalidReason || !kind.invalidReason(settings);
}

Settings sampleSettings(const AdjustmentKind& kind) {
    return kind.sample ? kind.sample() : startingSettings(kind);
}

Settings neutralWith(const AdjustmentKind& kind, std::initializer_list<std::pair<std::size_t, double>> values) {
    Settings settings = neutralSettings(kind);
    for (const auto& [place, value] : values) settings.values[place] = value;
    return settings;
}

Settings withMirrored(Settings settings, std::span<const base::ParamSpec> params, std::span<const std::size_t> which) {
    for (const std::size_t i : which) settings.values[i] = base::mirrored(params[i], settings.values[i]);
    return settings;
}

Settings withAllMirrored(Settings settings, std::span<const base::ParamSpec> params) {
    for (std::size_t i = 0; i < params.size(); ++i) {
        if (!params[i].toggle) settings.values[i] = base::mirrored(params[i], settings.values[i]);
    }
    return settings;
}

}  // namespace dimhem::adjust
