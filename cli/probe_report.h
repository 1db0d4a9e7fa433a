// What `hem probe` says of the colour of a place, before the corrections and after them.
#pragma once

#include <string>

#include "core/document/judging.h"
#include "core/task/open.h"

namespace dimhem::cli {

base::Result<std::string> probeReport(const task::Opened& opened, const document::Probe& probe, bool asJson);
// Of what lies under the mask of a correction, before it and after it.
base::Result<std::string> maskReport(const task::Opened& opened, document::Id correction, bool asJson);

}  // namespace dimhem::cli
