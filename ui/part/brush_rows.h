// Rows that the brush and the fine-detail brush share.
#pragma once

#include "core/mask/brush.h"
#include "ui/part/rows.h"

namespace dimhem::ui {

ValueSlider* addBrushSlider(const SettingsBuilder& builder, const mask::BrushParam& param);

// Whether the brush paints or removes.
void addBrushMode(const SettingsBuilder& builder);

}  // namespace dimhem::ui
