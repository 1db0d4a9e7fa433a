#include "core/colour/icc.h"

#include <gtest/gtest.h>
#include <lcms2.h>

#include <algorithm>
#include <cmath>

#include "core/colour/srgb.h"
#include "tests/support/profiles.h"

namespace dimhem::colour {

TEST(Icc, SrgbIsRecognisedAndWideGamutIsNot) {
    EXPECT_TRUE(isSrgb(srgbProfile()));
    EXPECT_FALSE(isSrgb(tests::wideProfile()));
    EXPECT_FALSE(isSrgb(std::vector<std::uint8_t>{1, 2, 3}));
}

// Little CMS itself is the reference: its own 8 and 16 bit conversion to linear sRGB.
TEST(Icc, ToWorkingAgreesWithLittleCms) {
    const auto& bytes = tests::wideProfile();
    const auto ours = IccTransform::toWorking(bytes, 3);
    ASSERT_TRUE(ours);
    cmsHPROFILE photo = cmsOpenProfileFromMem(bytes.data(), static_cast<cmsUInt32Number>(bytes.size()));
    cmsHPROFILE srgb = cmsCreate_sRGBProfile();
    cmsHTRANSFORM to8 =
        cmsCreateTransform(photo, TYPE_RGB_8, srgb, TYPE_RGB_8, INTENT_RELATIVE_COLORIMETRIC, cmsFLAGS_NOOPTIMIZE);
    cmsHTRANSFORM to16 =
        cmsCreateTransform(photo, TYPE_RGB_16, srgb, TYPE_RGB_16, INTENT_RELATIVE_COLORIMETRIC, cmsFLAGS_NOOPTIMIZE);
    for (int i = 0; i < 200; ++i) {
        const std::uint8_t in8[3] = {static_cast<std::uint8_t>(60 + i % 120), static_cast<std::uint8_t>(80 + i % 90),
                                     static_cast<std::uint8_t>(70 + i % 100)};
        const std::uint16_t in16[3] = {static_cast<std::uint16_t>(in8[0] * 257),
                                       static_cast<std::uint16_t>(in8[1] * 257),
                                       static_cast<std::uint16_t>(in8[2] * 257)};
        std::uint8_t out8[3];
        std::uint16_t out16[3];
        cmsDoTransform(to8, in8, out8, 1);
        cmsDoTransform(to16, in16, out16, 1);
        const float in[3] = {in8[0] / 255.0f, in8[1] / 255.0f, in8[2] / 255.0f};
        float linear[3];
        ours->row(in, linear, 1);
        for (int c = 0; c < 3; ++c) {
            const double encoded = std::clamp(encodedFromLinear(double{linear[c]}), 0.0, 1.0);
            EXPECT_EQ(std::lround(encoded * 255), out8[c]) << i << " channel " << c;
            EXPECT_NEAR(encoded * 65535, out16[c], 1.5) << i << " channel " << c;
        }
    }
    cmsDeleteTransform(to8);
    cmsDeleteTransform(to16);
    cmsCloseProfile(srgb);
    cmsCloseProfile(photo);
}

TEST(Icc, ThereAndBackGivesTheSameColour) {
    const auto to = IccTransform::toWorking(tests::wideProfile(), 3),
               from = IccTransform::fromWorking(tests::wideProfile(), 3);
    ASSERT_TRUE(to && from);
    for (float v = 0.02f; v < 1; v += 0.05f) {
        const float in[3] = {v, 1 - v, 0.5f};
        float linear[3], back[3];
        to->row(in, linear, 1);
        from->row(linear, back, 1);
        for (int c = 0; c < 3; ++c) EXPECT_NEAR(back[c], in[c], 0.5 / 65535) << v;
    }
}

TEST(Icc, DamagedOrUnfittingProfilesAreErrors) {
    EXPECT_EQ(IccTransform::toWorking(std::vector<std::uint8_t>{9, 9, 9}, 3).error().code, base::ErrorCode::damaged);
    EXPECT_EQ(IccTransform::toWorking(srgbProfile(), 1).error().code, base::ErrorCode::unsupported);
}

TEST(Icc, NamesTheProfile) {
    EXPECT_EQ(profileName(tests::wideProfile()), "made wide gamut");
}

}  // namespace dimhem::colour
