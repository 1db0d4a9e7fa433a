// What `hem info` says of a photo or document.
#pragma once

#include <string>

#include "core/task/open.h"

namespace dimhem::cli {

std::string jsonReport(const task::Opened& opened);
std::string textReport(const task::Opened& opened);

}  // namespace dimhem::cli
