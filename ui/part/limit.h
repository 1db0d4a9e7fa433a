// The range that a part is kept to (mask::Part::limit), in a fold of its settings.
#pragma once

#include "ui/part/part_settings.h"

namespace dimhem::ui {

void addLimit(const SettingsBuilder& b, const mask::Part& part);

}  // namespace dimhem::ui
