// The text of a document: document.json, as described in docs/document-format.md.
//
// Reading checks every type and range and says in one sentence what is wrong, and where. What may be left out in a
// document written by hand takes its usual value.
#pragma once

#include <nlohmann/json_fwd.hpp>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/error.h"
#include "core/document/document.h"

namespace dimhem::document {

inline constexpr int formatVersion = 1;

nlohmann::json toJson(const Document& document);
nlohmann::json stateToJson(const KeptState& state, nlohmann::json corrections);  // its corrections as JSON already
base::Result<DocumentPtr> fromJson(const nlohmann::json& root);

std::string toJsonText(const Document& document);
// `warnings`, where given, gets a sentence for each member that nobody knows: misspelt, most likely.
base::Result<DocumentPtr> fromJsonText(std::string_view text, std::vector<std::string>* warnings = nullptr);

}  // namespace dimhem::document
