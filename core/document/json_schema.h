// The JSON Schema of documents (draft 2020-12, json-schema.org), for editors and validators: docs/document.schema.json.
//
// Made from the same descriptions that reading uses. What a schema cannot say (a borrowed mask's correction exists, the
// floor is no higher than the ceiling, points rise) only the program checks.
#pragma once

#include <nlohmann/json.hpp>

namespace dimhem::document {

nlohmann::ordered_json documentSchema();

}  // namespace dimhem::document
