// Where starters lie: those shipped with the program, and the person's own.
#pragma once

#include "core/task/starters.h"

namespace dimhem::ui {

std::filesystem::path shippedStartersFolder();
std::filesystem::path ownStartersFolder();

}  // namespace dimhem::ui
