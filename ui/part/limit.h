// The range that a part is kept to (mask::Part::limit), in a fold of its settings.
#pragma once

#include "ui/part/part_settings.h"

namespace dimhem::ui {

// The selected part is kept to a range of that kind, and the range is worked on; where it is one already, that.
void keepToRange(Session& session, const mask::ShapeKind& kind);

void addLimit(const SettingsBuilder& b, const mask::Part& part);

}  // namespace dimhem::ui
