#include "core/base/nearest_word.h"

#include <gtest/gtest.h>

#include <array>

namespace dimhem::base {

TEST(NearestWord, IsWhatFewestLettersLeadTo) {
    constexpr std::array<std::string_view, 4> known{"render", "mask", "measure", "check"};
    EXPECT_EQ(nearestWord("rendre", known), "render");
    EXPECT_EQ(nearestWord("masks", known), "mask");
    EXPECT_EQ(nearestWord("meas", known), "measure") << "it begins so";
    EXPECT_EQ(nearestWord("check", known), "check");
    EXPECT_EQ(nearestWord("zzzzzz", known), "");
    EXPECT_EQ(nearestWord("", known), "");
}

}  // namespace dimhem::base
