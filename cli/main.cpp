#include <chrono>
#include <condition_variable>
#include <csignal>
#include <cstdlib>
#include <iostream>
#include <mutex>
#include <thread>
#include <vector>

#include "cli/commands.h"
#include "core/base/heap.h"
#include "core/base/parallel.h"

namespace {

constexpr int endedBySignal = 130;  // 128 + SIGINT, as shells count

// Says once, after a while, that work goes on and how to stop it. On a thread of its own.
class SlowNotice {
public:
    SlowNotice()
        : thread_([this] {
              constexpr std::chrono::seconds aWhile(2);
              std::unique_lock lock(mutex_);
              if (!over_.wait_for(lock, aWhile, [this] { return isOver_; }))
                  std::cerr << "hem: This takes a while. Ctrl+C stops it; no file is left half-written.\n";
          }) {}
    ~SlowNotice() {
        {
            const std::lock_guard lock(mutex_);
            isOver_ = true;
        }
        over_.notify_one();
        thread_.join();
    }
    SlowNotice(const SlowNotice&) = delete;

private:
    std::mutex mutex_;
    std::condition_variable over_;
    bool isOver_ = false;
    std::thread thread_;
};

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
    const int code = [&] {
        const SlowNotice notice;
        return dimhem::cli::run(arguments, std::cout, std::cerr, cancel.token());
    }();
    if (cancel.token().cancelled()) return endedBySignal;
    // What was to be read elsewhere may not have got there: the disk is full, or nobody reads any more.
    std::cout.flush();
    if (std::cout) return code;
    std::cerr << "hem: What was found could not be written to the output.\n";
    return code != 0 ? code : 1;
}
