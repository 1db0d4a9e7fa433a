// One correction as JSON, as documents and starters hold it (docs/document-format.md).
#pragma once

#include <nlohmann/json.hpp>

#include "core/base/error.h"
#include "core/document/document.h"

namespace dimhem::document {

nlohmann::json correctionToJson(const Correction& correction);

// `position` gives name and thread colour where the object has none; ids that it does not bring are taken from `ids`.
// Errors say in which correction and which part they lie.
base::Result<CorrectionPtr> readCorrection(const nlohmann::json& object, std::size_t position, IdSource& ids);

}  // namespace dimhem::document
