// Masks and their parts as JSON, as corrections hold them (docs/document-format.md).
#pragma once

#include <nlohmann/json.hpp>

#include "core/base/error.h"
#include "core/document/id.h"
#include "core/mask/mask.h"

namespace dimhem::document {

nlohmann::json partToJson(const mask::Part& part);
base::Result<mask::PartPtr> readPart(const nlohmann::json& object, Id id);

nlohmann::json maskToJson(const mask::Mask& mask);
base::Result<mask::Mask> readMask(const nlohmann::json& object, IdSource& ids);

}  // namespace dimhem::document
