// Adjustments as JSON, as corrections hold them (docs/document-format.md).
#pragma once

#include <nlohmann/json.hpp>

#include "core/base/error.h"
#include "core/document/document.h"

namespace dimhem::document {

nlohmann::json adjustmentToJson(const AdjustmentUse& use);
base::Result<AdjustmentUse> readAdjustment(const nlohmann::json& object, Id id);
// Of an object's list "adjustments"; missing: none.
base::Result<std::vector<AdjustmentUse>> readAdjustments(const nlohmann::json& object, IdSource& ids);

}  // namespace dimhem::document
