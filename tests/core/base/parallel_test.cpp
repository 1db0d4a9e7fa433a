#include "core/base/parallel.h"

#include <gtest/gtest.h>

#include <atomic>
#include <vector>

namespace dimhem::base {

TEST(ParallelFor, DoesEachItemOnceWithAnyNumberOfWorkers) {
    for (const int workers : {0, 1, 2, 7}) {
        std::vector<std::atomic<int>> done(1000);
        EXPECT_TRUE(parallelFor(done.size(), {workers, {}}, {}, [&](std::size_t i) { ++done[i]; }));
        for (const auto& count : done) EXPECT_EQ(count, 1);
    }
}

TEST(ParallelFor, StopsWhenCancelled) {
    for (const int workers : {1, 4}) {
        CancelSource source;
        std::atomic<int> done = 0;
        const bool whole = parallelFor(10'000, {workers, {}}, source.token(), [&](std::size_t) {
            if (++done == 20) source.cancel();
        });
        EXPECT_FALSE(whole);
        EXPECT_LT(done, 10'000);
    }
}

TEST(ParallelFor, CallsTheDelayHookBeforeEachItem) {
    std::atomic<int> delayed = 0;
    parallelForAll(16, {3, [&](std::size_t) { ++delayed; }}, {}, [&](std::size_t) { EXPECT_GT(delayed, 0); });
    EXPECT_EQ(delayed, 16);
}

}  // namespace dimhem::base
