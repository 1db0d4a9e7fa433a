#include "core/document/json_adjustment.h"

#include <algorithm>
#include <cmath>

#include "core/adjust/registry.h"
#include "core/document/json_list.h"
#include "core/document/json_read.h"
#include "core/json/fields.h"

namespace dimhem::document {

using base::Result;
using nlohmann::json;

namespace {

json tableToJson(const adjust::TableSpec& spec, const adjust::Table& table) {
    json out = json::array();
    const auto width = static_cast<std::ptrdiff_t>(spec.columns.size());
    for (auto row = table.begin(); row != table.end(); row += width) {
        std::vector<double> values(row, row + width);
        const std::size_t least = spec.columns.size() - spec.leftOut;
        while (values.size() > least && values.back() == spec.columns[values.size() - 1].neutral) values.pop_back();
        out.push_back(std::move(values));
    }
    return out;
}

Result<adjust::Table> readTable(const json& object, const adjust::TableSpec& spec) {
    const auto found = object.find(spec.id);
    if (found == object.end()) return adjust::Table(spec.neutral.begin(), spec.neutral.end());
    if (!found->is_array() || found->size() < spec.leastRows || found->size() > spec.mostRows) {
        return fields::wrongField(
            spec.id, "a list of " + std::to_string(spec.leastRows) + " to " + std::to_string(spec.mostRows) + " rows");
    }
    adjust::Table table;
    for (const json& row : *found) {
        const std::size_t most = spec.columns.size(), least = most - spec.leftOut;
        if (!row.is_array() || row.size() > most || row.size() < least)
            return fields::wrongField(spec.id, "rows of " + (least < most ? std::to_string(least) + " to " : "") +
                                                   std::to_string(most) + " numbers");
        for (std::size_t i = 0; i < spec.columns.size(); ++i) {
            const base::ParamSpec& column = spec.columns[i];
            if (i >= row.size()) {
                table.push_back(column.neutral);
                continue;
            }
            if (!row[i].is_number() || !base::inRange(column, row[i].get<double>())) {
                return fields::wrongField(
                    spec.id, "rows of numbers within their ranges (" + std::string(column.id) + " is not)");
            }
            table.push_back(row[i].get<double>());
        }
    }
    return table;
}

Result<std::optional<MeasuredUnder>> readUnder(const json& object) {
    const auto found = object.find("measured-under");
    if (found == object.end()) return std::nullopt;
    const auto isSound = [](const json& v) { return v.is_number() && std::abs(v.get<double>()) <= fields::farPx; };
    if (!found->is_array() || found->size() != 7 || !std::ranges::all_of(*found, isSound))
        return fields::wrongField("measured-under", "seven numbers");
    const auto at = [&](std::size_t i) { return (*found)[i].get<double>(); };
    return MeasuredUnder{at(0), {at(1), at(2)}, {at(3), at(4), at(5)}, at(6) != 0};
}

}  // namespace

json adjustmentToJson(const AdjustmentUse& use) {
    json out{{"kind", use.kind->id}, {"enabled", use.enabled}};
    for (std::size_t i = 0; i < use.kind->params.size(); ++i) {
        const base::ParamSpec& spec = use.kind->params[i];
        if (spec.toggle) {
            out[std::string(spec.id)] = use.settings.values[i] != 0;
        } else {
            out[std::string(spec.id)] = use.settings.values[i];
        }
    }
    for (std::size_t i = 0; i < use.kind->tables.size(); ++i) {
        out[std::string(use.kind->tables[i].id)] = tableToJson(use.kind->tables[i], use.settings.tables[i]);
    }
    if (const auto& under = use.measuredUnder) {
        const auto& lab = under->meanLab;
        out["measured-under"] = {under->coveredPct,   under->middle.x, under->middle.y, lab[0], lab[1], lab[2],
                                 under->found ? 1 : 0};
    }
    return out;
}

Result<AdjustmentUse> readAdjustment(const json& object, Id id) {
    DIMHEM_READ(kindId, fields::readText(object, "kind", ""));
    const adjust::AdjustmentKind* kind = adjust::findAdjustmentKind(kindId);
    if (!kind) return fields::wrongField("kind", "the name of a kind of adjustment, which \"" + kindId + "\" is not");
    DIMHEM_READ(enabled, fields::readBool(object, "enabled", true));
    AdjustmentUse use{id, kind, enabled, {}};
    for (const base::ParamSpec& spec : kind->params) {
        DIMHEM_READ(value, fields::readParam(object, spec));
        use.settings.values.push_back(value);
    }
    for (const adjust::TableSpec& spec : kind->tables) {
        DIMHEM_READ(table, readTable(object, spec));
        use.settings.tables.push_back(std::move(table));
    }
    if (const char* reason = kind->invalidReason ? kind->invalidReason(use.settings) : nullptr)
        return fields::wrongField(kind->id, reason);
    if (kind->measure) {
        DIMHEM_READ(under, readUnder(object));
        use.measuredUnder = under;
    }
    return use;
}

Result<std::vector<AdjustmentUse>> readAdjustments(const json& object, IdSource& ids) {
    std::vector<AdjustmentUse> out;
    DIMHEM_READ(list, readList(object, "adjustments"));
    for (const json& item : *list) {
        auto use = readAdjustment(item, ids.next());
        if (!use) return tl::unexpected(fields::inPlace(placeOf("adjustment", out.size(), item, "kind"), use.error()));
        out.push_back(std::move(*use));
    }
    return out;
}

}  // namespace dimhem::document
