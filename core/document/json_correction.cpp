#include "core/document/json_correction.h"

#include "core/adjust/registry.h"
#include "core/colour/thread_colours.h"
#include "core/document/json_read.h"
#include "core/json/fields.h"
#include "core/mask/registry.h"

namespace dimhem::document {

using base::Result;
using nlohmann::json;

namespace {

json partToJson(const mask::Part& part) {
    json out{{"kind", part.shape->kind().id}, {"name", part.name},       {"combine", mask::idOf(part.combine)},
             {"flipped", part.flipped},       {"enabled", part.enabled}, {"opacity", part.opacityPct}};
    part.shape->toJson(out);
    return out;
}

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
    return out;
}

}  // namespace

json correctionToJson(const Correction& correction) {
    json parts = json::array(), adjustments = json::array();
    for (const mask::PartPtr& part : correction.mask.parts) parts.push_back(partToJson(*part));
    for (const AdjustmentUse& use : correction.adjustments) adjustments.push_back(adjustmentToJson(use));
    json refine = json::object();
    for (const mask::RefineParam& param : mask::refineParams()) {
        refine[std::string(param.spec.id)] = correction.mask.refine.*param.value;
    }
    json out{{"id", correction.id},
             {"name", correction.name},
             {"enabled", correction.enabled},
             {"strength", correction.strengthPct},
             {"blend", kernel::idOf(correction.blend)},
             {"mixing", kernel::idOf(correction.mixing)},
             {"clean-edge", correction.cleanEdge},
             {"mask",
              {{"starts", correction.mask.startsEverywhere ? "everywhere" : "nowhere"},
               {"inverted", correction.mask.inverted},
               {"parts", std::move(parts)},
               {"refine", std::move(refine)}}},
             {"adjustments", std::move(adjustments)}};
    out["thread"] = colour::threadColours[static_cast<std::size_t>(correction.threadColour)].id;
    out["thread-chosen"] = correction.threadColourChosen;
    return out;
}

Result<const json*> readList(const json& object, std::string_view name) {
    static const json none = json::array();
    const auto found = object.find(name);
    if (found == object.end()) return &none;
    if (!found->is_array() || found->size() > mostItems) return fields::wrongField(name, "a list of at most 10000");
    for (const json& item : *found) {
        if (!item.is_object()) return fields::wrongField(name, "a list of objects");
    }
    return &*found;
}

