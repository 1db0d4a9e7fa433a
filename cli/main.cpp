#include <csignal>
#include <iostream>
#include <thread>
#include <vector>

#include "cli/commands.h"
#include "core/base/heap.h"
#include "core/base/parallel.h"

// Being told to stop (SIGINT, SIGTERM) cancels the work, so that nothing half-written stays behind. The signals are
// waited for on a thread of their own; the main thread and all that come after it have them blocked.
int main(int argc, char** argv) {
    dimhem::base::keepBlocksInHeap();
    const dimhem::base::SpareThreads spareThreads;
    sigset_t stops;
    sigemptyset(&stops);
    sigaddset(&stops, SIGINT);
    sigaddset(&stops, SIGTERM);
    pthread_sigmask(SIG_BLOCK, &stops, nullptr);
    dimhem::base::CancelSource cancel;
    std::thread([stops, cancel]() mutable {
        int signal = 0;
        sigwait(&stops, &signal);
        cancel.cancel();
    }).detach();
    const std::vector<std::string_view> arguments(argv + 1, argv + argc);
    const int code = dimhem::cli::run(arguments, std::cout, std::cerr, cancel.token());
    constexpr int endedBySignal = 130;  // 128 + SIGINT, as shells count
    return cancel.token().cancelled() ? endedBySignal : code;
}
