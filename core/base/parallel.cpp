#include "core/base/parallel.h"

#include <oneapi/tbb/parallel_for.h>
#include <oneapi/tbb/task_arena.h>

namespace dimhem::base {

bool parallelFor(std::size_t items, const Workers& workers, const CancelToken& cancel,
                 const std::function<void(std::size_t)>& work) {
    const auto one = [&](std::size_t i) {
        if (cancel.cancelled()) return;
        if (workers.delayHook) workers.delayHook(i);
        work(i);
    };
    if (workers.count == 1 || items <= 1) {
        for (std::size_t i = 0; i < items; ++i) one(i);
        return !cancel.cancelled();
    }
    const auto all = [&] { oneapi::tbb::parallel_for(std::size_t{0}, items, one, oneapi::tbb::simple_partitioner()); };
    if (workers.count > 1) {
        oneapi::tbb::task_arena arena(workers.count);
        arena.execute(all);
    } else {
        all();
    }
    return !cancel.cancelled();
}

}  // namespace dimhem::base
