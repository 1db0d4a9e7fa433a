#include "core/base/growing_list.h"

#include <gtest/gtest.h>

#include <random>
#include <thread>

namespace dimhem::base {
namespace {

std::vector<int> itemsOf(const GrowingList<int>& list) {
    return std::vector<int>(list.begin(), list.end());
}

// Any order of copying and adding: each list holds what a plain vector would.
TEST(GrowingList, EveryCopyGoesItsOwnWay) {
    std::mt19937 random(3);
    std::vector<std::pair<GrowingList<int>, std::vector<int>>> lists(1);
    for (int i = 0; i < 6000; ++i) {
        auto copy = lists[random() % lists.size()];
        const std::size_t more = random() % 4 == 0 ? 300 : random() % 3;
        for (std::size_t j = 0; j < more; ++j) {
            copy.first.push_back(i);
            copy.second.push_back(i);
        }
        if (lists.size() < 40) {
            lists.push_back(std::move(copy));
        } else {
            lists[random() % lists.size()] = std::move(copy);
        }
        if (i % 500 != 0) continue;
        for (const auto& [list, expected] : lists) ASSERT_EQ(itemsOf(list), expected);
    }
}

TEST(GrowingList, ManyThreadsAddToCopiesOfOne) {
    GrowingList<int> common;
    for (int i = 0; i < 1000; ++i) common.push_back(i);
    std::vector<GrowingList<int>> copies(8, common);
    {
        std::vector<std::jthread> threads;
        for (int t = 0; t < 8; ++t)
            threads.emplace_back([&, t] {
                for (int i = 0; i < 2000; ++i) copies[static_cast<std::size_t>(t)].push_back(10000 * t + i);
            });
    }
    for (int t = 0; t < 8; ++t) {
        const auto& list = copies[static_cast<std::size_t>(t)];
        ASSERT_EQ(list.size(), 3000u);
        for (std::size_t i = 0; i < 3000; ++i)
            ASSERT_EQ(list[i], i < 1000 ? static_cast<int>(i) : 10000 * t + static_cast<int>(i) - 1000);
    }
}

}  // namespace
}  // namespace dimhem::base
