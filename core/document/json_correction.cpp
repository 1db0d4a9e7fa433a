#include "core/document/json_correction.h"

#include "core/colour/thread_colours.h"
#include "core/document/json_adjustment.h"
#include "core/document/json_list.h"
#include "core/document/json_mask.h"
#include "core/document/json_read.h"
#include "core/json/fields.h"

namespace dimhem::document {

using base::Result;
using nlohmann::json;

json correctionToJson(const Correction& correction) {
    json adjustments = json::array();
    for (const AdjustmentUse& use : correction.adjustments) adjustments.push_back(adjustmentToJson(use));
    json out{{"id", correction.id},
             {"name", correction.name},
             {"enabled", correction.enabled},
             {"strength", correction.strengthPct},
             {"blend", kernel::idOf(correction.blend)},
             {"mixing", kernel::idOf(correction.mixing)},
             {"clean-edge", correction.cleanEdge},
             {"mask", maskToJson(correction.mask)},
             {"adjustments", std::move(adjustments)}};
    out["thread"] = colour::threadColours[static_cast<std::size_t>(correction.threadColour)].id;
    out["thread-chosen"] = correction.threadColourChosen;
    if (!correction.nameGiven) out["name-given"] = false;
    if (correction.bracket) out["bracket"] = correction.bracket;
    if (correction.counterpartOf) out["counterpart-of"] = correction.counterpartOf;
    return out;
}

namespace {

Result<int> readThreadColour(const json& correction, std::size_t position) {
    DIMHEM_READ(
        id, fields::readText(correction, "thread", colour::threadColours[position % colour::threadColours.size()].id));
    for (std::size_t i = 0; i < colour::threadColours.size(); ++i) {
        if (colour::threadColours[i].id == id) return static_cast<int>(i);
    }
    return fields::wrongField("thread", "the name of a thread colour");
}

Result<mask::Mask> readMaskOf(const json& correction, IdSource& ids) {
    const auto found = correction.find("mask");
    if (found == correction.end()) return mask::Mask{};
    if (!found->is_object()) return fields::wrongField("mask", "an object");
    return readMask(*found, ids);
}

// Of something else; missing: 0.
Result<Id> readOtherId(const json& correction, const char* member, Id own) {
    const auto found = correction.find(member);
    if (found == correction.end()) return Id{0};
    if (!found->is_number_integer() || found->get<Id>() < 1 || found->get<Id>() > mostId || found->get<Id>() == own)
        return fields::wrongField(member, "an id that is not the correction's own");
    return found->get<Id>();
}

Result<CorrectionPtr> readMembers(const json& object, std::size_t position, IdSource& ids) {
    Correction out;
    out.id = object.contains("id") ? object["id"].get<Id>() : ids.next();
    DIMHEM_READ(name, fields::readText(object, "name", "Correction " + std::to_string(position + 1)));
    DIMHEM_READ(given, fields::readBool(object, "name-given", object.contains("name")));
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
    DIMHEM_READ(mask, readMaskOf(object, ids));
    DIMHEM_READ(counterpartOf, readOtherId(object, "counterpart-of", out.id));
    DIMHEM_READ(bracket, readOtherId(object, "bracket", out.id));
    out.name = name;
    out.nameGiven = given;
    out.enabled = enabled;
    out.strengthPct = strength;
    out.blend = *blend;
    out.mixing = *mixing;
    out.cleanEdge = cleanEdge;
    out.threadColour = thread;
    out.threadColourChosen = chosen;
    out.mask = std::move(mask);
    out.counterpartOf = counterpartOf;
    out.bracket = bracket;
    DIMHEM_READ(adjustments, readAdjustments(object, ids));
    out.adjustments = std::move(adjustments);
    return std::make_shared<const Correction>(std::move(out));
}

}  // namespace

Result<CorrectionPtr> readCorrection(const json& object, std::size_t position, IdSource& ids) {
    auto read = readMembers(object, position, ids);
    if (!read) return tl::unexpected(fields::inPlace(placeOf("correction", position, object, "name"), read.error()));
    return read;
}

}  // namespace dimhem::document
