// What `hem check` says of the corrections of a document: the figures of the hem check; as JSON the colours under each
// mask and the notes too.
#pragma once

#include <optional>
#include <string>

#include "core/base/cancel.h"
#include "core/base/error.h"
#include "core/task/open.h"

namespace dimhem::cli {

// Of all corrections, or of one.
base::Result<std::string> checkReport(const task::Opened& opened, std::optional<document::Id> only, bool asJson,
                                      const base::CancelToken& stopped);

}  // namespace dimhem::cli
