// From the core's texts and numbers to what the window shows.
//
// The core's labels and tips are English sources; the window shows their translation, of the context "core". An id is
// never translated.
#pragma once

#include <QString>
#include <optional>
#include <string_view>

#include "core/base/param.h"

namespace dimhem::ui {

QString words(std::string_view source);  // translated
QString idText(std::string_view id);     // as it is

// A parameter's value with its unit, as in "+0.55 EV", and from what was typed, with or without the unit.
QString shownValue(const base::ParamSpec& spec, double value);
std::optional<double> typedValue(const base::ParamSpec& spec, QString text);

}  // namespace dimhem::ui
