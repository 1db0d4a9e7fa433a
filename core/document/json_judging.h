// Probes and dismissed notes as JSON (docs/document-format.md).
#pragma once

#include <nlohmann/json.hpp>

#include "core/base/error.h"
#include "core/document/document.h"
#include "core/json/fields.h"

namespace dimhem::document {

using fields::farPx;

// Nothing is written of empty lists.
void writeJudging(const Document& document, nlohmann::json& root);
base::Result<void> readJudging(const nlohmann::json& root, Document& out);

}  // namespace dimhem::document
