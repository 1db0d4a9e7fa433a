#include "core/document/json_list.h"

#include "core/document/document.h"
#include "core/json/fields.h"

namespace dimhem::document {

using base::Result;
using nlohmann::json;

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

std::string placeOf(const char* what, std::size_t index, const json& object, const char* nameMember) {
    std::string place = std::string(what) + " " + std::to_string(index + 1);
    const auto name = object.find(nameMember);
    if (name != object.end() && name->is_string()) place += " (" + name->get<std::string>() + ")";
    return place;
}

}  // namespace dimhem::document
