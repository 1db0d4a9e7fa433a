#include <chrono>
#include <csignal>
#include <cstdlib>
#include <iostream>
#include <thread>
#include <vector>

#include "cli/commands.h"
#include "core/base/heap.h"
#include "core/base/parallel.h"

namespace {

constexpr int endedBySignal = 130;  // 128 + SIGINT, as shells count

}  // namespace

// Being told to stop (SIGINT, SIGTERM) cancels the work, so that nothing half-written stays behind. The signals are
// waited for on a thread of their own; the main thread and all that come after it have them blocked. Work that does not
// hear of it in time is ended all the same; what that leaves unfinished is removed by the next that writes there.
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
        std::this_thread::sleep_for(std::chrono::milliseconds(1500));
        std::_Exit(endedBySignal);
    }).detach();
    const std::vector<std::string_view> arguments(argv + 1, argv + argc);
    const int code = dimhem::cli::run(arguments, std::cout, std::cerr, cancel.token());
    if (cancel.token().cancelled()) return endedBySignal;
    // What was to be read elsewhere may not have got there: the disk is full, or nobody reads any more.
    std::cout.flush();
    if (std::cout) return code;
    std::cerr << "hem: What was found could not be written to the output.\n";
    return code != 0 ? code : 1;
}
