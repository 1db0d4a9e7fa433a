// Where starters lie: those shipped with the program, the person's own, and kept settings, each a starter of one
// adjustment.
#pragma once

#include "core/task/starters.h"

namespace dimhem::ui {

std::filesystem::path shippedStartersFolder();
std::filesystem::path ownStartersFolder();
std::filesystem::path keptSettingsFolder();

}  // namespace dimhem::ui
