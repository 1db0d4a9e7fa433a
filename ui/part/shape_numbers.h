// The places of what is worked on in numbers, to be typed: the ends of a gradient, an oval, a probe.
#pragma once

#include "ui/session/session.h"

namespace dimhem::ui {

bool hasNumbers(const Session& session);  // the shape worked on
void askForNumbers(Session& session, QPoint global, QWidget* parent);
void askForNumbersOfProbe(Session& session, std::size_t probe, QPoint global, QWidget* parent);

}  // namespace dimhem::ui
