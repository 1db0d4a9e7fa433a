#include "core/base/parallel.h"

#include <oneapi/tbb/global_control.h>
#include <oneapi/tbb/info.h>
#include <oneapi/tbb/parallel_for.h>
#include <oneapi/tbb/task_arena.h>
#include <oneapi/tbb/task_scheduler_observer.h>
#include <sys/resource.h>

namespace dimhem::base {

namespace {

template <class One>
void forEach(std::size_t items, const Workers& workers, const One& one) {
    if (workers.count == 1 || items <= 1) {
        for (std::size_t i = 0; i < items; ++i) one(i);
        return;
    }
    const auto all = [&] { oneapi::tbb::parallel_for(std::size_t{0}, items, one, oneapi::tbb::simple_partitioner()); };
    if (workers.count > 1) {
        oneapi::tbb::task_arena arena(workers.count);
        arena.execute(all);
    } else {
        all();
    }
}

}  // namespace

bool parallelFor(std::size_t items, const Workers& workers, const CancelToken& cancel,
                 const std::function<void(std::size_t)>& work) {
    const auto one = [&](std::size_t i) {
        if (cancel.cancelled()) return;
        if (workers.delayHook) workers.delayHook(i);
        work(i);
    };
    try {
        forEach(items, workers, one);
        return !cancel.cancelled();
    } catch (const Cancelled&) {
        return false;
    }
}

void parallelForAll(std::size_t items, const Workers& workers, const CancelToken& cancel,
                    const std::function<void(std::size_t)>& work) {
    if (!parallelFor(items, workers, cancel, work)) throw Cancelled();
}

void apart(const std::function<void()>& work) {
    oneapi::tbb::task_arena arena;
    arena.execute(work);
}

void giveWay() {
    // On Linux each thread has a priority of its own. Where it is refused, nothing is lost but smoothness.
    constexpr int less = 5;
    (void)::setpriority(PRIO_PROCESS, 0, less);
}

struct SpareThreads::Allowed final : oneapi::tbb::task_scheduler_observer {
    Allowed() { observe(true); }
    ~Allowed() override { observe(false); }
    void on_scheduler_entry(bool isWorker) override {
        if (isWorker) giveWay();
    }

    oneapi::tbb::global_control threads{oneapi::tbb::global_control::max_allowed_parallelism,
                                        2 * static_cast<std::size_t>(oneapi::tbb::info::default_concurrency())};
};

SpareThreads::SpareThreads() : allowed_(std::make_unique<Allowed>()) {}
SpareThreads::~SpareThreads() = default;

}  // namespace dimhem::base
