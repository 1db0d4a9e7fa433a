// Brackets as JSON: the list of a document, or of a kept state (docs/document-format.md).
#pragma once

#include <nlohmann/json.hpp>
#include <vector>

#include "core/base/error.h"
#include "core/document/bracket.h"

namespace dimhem::document {

nlohmann::json bracketsToJson(const std::vector<Bracket>& brackets);
base::Result<std::vector<Bracket>> readBrackets(const nlohmann::json& object);  // of its "brackets"; missing: none

}  // namespace dimhem::document
