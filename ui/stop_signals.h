// Being told to end (SIGINT, SIGTERM, as at the end of a session) by other means than the window's own.
#pragma once

#include <QObject>
#include <csignal>
#include <functional>

namespace dimhem::ui {

// Blocks both signals in this thread and those it starts; called before any other thread is.
sigset_t blockStopSignals();

// Calls `end` once, on the thread of `window`, when one of them arrives; not after `window` is gone. Two seconds later
// the program has ended, whatever it computes.
void onStopSignal(const sigset_t& stops, QObject& window, std::function<void()> end);

}  // namespace dimhem::ui
