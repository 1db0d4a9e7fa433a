#include "core/document/json_bracket.h"

#include <algorithm>

#include "core/document/json_list.h"
#include "core/document/json_read.h"
#include "core/json/fields.h"

namespace dimhem::document {

using base::Result;
using nlohmann::json;

json bracketsToJson(const std::vector<Bracket>& brackets) {
    json out = json::array();
    for (const Bracket& bracket : brackets) {
        out.push_back({{"id", bracket.id}, {"enabled", bracket.enabled}, {"strength", bracket.strengthPct}});
    }
    return out;
}

Result<std::vector<Bracket>> readBrackets(const json& object) {
    DIMHEM_READ(list, readList(object, "brackets"));
    std::vector<Bracket> out;
    for (const json& item : *list) {
        const auto id = item.find("id");
        if (id == item.end() || !id->is_number_integer() || id->get<Id>() < 1 || id->get<Id>() > mostId)
            return fields::wrongField("brackets", "objects with an \"id\" of 1 or above");
        Bracket bracket{id->get<Id>(), true, 100};
        if (std::ranges::find(out, bracket.id, &Bracket::id) != out.end())
            return fields::wrongField("brackets", "objects with ids of their own");
        DIMHEM_READ(enabled, fields::readBool(item, "enabled", true));
        DIMHEM_READ(strength, fields::readParam(item, bracketStrengthSpec));
        bracket.enabled = enabled;
        bracket.strengthPct = strength;
        out.push_back(std::move(bracket));
    }
    return out;
}

}  // namespace dimhem::document
