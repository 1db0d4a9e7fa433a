#include "core/mask/coverage.h"

#include <gtest/gtest.h>

#include <algorithm>

#include "core/json/fields.h"

namespace dimhem::mask {

namespace {

image::Plane<std::uint16_t> plane(base::Size size, std::uint16_t value) {
    image::Plane<std::uint16_t> out(size);
    for (int y = 0; y < size.height; ++y) std::fill_n(out.row(y).data(), size.width, value);
    return out;
}

}  // namespace

TEST(Coverage, OfEqualPixelsKeepsOneValueOnly) {
    const Coverage equal(plane({9, 7}, 1234));
    ASSERT_TRUE(equal.isConstant());
    EXPECT_EQ(equal.value(), 1234);
    EXPECT_FALSE(equal.isEmpty());
    EXPECT_LT(equal.bytes(), 200u);
    EXPECT_TRUE(Coverage(plane({9, 7}, 0)).isEmpty());
}

TEST(Coverage, OfUnequalPixelsKeepsThem) {
    auto pixels = plane({9, 7}, 5);
    pixels.row(6)[8] = 6;
    const Coverage mixed(std::move(pixels));
    ASSERT_FALSE(mixed.isConstant());
    EXPECT_EQ(mixed.row(6)[8], 6);
    EXPECT_EQ(mixed.row(0)[0], 5);
    EXPECT_GE(mixed.bytes(), 9u * 7 * 2);
}

TEST(Coverage, CopiesAreTheCallersOwn) {
    const Coverage constant(std::uint16_t{77});
    auto copy = constant.copy({3, 2});
    copy.row(1)[2] = 0;
    EXPECT_EQ(constant.value(), 77);
    EXPECT_EQ(copy.row(0)[0], 77);
}

TEST(Area, KnowsThePhotosPlacesAtItsLevel) {
    const Area area{{0, 0, 10, 10}, 3};
    EXPECT_EQ(area.scale(), 8);
    EXPECT_EQ(area.toLevel({80, 4}), (base::Point{10, 0.5}));
    EXPECT_NE(keyOf(area).key(), keyOf({{0, 0, 10, 10}, 2}).key());
    EXPECT_NE(keyOf(area).key(), keyOf({{0, 0, 10, 11}, 3}).key());
}

TEST(JsonFields, SayWhichMemberIsWrong) {
    const auto object = nlohmann::json::parse(R"({"n": 4, "t": "x", "b": true, "nan": null})");
    EXPECT_EQ(*fields::readNumber(object, "n"), 4);
    EXPECT_NE(fields::readNumber(object, "t").error().message.find("\"t\""), std::string::npos);
    EXPECT_FALSE(fields::readNumber(object, "missing"));
    const double fallback = 9;
    EXPECT_EQ(*fields::readNumber(object, "missing", &fallback), 9);
    EXPECT_FALSE(fields::readNumber(object, "nan", &fallback));
    EXPECT_EQ(*fields::readText(object, "t", ""), "x");
    EXPECT_EQ(*fields::readText(object, "missing", "usual"), "usual");
    EXPECT_FALSE(fields::readText(object, "n", ""));
    EXPECT_TRUE(*fields::readBool(object, "b", false));
    EXPECT_FALSE(fields::readBool(object, "n", false));
}

TEST(JsonFields, TogglesAreTrueOrFalseAndNothingElse) {
    const base::ParamSpec toggle{"b", "B", "", 0, 1, 0, 1, 0, "tip", base::Scale::linear, true};
    EXPECT_EQ(*fields::readParam(nlohmann::json::parse(R"({"b": true})"), toggle), 1);
    EXPECT_EQ(*fields::readParam(nlohmann::json::parse(R"({"b": false})"), toggle), 0);
    EXPECT_EQ(*fields::readParam(nlohmann::json::parse(R"({})"), toggle), 0);
    for (const char* wrong : {R"({"b": 0})", R"({"b": 1})", R"({"b": 0.5})", R"({"b": "on"})", R"({"b": null})"})
        EXPECT_FALSE(fields::readParam(nlohmann::json::parse(wrong), toggle)) << wrong;
}

}  // namespace dimhem::mask
