// Members of a JSON document that nobody knows: misspelt, most likely, and so without effect.
#pragma once

#include <nlohmann/json_fwd.hpp>
#include <string>
#include <vector>

namespace dimhem::document {

// One sentence for each member of `given` that `known` lacks, `known` being the same document with every member there
// can be. Items of lists are compared place by place.
std::vector<std::string> unknownMembers(const nlohmann::json& given, const nlohmann::json& known);

}  // namespace dimhem::document
