#include "core/document/json_mask.h"

#include "core/document/json_list.h"
#include "core/document/json_read.h"
#include "core/json/fields.h"
#include "core/mask/registry.h"

namespace dimhem::document {

using base::Result;
using nlohmann::json;

json partToJson(const mask::Part& part) {
    json out{{"kind", part.shape->kind().id}, {"name", part.name},       {"combine", mask::idOf(part.combine)},
             {"flipped", part.flipped},       {"enabled", part.enabled}, {"opacity", part.opacityPct}};
    part.shape->toJson(out);
    if (part.limit) {
        json& limit = out["limit"] = {{"kind", part.limit->kind().id}};
        part.limit->toJson(limit);
    }
    return out;
}

json maskToJson(const mask::Mask& mask) {
    json parts = json::array(), refine = json::object();
    for (const mask::PartPtr& part : mask.parts) parts.push_back(partToJson(*part));
    for (const mask::RefineParam& param : mask::refineParams())
        refine[std::string(param.spec.id)] = mask.refine.*param.value;
    return {{"starts", mask.startsEverywhere ? "everywhere" : "nowhere"},
            {"inverted", mask.inverted},
            {"parts", std::move(parts)},
            {"refine", std::move(refine)}};
}

namespace {

Result<mask::ShapePtr> readLimit(const json& object, const mask::Shape& of) {
    const auto found = object.find("limit");
    if (found == object.end()) return nullptr;
    if (of.isZone()) return fields::wrongField("limit", "left out: " + std::string(of.kind().label) + " has none");
    if (!found->is_object()) return fields::wrongField("limit", "an object");
    DIMHEM_READ(kindId, fields::readText(*found, "kind", ""));
    const mask::ShapeKind* kind = mask::findShapeKind(kindId);
    if (!kind || !kind->isRange) return fields::wrongField("limit", "of a kind that is a range");
    return kind->fromJson(*found);
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

}  // namespace

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
    DIMHEM_READ(limit, readLimit(object, *shape));
    part = {id, name, *combine, flipped, enabled, opacity, shape, limit};
    return std::make_shared<const mask::Part>(std::move(part));
}

Result<mask::Mask> readMask(const json& object, IdSource& ids) {
    mask::Mask out;
    DIMHEM_READ(starts, fields::readText(object, "starts", "nowhere"));
    if (starts != "nowhere" && starts != "everywhere")
        return fields::wrongField("starts", "\"nowhere\" or \"everywhere\"");
    out.startsEverywhere = starts == "everywhere";
    DIMHEM_READ(inverted, fields::readBool(object, "inverted", false));
    out.inverted = inverted;
    DIMHEM_READ(parts, readList(object, "parts"));
    std::size_t weight = 0;
    for (const json& item : *parts) {
        auto part = readPart(item, ids.next());
        if (!part) {
            const char* nameMember = item.contains("name") ? "name" : "kind";
            return tl::unexpected(fields::inPlace(placeOf("part", out.parts.size(), item, nameMember), part.error()));
        }
        out.parts.push_back(std::move(*part));
        weight += mask::weightOf(*out.parts.back());
        if (weight > mask::mostWeight) return fields::wrongField("parts", "smaller: they are too much together");
    }
    DIMHEM_READ(refine, readRefine(object));
    out.refine = refine;
    return out;
}

}  // namespace dimhem::document
