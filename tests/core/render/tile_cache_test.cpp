#include "core/render/tile_cache.h"

#include <gtest/gtest.h>
#include <oneapi/tbb/global_control.h>

#include <atomic>
#include <thread>

#include "core/base/parallel.h"

namespace dimhem::render {

namespace {

const base::ContentKey someKey = base::KeyBuilder().add("some").key();

mask::CoverageStore::Made madeOf(int value) {
    return {std::make_shared<const int>(value), sizeof(int)};
}

int intOf(const std::shared_ptr<const void>& value) {
    return *std::static_pointer_cast<const int>(value);
}

void waitUntil(const std::atomic<bool>& flag) {
    while (!flag) std::this_thread::yield();
}

}  // namespace

TEST(TileCache, WhoWaitsCanBeStoppedWhileAnotherMakes) {
    TileCache cache;
    std::atomic<bool> begun = false, goOn = false;
    std::thread maker([&] {
        cache.once(someKey, [&] {
            begun = true;
            waitUntil(goOn);
            return madeOf(1);
        });
    });
    waitUntil(begun);
    base::CancelSource stop;
    stop.cancel();
    EXPECT_THROW(cache.once(
                     someKey, [] { return madeOf(2); }, stop.token()),
                 base::Cancelled);
    goOn = true;
    maker.join();
    EXPECT_EQ(intOf(cache.once(someKey, [] { return madeOf(3); })), 1);
}

TEST(TileCache, WhereTheMakerIsStoppedAnotherMakesIt) {
    TileCache cache;
    std::atomic<bool> begun = false, goOn = false;
    std::thread maker([&] {
        const auto make = [&]() -> mask::CoverageStore::Made {
            begun = true;
            waitUntil(goOn);
            throw base::Cancelled();
        };
        EXPECT_THROW(cache.once(someKey, make), base::Cancelled);
    });
    waitUntil(begun);
    std::atomic<int> value = 0;
    std::thread other([&] { value = intOf(cache.once(someKey, [] { return madeOf(2); })); });
    goOn = true;
    maker.join();
    other.join();
    EXPECT_EQ(value, 2);
}

// Every item asks for the same thing, whose making splits its own work over the same threads: whoever makes it must not
// take another item meanwhile and wait for itself.
TEST(TileCache, MakingMaySplitItsWorkOverThreads) {
    const oneapi::tbb::global_control more(oneapi::tbb::global_control::max_allowed_parallelism, 8);
    for (int round = 0; round < 200; ++round) {
        TileCache cache;
        std::atomic<int> sum = 0, makers = 0;
        base::parallelForAll(32, {4}, {}, [&](std::size_t) {
            const auto value = cache.once(someKey, [&] {
                ++makers;
                std::atomic<int> inner = 0;
                base::parallelForAll(64, {}, {}, [&](std::size_t) {
                    std::this_thread::yield();
                    ++inner;
                });
                return madeOf(inner);
            });
            sum += intOf(value);
        });
        EXPECT_EQ(sum, 32 * 64);
        EXPECT_EQ(makers, 1);
    }
}

TEST(TileCache, ParallelWorkThatIsStoppedInTheMiddleSaysSo) {
    for (const int workers : {1, 4}) {
        EXPECT_FALSE(base::parallelFor(100, {workers}, {}, [](std::size_t i) {
            if (i == 50) throw base::Cancelled();
        }));
    }
}

TEST(TileCache, KeepsToTheCeilingOfTheProgram) {
    constexpr std::size_t megabyte = std::size_t{1} << 20, elsewhere = 10 * megabyte;
    const TileCache* looked = nullptr;
    const auto ceiling = std::make_shared<base::MemoryCeiling>(
        60 * megabyte, [&] { return elsewhere + (looked ? looked->bytes() : 0); });
    TileCache cache(1000 * megabyte, ceiling);
    looked = &cache;
    const auto keep = [&](std::uint64_t i) {
        cache.keepLatest(base::KeyBuilder().add(i).key(), std::make_shared<int>(0), megabyte);
    };
    std::size_t most = 0;
    {
        const TileCache::Hold hold(cache, 1000 * megabyte);
        for (std::uint64_t i = 0; i < 400; ++i) {
            keep(i);
            most = std::max(most, cache.bytes());
        }
    }
    EXPECT_LE(most, 60 * megabyte) << "looked at every few megabytes";
    EXPECT_GT(most, 30 * megabyte);
    // Where it is others that take it all, nothing can be kept, and that is said.
    ceiling->setBytes(megabyte);
    const auto much = [&] {
        for (std::uint64_t i = 0; i < 40; ++i) keep(i);
    };
    EXPECT_THROW(much(), base::CeilingReached);
}

// Pieces that look at one another and are given up over and over would go on for ever.
TEST(TileCache, WorkThatIsTooLargeForTheCeilingFails) {
    constexpr std::size_t megabyte = std::size_t{1} << 20;
    const TileCache* looked = nullptr;
    const auto ceiling =
        std::make_shared<base::MemoryCeiling>(20 * megabyte, [&] { return looked ? looked->bytes() : 0; });
    TileCache cache(1000 * megabyte, ceiling);
    looked = &cache;
    const auto work = [&] {
        for (std::uint64_t i = 0; i < 4000; ++i)
            cache.keepLatest(base::KeyBuilder().add(i).key(), std::make_shared<int>(0), megabyte);
    };
    EXPECT_NO_THROW(work()) << "one after the other, as single pieces of work";
    const TileCache::Hold hold(cache, 1000 * megabyte);
    EXPECT_THROW(work(), base::CeilingReached);
}

}  // namespace dimhem::render
