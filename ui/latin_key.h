// The key of a Latin keyboard behind an event: keys that act by their letter must work under any layout.
#pragma once

#include <QKeyEvent>

namespace dimhem::ui {

// The letter, digit or sign itself where the layout gives one; under a layout without Latin letters, what stands in
// that place on a US keyboard. Braces count as the brackets they are typed with. Any other key as it is.
int latinKey(const QKeyEvent& event);

}  // namespace dimhem::ui
