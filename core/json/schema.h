// Pieces of a JSON Schema (draft 2020-12, json-schema.org).
#pragma once

#include <nlohmann/json.hpp>
#include <string>

#include "core/base/param.h"

namespace dimhem::schema {

using Schema = nlohmann::ordered_json;

Schema numberOf(double min, double max);
Schema of(const base::ParamSpec& spec);
Schema flag(bool usual);
Schema text();
Schema listOf(Schema items, std::size_t least, std::size_t most);
// With these members and no others.
Schema object(Schema properties, Schema required);
Schema place();                             // on the photo or about it
Schema fourRising(double min, double max);  // that they rise, a schema cannot say

template <class Words>
Schema oneOf(const Words& words) {
    Schema list = Schema::array();
    for (const auto& word : words) list.push_back(std::string(word));
    return {{"enum", list}};
}
inline Schema oneOf(std::initializer_list<const char*> words) {
    return oneOf<std::initializer_list<const char*>>(words);
}

// The members that a kind of thing has of its own, those it needs, and what else must be so.
struct Members {
    Schema properties = Schema::object(), required = Schema::array(), rules = Schema::object();
};

}  // namespace dimhem::schema
