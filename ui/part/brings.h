// What the brush brings (core/mask/brings.h): the kind, and what that kind needs to know.
#pragma once

#include "ui/part/part_settings.h"

namespace dimhem::ui {

void addBringing(const SettingsBuilder& builder);

}  // namespace dimhem::ui
