// The settings of each kind of part, each in its own file; listed in part_settings.cpp.
#pragma once

#include "ui/part/part_settings.h"

namespace dimhem::ui {

void addBrush(const SettingsBuilder& builder);
void addFineDetail(const SettingsBuilder& builder);
void addLinearGradient(const SettingsBuilder& builder);
void addRadialGradient(const SettingsBuilder& builder);
void addColourRange(const SettingsBuilder& builder);
void addLuminosityRange(const SettingsBuilder& builder);
void addHazeDepth(const SettingsBuilder& builder);
void addVeilDensity(const SettingsBuilder& builder);
void addOutline(const SettingsBuilder& builder);
void addRegion(const SettingsBuilder& builder);
void addWire(const SettingsBuilder& builder);
void addMatte(const SettingsBuilder& builder);
void addBorrowed(const SettingsBuilder& builder);

}  // namespace dimhem::ui
