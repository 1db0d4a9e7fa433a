#include "core/task/sample_rows.h"

#include <gtest/gtest.h>

#include "tests/support/pictures.h"
#include "tests/support/profiles.h"

namespace dimhem::task {

using image::SampleType;

TEST(SampleRows, KeepTheChannelsAndProfileOfAPhotoWherePossible) {
    image::Photo grey = tests::madePhoto({4, 4}, 2);
    EXPECT_EQ(SampleRows::make(grey, SampleType::u8, true, false)->channels(), 2);
    EXPECT_EQ(SampleRows::make(grey, SampleType::u8, false, false)->channels(), 1);
    EXPECT_EQ(SampleRows::make(grey, SampleType::u8, true, true)->channels(), 4);
    image::Photo wide = tests::madePhoto({4, 4});
    wide.profile = tests::wideProfile();
    EXPECT_EQ(SampleRows::make(wide, SampleType::u16, true, true)->profile(), tests::wideProfile());
    EXPECT_EQ(SampleRows::make(wide, SampleType::u16, true, true)->pixelBytes(), 6u);
    image::Photo exr = tests::madePhoto({4, 4}, 3, SampleType::f32);
    exr.linear = true;
    EXPECT_EQ(SampleRows::make(exr, SampleType::u16, true, false)->profile(), colour::srgbProfile());
}

TEST(SampleRows, RoundToNearestAndClipIntegers) {
    const auto source = *render::PhotoSource::make(tests::sharedPhoto({3, 1}));
    const auto rows = SampleRows::make(source->photo(), SampleType::u16, false, true);
    image::EncodedPlanes picture({3, 1});
    const float values[] = {-0.5f, 0.50001f, 7.0f};
    for (std::size_t x = 0; x < 3; ++x)
        picture.red.row(0)[x] = picture.green.row(0)[x] = picture.blue.row(0)[x] = values[x];
    std::uint16_t out[9];
    rows->pack(*source, {0, 0, 3, 1}, &picture, reinterpret_cast<std::byte*>(out), sizeof out);
    EXPECT_EQ(out[0], 0);
    EXPECT_EQ(out[3], 32768);
    EXPECT_EQ(out[8], 65535);
}

TEST(SampleRows, ACutOutGoesOnWhiteWhereThereIsNoAlpha) {
    const auto source = *render::PhotoSource::make(tests::sharedPhoto({256, 1}, 4));  // alpha rises from the left
    const auto rows = SampleRows::make(source->photo(), SampleType::u8, false, true);
    image::EncodedPlanes picture({256, 1});
    for (std::size_t x = 0; x < 256; ++x) picture.red.row(0)[x] = picture.green.row(0)[x] = picture.blue.row(0)[x] = 0;
    std::uint8_t out[256 * 3];
    rows->pack(*source, {0, 0, 256, 1}, &picture, reinterpret_cast<std::byte*>(out), sizeof out);
    EXPECT_EQ(out[0], 255);
    EXPECT_NEAR(out[3 * 128], 127, 2);
    EXPECT_LT(out[3 * 255], 3);
}

}  // namespace dimhem::task
