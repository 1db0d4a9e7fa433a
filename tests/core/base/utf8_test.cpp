#include "core/base/utf8.h"

#include <gtest/gtest.h>

#include <random>

namespace dimhem::base {

// The valid and invalid forms of RFC 3629, sections 3 and 4.
TEST(Utf8, IsToldFromOtherBytes) {
    for (const char* text : {"", "plain", "\xc3\xa9", "\xe2\x82\xac", "\xf0\x9f\x8e\x9e", "\xf4\x8f\xbf\xbf"})
        EXPECT_TRUE(isUtf8(text)) << text;
    for (const char* text : {"caf\xe9", "\xc0\xaf", "\xe0\x80\x80", "\xed\xa0\x80", "\xf4\x90\x80\x80", "\xff", "\xc3"})
        EXPECT_FALSE(isUtf8(text)) << text;
}

TEST(Utf8, BytesOfLatin1BecomeItsCharacters) {
    EXPECT_EQ(asUtf8("caf\xe9"), "caf\xc3\xa9");
    EXPECT_EQ(asUtf8("caf\xc3\xa9"), "caf\xc3\xa9");
}

TEST(Utf8, AnyBytesComeBackFromPercentSigns) {
    std::mt19937 random(3);
    for (int round = 0; round < 200; ++round) {
        std::string bytes(random() % 40, ' ');
        for (char& c : bytes) c = static_cast<char>(random());
        const std::string text = percentEncoded(bytes);
        EXPECT_EQ(percentDecoded(text), bytes);
        EXPECT_TRUE(isUtf8(text));
    }
    EXPECT_EQ(percentEncoded("a b/%"), "a%20b/%25");
    EXPECT_EQ(percentDecoded("%4"), "%4") << "what is cut off stands for itself";
}

}  // namespace dimhem::base
