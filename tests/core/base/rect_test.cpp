#include "core/base/rect.h"

#include <gtest/gtest.h>

#include "core/base/checked.h"

namespace dimhem::base {

TEST(Rect, IsHalfOpen) {
    const Rect r{2, 3, 5, 7};
    EXPECT_EQ(r.width(), 3);
    EXPECT_EQ(r.height(), 4);
    EXPECT_TRUE(r.contains(2, 3));
    EXPECT_FALSE(r.contains(5, 3));
    EXPECT_FALSE(r.contains(2, 7));
}

TEST(Rect, ThatOnlyTouchesDoesNotIntersect) {
    EXPECT_TRUE(intersected({0, 0, 4, 4}, {4, 0, 8, 4}).empty());
    EXPECT_EQ(intersected({0, 0, 4, 4}, {3, 1, 8, 2}), (Rect{3, 1, 4, 2}));
}

TEST(Rect, UnionIgnoresEmptyOnes) {
    EXPECT_EQ(united({}, {3, 1, 8, 2}), (Rect{3, 1, 8, 2}));
    EXPECT_EQ(united({0, 0, 1, 1}, {3, 1, 8, 2}), (Rect{0, 0, 8, 2}));
}

TEST(CheckedSize, RefusesWhatDoesNotFit) {
    EXPECT_EQ(checkedSize({3, 4, 5}), std::optional<std::size_t>(60));
    EXPECT_EQ(checkedSize({1u << 31, 1u << 31, 4}), std::nullopt);
    EXPECT_EQ(checkedSize({~std::size_t{0}, 2}), std::nullopt);
    EXPECT_EQ(checkedSize({~std::size_t{0}, 0}), std::optional<std::size_t>(0));
}

}  // namespace dimhem::base
