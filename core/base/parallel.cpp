#include "core/base/parallel.h"

#include <oneapi/tbb/parallel_for.h>
#include <oneapi/tbb/task_arena.h>

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

void isolated(const std::function<void()>& work) {
    oneapi::tbb::this_task_arena::isolate(work);
}

}  // namespace dimhem::base