namespace {

// "part 2 (Brush)": its number, counted from 1, and what a person knows it by.
std::string placeOf(const char* what, std::size_t index, const json& object, const char* nameMember) {
    std::string place = std::string(what) + " " + std::to_string(index + 1);
    const auto name = object.find(nameMember);
    if (name != object.end() && name->is_string()) place += " (" + name->get<std::string>() + ")";
    return place;
}

Result<mask::PartPtr> readPart(const json& object, Id id) {
    DIMHEM_READ(kindId, fields::readText(object, "kind", ""));
    const mask::ShapeKind* kind = mask::findShapeKind(kindId);
    if (!kind) return fields::wrongField("kind", "the name of a kind of mask part, which \"" + kindId + "\" is not");
    mask::Part part;
    part.id = id;
    DIMHEM_READ(name, fields::readText(object, "name", kind->label));
    DIMHEM_READ(combineId, fields::readText(object, "combine", "add"));
    const auto combine = mask::combineOf(combineId);
    if (!combine) return fields::wrongField("combine", "\"add\", \"subtract\" or \"overlap\"");
    DIMHEM_READ(flipped, fields::readBool(object, "flipped", false));
    DIMHEM_READ(enabled, fields::readBool(object, "enabled", true));
    DIMHEM_READ(opacity, fields::readParam(object, mask::opacitySpec));
    DIMHEM_READ(shape, kind->fromJson(object));
    part = {id, name, *combine, flipped, enabled, opacity, shape};
    return std::make_shared<const mask::Part>(std::move(part));
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
    return use;
}

Result<mask::Refine> readRefine(const json& maskObject) {
    mask::Refine refine;
    const auto found = maskObject.find("refine");
    if (found == maskObject.end()) return refine;
    if (!found->is_object()) return fields::wrongField("refine", "an object");
    for (const mask::RefineParam& param : mask::refineParams()) {
        DIMHEM_READ(value, fields::readParam(*found, param.spec));
        refine.*param.value = value;
    }
    if (refine.floorPct > refine.ceilingPct) return fields::wrongField("floor", "no higher than \"ceiling\"");
    return refine;
}

Result<mask::Mask> readMask(const json& correction, IdSource& ids) {
    mask::Mask out;
    const auto found = correction.find("mask");
    if (found == correction.end()) return out;
    if (!found->is_object()) return fields::wrongField("mask", "an object");
    DIMHEM_READ(starts, fields::readText(*found, "starts", "nowhere"));
    if (starts != "nowhere" && starts != "everywhere")
        return fields::wrongField("starts", "\"nowhere\" or \"everywhere\"");
    out.startsEverywhere = starts == "everywhere";
    DIMHEM_READ(inverted, fields::readBool(*found, "inverted", false));
    out.inverted = inverted;
    DIMHEM_READ(parts, readList(*found, "parts"));
    std::size_t weight = 0;
    for (const json& item : *parts) {
        auto part = readPart(item, ids.next());
        if (!part) {
            const char* nameMember = item.contains("name") ? "name" : "kind";
            return tl::unexpected(fields::inPlace(placeOf("part", out.parts.size(), item, nameMember), part.error()));
        }
        out.parts.push_back(std::move(*part));
        weight += out.parts.back()->shape->weight();
        if (weight > mask::mostWeight) return fields::wrongField("parts", "smaller: they are too much together");
    }
    DIMHEM_READ(refine, readRefine(*found));
    out.refine = refine;
    return out;
}

Result<int> readThreadColour(const json& correction, std::size_t position) {
    DIMHEM_READ(
        id, fields::readText(correction, "thread", colour::threadColours[position % colour::threadColours.size()].id));
    for (std::size_t i = 0; i < colour::threadColours.size(); ++i) {
        if (colour::threadColours[i].id == id) return static_cast<int>(i);
    }
    return fields::wrongField("thread", "the name of a thread colour");
}

Result<CorrectionPtr> readMembers(const json& object, std::size_t position, IdSource& ids) {
    Correction out;
    out.id = object.contains("id") ? object["id"].get<Id>() : ids.next();
    DIMHEM_READ(name, fields::readText(object, "name", "Correction " + std::to_string(position + 1)));
    DIMHEM_READ(enabled, fields::readBool(object, "enabled", true));
    DIMHEM_READ(strength, fields::readParam(object, strengthSpec));
    DIMHEM_READ(blendId, fields::readText(object, "blend", std::string(kernel::idOf(kernel::BlendMode::normal))));
    const auto blend = kernel::blendModeOf(blendId);
    if (!blend) return fields::wrongField("blend", "the name of a blend mode");
    DIMHEM_READ(mixingId, fields::readText(object, "mixing", std::string(kernel::idOf(kernel::MixingLaw::even))));
    const auto mixing = kernel::mixingLawOf(mixingId);
    if (!mixing) return fields::wrongField("mixing", "\"even\", \"light\" or \"shadow\"");
    DIMHEM_READ(cleanEdge, fields::readBool(object, "clean-edge", false));
    DIMHEM_READ(thread, readThreadColour(object, position));
    DIMHEM_READ(chosen, fields::readBool(object, "thread-chosen", object.contains("thread")));
    DIMHEM_READ(mask, readMask(object, ids));
    out.name = name;
    out.enabled = enabled;
    out.strengthPct = strength;
    out.blend = *blend;
    out.mixing = *mixing;
    out.cleanEdge = cleanEdge;
    out.threadColour = thread;
    out.threadColourChosen = chosen;
    out.mask = std::move(mask);
    DIMHEM_READ(adjustments, readList(object, "adjustments"));
    for (const json& item : *adjustments) {
        auto use = readAdjustment(item, ids.next());
        if (!use) {
            return tl::unexpected(
                fields::inPlace(placeOf("adjustment", out.adjustments.size(), item, "kind"), use.error()));
        }
        out.adjustments.push_back(std::move(*use));
    }
    return std::make_shared<const Correction>(std::move(out));
}

}  // namespace

Result<CorrectionPtr> readCorrection(const json& object, std::size_t position, IdSource& ids) {
    auto read = readMembers(object, position, ids);
    if (!read) return tl::unexpected(fields::inPlace(placeOf("correction", position, object, "name"), read.error()));
    return read;
}

}  // namespace dimhem::document
