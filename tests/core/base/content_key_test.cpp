#include "core/base/content_key.h"

#include <gtest/gtest.h>

#include <set>
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

// Whatever is added, in whatever pieces: another sequence has another key, also past what is hashed at once.
TEST(KeyBuilder, PiecesAreKeptApart) {
    EXPECT_NE(KeyBuilder().add(std::uint32_t{1}).add(std::uint32_t{0}).key(), KeyBuilder().add(std::uint64_t{1}).key());
    std::set<std::pair<std::uint64_t, std::uint64_t>> seen;
    for (int length = 0; length < 300; ++length) {
        KeyBuilder zeros, last;
        for (int i = 0; i < length; ++i) {
            zeros.add(0);
            last.add(i + 1 == length ? 1 : 0);
        }
        seen.insert({zeros.key().high, zeros.key().low});
        seen.insert({last.key().high, last.key().low});
    }
    EXPECT_EQ(seen.size(), 599u);  // of length 0 they are the same
}

TEST(KeyBuilder, LongTextsCountWhole) {
    const std::string a(1000, 'x'), b = a.substr(0, 999) + "y";
    EXPECT_NE(KeyBuilder().add(a).key(), KeyBuilder().add(b).key());
}

}  // namespace dimhem::base
