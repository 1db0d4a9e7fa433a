#include "core/base/content_key.h"

#include <gtest/gtest.h>

#include <string>

namespace dimhem::base {

TEST(KeyBuilder, SameContentSameKey) {
    EXPECT_EQ(KeyBuilder().add(1).add(2.5f).key(), KeyBuilder().add(1).add(2.5f).key());
}

TEST(KeyBuilder, OrderTypeAndGroupingMatter) {
    EXPECT_NE(KeyBuilder().add(1).add(2).key(), KeyBuilder().add(2).add(1).key());
    EXPECT_NE(KeyBuilder().add(1).key(), KeyBuilder().add(1.0).key());
    EXPECT_NE(KeyBuilder().add("ab").add("c").key(), KeyBuilder().add("a").add("bc").key());
    EXPECT_NE(KeyBuilder().key(), KeyBuilder().add("").key());
}

TEST(KeyBuilder, LongTextsCountWhole) {
    const std::string a(1000, 'x'), b = a.substr(0, 999) + "y";
    EXPECT_NE(KeyBuilder().add(a).key(), KeyBuilder().add(b).key());
}

}  // namespace dimhem::base
