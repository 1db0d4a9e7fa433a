#include "core/render/photo_source.h"

#include <gtest/gtest.h>

#include "core/colour/srgb.h"
#include "core/image/tiles.h"
#include "tests/support/pictures.h"
#include "tests/support/profiles.h"

namespace dimhem::render {

namespace {

std::shared_ptr<const PhotoSource> sourceOf(image::Photo photo) {
    auto source = PhotoSource::make(std::make_shared<const image::Photo>(std::move(photo)));
    return source ? *source : nullptr;
}

void fill(image::Photo& photo, int x, int y, std::initializer_list<int> values) {
    std::size_t c = 0;
    for (const int value : values)
        photo.samples.row(y)[static_cast<std::size_t>(x) * values.size() + c++] = static_cast<std::byte>(value);
}

struct Pixel {
    float r, g, b, alpha;
};

Pixel pixel(const PhotoSource& source, int level, int x, int y) {
    image::EncodedPlanes out({1, 1});
    image::Plane<float> alpha({1, 1});
    alpha.row(0)[0] = 1;
    source.read({x, y, x + 1, y + 1}, level, out, &alpha);
    return {out.red.row(0)[0], out.green.row(0)[0], out.blue.row(0)[0], alpha.row(0)[0]};
}

}  // namespace

TEST(PhotoSource, LevelsAverageLightNotCode) {
    image::Photo photo = tests::madePhoto({2, 2});
    for (int y = 0; y < 2; ++y) {
        fill(photo, 0, y, {0, 0, 0});
        fill(photo, 1, y, {255, 255, 255});
    }
    const auto source = sourceOf(std::move(photo));
    EXPECT_NEAR(pixel(*source, 1, 0, 0).r, colour::encodedFromLinear(0.5), 0.001);  // not 0.5
}

TEST(PhotoSource, TransparentPixelsHaveNoColourToGive) {
    image::Photo photo = tests::madePhoto({2, 2}, 4);
    fill(photo, 0, 0, {200, 40, 40, 255});
    fill(photo, 1, 0, {0, 255, 0, 0});
    fill(photo, 0, 1, {0, 255, 0, 0});
    fill(photo, 1, 1, {200, 40, 40, 255});
    const auto source = sourceOf(std::move(photo));
    const Pixel mean = pixel(*source, 1, 0, 0);
    EXPECT_NEAR(mean.r, 200 / 255.0, 0.002);
    EXPECT_NEAR(mean.g, 40 / 255.0, 0.002);
    EXPECT_NEAR(mean.alpha, 0.5, 0.001);
}

TEST(PhotoSource, OddSizesKeepTheirLastRowAndColumn) {
    image::Photo photo = tests::madePhoto({3, 3});
    for (int y = 0; y < 3; ++y) {
        for (int x = 0; x < 3; ++x) fill(photo, x, y, {x == 2 ? 255 : 0, y == 2 ? 255 : 0, 0});
    }
    const auto source = sourceOf(std::move(photo));
    EXPECT_NEAR(pixel(*source, 1, 1, 0).r, 1, 0.001);
    EXPECT_NEAR(pixel(*source, 1, 0, 1).g, 1, 0.001);
    EXPECT_NEAR(pixel(*source, 1, 0, 0).r, 0, 0.001);
}

TEST(PhotoSource, GreyPhotosHaveThreeEqualChannels) {
    const auto source = sourceOf(tests::madePhoto({40, 30}, 1, image::SampleType::u16));
    const Pixel p = pixel(*source, 0, 17, 9);
    EXPECT_EQ(p.r, p.g);
    EXPECT_EQ(p.g, p.b);
}

TEST(PhotoSource, LinearPhotosAreEncoded) {
    image::Photo photo = tests::madePhoto({8, 8}, 3, image::SampleType::f32);
    photo.linear = true;
    float sample;
    std::memcpy(&sample, photo.samples.row(3) + 3 * photo.samples.pixelBytes(), sizeof sample);
    const auto source = sourceOf(std::move(photo));
    EXPECT_NEAR(pixel(*source, 0, 3, 3).r, colour::encodedFromLinear(double{sample}), 1e-5);
}

TEST(PhotoSource, ProfilesAreAppliedAndWrongOnesRefused) {
    image::Photo plain = tests::madePhoto({8, 8}), wide = tests::madePhoto({8, 8}), wrong = tests::madePhoto({8, 8});
    wide.profile = tests::wideProfile();
    wrong.profile = {1, 2, 3, 4};
    const auto a = sourceOf(std::move(plain)), b = sourceOf(std::move(wide));
    ASSERT_TRUE(a && b);
    EXPECT_GT(
        std::abs(pixel(*a, 0, 3, 3).r - pixel(*b, 0, 3, 3).r) + std::abs(pixel(*a, 0, 3, 3).g - pixel(*b, 0, 3, 3).g),
        0.002f);
    EXPECT_NE(a->key(), b->key());
    EXPECT_EQ(sourceOf(std::move(wrong)), nullptr);
}

TEST(PhotoSource, StopsWhenCancelled) {
    base::CancelSource cancel;
    cancel.cancel();
    const auto source = PhotoSource::make(tests::sharedPhoto({600, 600}), {}, cancel.token());
    ASSERT_FALSE(source);
    EXPECT_EQ(source.error().code, base::ErrorCode::cancelled);
}

TEST(PhotoSource, HasEveryLevelDownToAPixel) {
    const auto source = sourceOf(tests::madePhoto({300, 20}));
    EXPECT_EQ(source->levels(), image::maxLevel + 1);
    const Pixel last = pixel(*source, image::maxLevel, 1, 0);
    EXPECT_GT(last.r, 0);
    EXPECT_LT(last.r, 1);
}

}  // namespace dimhem::render
