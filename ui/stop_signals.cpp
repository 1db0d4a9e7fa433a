#include "ui/stop_signals.h"

#include <QCoreApplication>
#include <QPointer>
#include <chrono>
#include <cstdlib>
#include <thread>

namespace dimhem::ui {

sigset_t blockStopSignals() {
    sigset_t stops;
    sigemptyset(&stops);
    sigaddset(&stops, SIGINT);
    sigaddset(&stops, SIGTERM);
    pthread_sigmask(SIG_BLOCK, &stops, nullptr);
    return stops;
}

void onStopSignal(const sigset_t& stops, QObject& window, std::function<void()> end) {
    std::thread([stops, window = QPointer(&window), end = std::move(end)] {
        int signal = 0;
        sigwait(&stops, &signal);
        QMetaObject::invokeMethod(
            QCoreApplication::instance(),
            [window, end] {
                if (window) end();
            },
            Qt::QueuedConnection);
        // Whatever is being computed meanwhile: the unsaved work is in the journal long before.
        std::this_thread::sleep_for(std::chrono::milliseconds(1800));
        std::_Exit(0);
    }).detach();
}

}  // namespace dimhem::ui
