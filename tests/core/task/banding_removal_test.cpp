// What the banding correction makes of a photo, whole: a smooth slope in steps, a subject before it, grain.
#include <gtest/gtest.h>

#include <cmath>
#include <fstream>
#include <random>

#include "core/adjust/banding.h"
#include "core/io/png.h"
#include "core/task/export.h"
#include "core/task/measuring.h"
#include "tests/support/documents.h"
#include "tests/support/rendered.h"
#include "tests/support/temp_folder.h"

namespace dimhem::task {
namespace {

constexpr base::Size size{500, 380};
constexpr int subject = 300;  // everything to the right of it

// Levels of 255.
double clean(int x, int y, int c) {
    if (x >= subject) return 60 + 20 * std::sin(0.9 * x + c) * std::sin(0.7 * y);
    return 90 + 15 * c + 0.09 * x + 0.06 * y + 5 * std::sin(0.012 * x) * std::cos(0.009 * y);
}

std::shared_ptr<const render::PhotoSource> photoOf(double step, double grain, int seed = 3) {
    std::mt19937 random(static_cast<std::uint32_t>(seed));
    std::normal_distribution<double> normal;
    image::Photo photo;
    photo.format = "made";
    photo.samples = image::Samples(size, 3, image::SampleType::u8);
    for (int y = 0; y < size.height; ++y) {
        auto* to = reinterpret_cast<std::uint8_t*>(photo.samples.row(y));
        for (int x = 0; x < size.width; ++x) {
            for (int c = 0; c < 3; ++c) {
                const double v = clean(x, y, c), rung = x < subject ? step * std::round(v / step) : v;
                *to++ = static_cast<std::uint8_t>(std::lround(std::clamp(rung + grain * normal(random), 0.0, 255.0)));
            }
        }
    }
    return *render::PhotoSource::make(std::make_shared<const image::Photo>(std::move(photo)));
}

render::Renderer rendererOf(const std::shared_ptr<const render::PhotoSource>& photo, std::size_t bytes = 64 << 20) {
    return render::Renderer(photo, std::make_shared<render::TileCache>(bytes));
}

document::DocumentPtr correction(const std::shared_ptr<const render::PhotoSource>& photo, int keepTexture = 100) {
    return withAllMeasured(rendererOf(photo), tests::documentOf(R"([{"mask": {"starts": "everywhere"}, "adjustments": [
                              {"kind": "banding", "amount": 100, "keep-texture": )" +
                                                                std::to_string(keepTexture) + "}]}]"));
}

image::EncodedPlanes whole(const std::shared_ptr<const render::PhotoSource>& photo,
                           const document::DocumentPtr& document, int level = 0, int tilePx = 128) {
    return tests::assembled(rendererOf(photo), document, level, tilePx, {});
}

// Of means over squares of 8, in the slope, in levels; the worst single one as well.
struct Error {
    double rms = 0, worst = 0;
};
Error errorOf(const image::EncodedPlanes& picture, base::Rect where = {0, 0, subject - 8, size.height}) {
    double squares = 0, count = 0;
    Error error;
    const image::Plane<float>* planes[3] = {&picture.red, &picture.green, &picture.blue};
    for (int c = 0; c < 3; ++c) {
        for (int y = where.y0; y + 8 <= where.y1; y += 8) {
            for (int x = where.x0; x + 8 <= where.x1; x += 8) {
                double off = 0;
                for (int i = 0; i < 64; ++i) {
                    const int px = x + i % 8, py = y + i / 8;
                    off += 255 * double{planes[c]->row(py)[static_cast<std::size_t>(px)]} - clean(px, py, c);
                }
                off /= 64;
                squares += off * off;
                ++count;
                error.worst = std::max(error.worst, std::abs(off));
            }
        }
    }
    error.rms = std::sqrt(squares / count);
    return error;
}

TEST(BandingOfAPhoto, GoesWithAndWithoutGrain) {
    for (const double grain : {0.0, 1.2}) {
        const auto photo = photoOf(4, grain);
        const Error before = errorOf(whole(photo, tests::documentOf("[]"))),
                    after = errorOf(whole(photo, correction(photo)));
        EXPECT_GT(before.rms, 0.8);
        EXPECT_LT(after.rms, 0.5 * before.rms) << grain;
        EXPECT_LT(after.worst, before.worst) << grain;
    }
}

TEST(BandingOfAPhoto, GoesAtTheBorderAndInCornersToo) {
    const auto photo = photoOf(4, 0);
    const image::EncodedPlanes after = whole(photo, correction(photo));
    for (const base::Rect strip : {base::Rect{0, 0, 288, 16}, base::Rect{0, 364, 288, 380}, base::Rect{0, 0, 16, 376}})
        EXPECT_LT(errorOf(after, strip).worst, 1.7);
}

TEST(BandingOfAPhoto, TextureAndEdgesStay) {
    const auto photo = photoOf(4, 0);
    const image::EncodedPlanes before = whole(photo, tests::documentOf("[]")), after = whole(photo, correction(photo));
    double most = 0;
    for (int y = 0; y < size.height; ++y) {
        for (std::size_t x = subject + 2; x < static_cast<std::size_t>(size.width); ++x)
            most = std::max(most, std::abs(255 * double{after.green.row(y)[x] - before.green.row(y)[x]}));
    }
    EXPECT_LT(most, 0.3);
}

TEST(BandingOfAPhoto, GrainIsKeptOrGoesWithThem) {
    const auto photo = photoOf(4, 1.2);
    const auto grainOf = [](const image::EncodedPlanes& picture) {
        double squares = 0, count = 0;
        for (int y = 20; y < size.height - 20; ++y) {
            for (std::size_t x = 20; x < subject - 20; ++x) {
                const auto row = picture.green.row(y);
                const double second = 255 * double{row[x - 1] - 2 * row[x] + row[x + 1]};
                squares += second * second;
                ++count;
            }
        }
        return std::sqrt(squares / count / 6);  // as sigma of white noise
    };
    const double before = grainOf(whole(photo, tests::documentOf("[]")));
    EXPECT_GT(grainOf(whole(photo, correction(photo, 100))), 0.8 * before);
    EXPECT_LT(grainOf(whole(photo, correction(photo, 0))), 0.6 * before);
}

TEST(BandingOfAPhoto, ComesOutTheSameHoweverItIsCut) {
    const auto photo = photoOf(4, 0.8);
    const document::DocumentPtr document = correction(photo);
    const image::EncodedPlanes once = whole(photo, document);
    for (const int tilePx : {70, 256, 512}) EXPECT_TRUE(tests::sameBits(once, whole(photo, document, 0, tilePx)));
    EXPECT_TRUE(
        tests::sameBits(once, tests::assembled(rendererOf(photo, 1 << 20), document, 0, 128, base::Workers{1})));
    for (const int level : {1, 2, 5})
        EXPECT_TRUE(tests::sameBits(whole(photo, document, level), whole(photo, document, level, 90))) << level;
}

TEST(BandingOfAPhoto, WithoutBandsEveryBitStays) {
    for (int seed = 0; seed < 10; ++seed) {
        const auto photo = photoOf(0.01, 0.7 + 0.4 * seed, seed);
        EXPECT_TRUE(tests::sameBits(whole(photo, tests::documentOf("[]")), whole(photo, correction(photo)))) << seed;
    }
}

// What lies between the values of 8 bits stays there: on the mean, in a file of that depth.
TEST(BandingOfAPhoto, ExportsOfEightBitsAreDithered) {
    const tests::TempFolder folder;
    const auto photo = photoOf(4, 0);
    Opened opened;
    opened.photo = photo;
    opened.document = correction(photo);
    const image::EncodedPlanes exact = whole(photo, opened.document);
    for (const auto type : {image::SampleType::u8, image::SampleType::u16}) {
        const auto path = folder / (type == image::SampleType::u8 ? "8.png" : "16.png");
        ExportSettings settings;
        settings.type = type;
        ASSERT_TRUE(exportPicture(opened, opened.document, path, settings));
        const auto read = open(path);
        ASSERT_TRUE(read) << read.error().message;
        const image::EncodedPlanes written = whole(read->photo, tests::documentOf("[]"));
        double sum = 0, most = 0, count = 0;
        for (int y = 100; y < 104; ++y) {
            for (std::size_t x = 40; x < 240; ++x) {
                const double off = 255 * double{written.red.row(y)[x] - exact.red.row(y)[x]};
                sum += off;
                most = std::max(most, std::abs(off));
                ++count;
            }
        }
        EXPECT_LT(std::abs(sum / count), 0.1);
        if (type == image::SampleType::u8) {
            EXPECT_GT(most, 0.6) << "rounding alone is at most half a level";
        }
        if (type == image::SampleType::u16) {
            EXPECT_LT(most, 0.003);
        }
    }
}

}  // namespace
}  // namespace dimhem::task
