#include "core/base/param.h"

#include <gtest/gtest.h>

#include <cmath>

namespace dimhem::base {

namespace {

constexpr ParamSpec specs[] = {{"a", "A", "px", -2, 5, 1, 0.5, 1, "tip"}, {"b", "B", "", 0, 1, 0, 1, 0, "tip"}};

}  // namespace

TEST(ParamSpec, RangeIncludesItsEndsAndExcludesNan) {
    EXPECT_TRUE(inRange(specs[0], -2));
    EXPECT_TRUE(inRange(specs[0], 5));
    EXPECT_FALSE(inRange(specs[0], 5.0001));
    EXPECT_FALSE(inRange(specs[0], std::nan("")));
    EXPECT_EQ(clamped(specs[0], 17), 5);
    EXPECT_EQ(clamped(specs[0], -17), -2);
}

TEST(ParamSpec, IsFoundById) {
    EXPECT_EQ(findParam(specs, "b"), &specs[1]);
    EXPECT_EQ(findParam(specs, "c"), nullptr);
}

}  // namespace dimhem::base
