#include "core/document/unknown_members.h"

#include <algorithm>
#include <nlohmann/json.hpp>

#include "core/base/nearest_word.h"

namespace dimhem::document {

namespace {

using nlohmann::json;

constexpr std::size_t mostWarnings = 20;

std::string nearest(const std::string& word, const json& known) {
    std::vector<std::string_view> names;
    for (const auto& member : known.items()) names.push_back(member.key());
    return std::string(base::nearestWord(word, names));
}

// "corrections" and 2: "correction 3 (Sky)".
std::string placeOf(const std::string& list, std::size_t index, const json& item) {
    std::string place =
        (list.ends_with("s") ? list.substr(0, list.size() - 1) : list) + " " + std::to_string(index + 1);
    for (const char* name : {"name", "kind"}) {
        const auto found = item.find(name);
        if (found != item.end() && found->is_string()) return place + " (" + found->get<std::string>() + ")";
    }
    return place;
}

void look(const json& given, const json& known, const std::string& place, std::vector<std::string>& out) {
    if (!given.is_object() || !known.is_object()) return;
    for (const auto& [name, value] : given.items()) {
        if (out.size() >= mostWarnings) return;
        const auto found = known.find(name);
        if (found == known.end()) {
            const std::string meant = nearest(name, known);
            out.push_back("In " + place + ", \"" + name + "\" is not known and has no effect" +
                          (meant.empty() ? "." : "; \"" + meant + "\" is perhaps meant."));
        } else if (value.is_array() && found->is_array()) {
            for (std::size_t i = 0; i < std::min(value.size(), found->size()) && value[i].is_object(); ++i) {
                const std::string at = placeOf(name, i, value[i]);
                look(value[i], (*found)[i], place == "the document" ? at : place + ", " + at, out);
            }
        } else {
            look(value, *found, place == "the document" ? "\"" + name + "\"" : place + ", \"" + name + "\"", out);
        }
    }
}

}  // namespace

std::vector<std::string> unknownMembers(const json& given, const json& known) {
    std::vector<std::string> out;
    look(given, known, "the document", out);
    return out;
}

}  // namespace dimhem::document
