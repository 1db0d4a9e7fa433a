#include "core/base/memory_ceiling.h"

#include <gtest/gtest.h>

#include <cstring>

namespace dimhem::base {

TEST(MemoryCeiling, BelowItNothingIsGivenUp) {
    int asked = 0;
    MemoryCeiling ceiling(1000, [] { return std::size_t{600}; });
    const auto giver = ceiling.whenShort([&] { ++asked; });
    EXPECT_TRUE(ceiling.hasRoomFor(400));
    EXPECT_EQ(asked, 0);
    EXPECT_FALSE(ceiling.hasRoomFor(401));
    EXPECT_EQ(asked, 1);
}

TEST(MemoryCeiling, WhatCanBeMadeAgainIsGivenUpFirst) {
    std::size_t kept = 500, other = 300;
    MemoryCeiling ceiling(1000, [&] { return 100 + kept + other; });
    auto giver = ceiling.whenShort([&] { kept = 0; });
    const auto another = ceiling.whenShort([&] { other = 0; });
    EXPECT_NO_THROW(ceiling.keepTo(200));
    EXPECT_EQ(kept + other, 0u);
    EXPECT_THROW(ceiling.keepTo(901), CeilingReached);
    kept = 950;
    giver.reset();
    EXPECT_THROW(ceiling.keepTo(), CeilingReached) << "nobody gives it up any more";
    EXPECT_EQ(kept, 950u);
    ceiling.setBytes(2000);
    EXPECT_EQ(ceiling.bytes(), 2000u);
    EXPECT_NO_THROW(ceiling.keepTo());
}

TEST(MemoryCeiling, WhatIsInUseIsCounted) {
    EXPECT_GT(machineMemory(), std::size_t{64} << 20);
    const std::size_t before = memoryInUse();
    EXPECT_GT(before, std::size_t{1} << 20);
    constexpr std::size_t much = std::size_t{64} << 20;
    const std::unique_ptr<char[]> block(new char[much]);
    std::memset(block.get(), 1, much);
    EXPECT_GT(memoryInUse(), before + much * 9 / 10);
    EXPECT_EQ(block[much - 1], 1);
}

}  // namespace dimhem::base
