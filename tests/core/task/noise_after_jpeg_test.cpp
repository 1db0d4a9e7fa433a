// Noise that went through a JPEG file is still measured: the grid its blocks lie on is kept out of.
#include <gtest/gtest.h>

#include <cmath>
#include <random>

#include "core/adjust/noise_level.h"
#include "core/io/jpeg.h"
#include "core/io/registry.h"
#include "core/render/photo_source.h"
#include "tests/support/temp_folder.h"

namespace dimhem::task {
namespace {

constexpr base::Size size{800, 600};

adjust::NoiseLevel measured(const image::EncodedPlanes& picture, const image::Plane<float>& coverage = {}) {
    adjust::NoiseMeter meter;
    meter.add(picture, coverage);
    return meter.level();
}

double clean(int x, int y) {
    return 50 + 150.0 * x / size.width + 12 * std::sin(y * 0.03);
}

// A grey ramp with waves and independent noise, of 255, as a JPEG file of quality 92 gives it back.
image::EncodedPlanes throughJpeg(double sigma, const std::filesystem::path& path) {
    std::mt19937 random(4);
    std::normal_distribution<double> normal;
    io::Picture picture;
    picture.size = size;
    picture.rows = [&](int y0, int y1, std::byte* to) -> base::Result<void> {
        for (int y = y0; y < y1; ++y) {
            for (int x = 0; x < size.width; ++x) {
                const double v = clean(x, y);
                for (int c = 0; c < 3; ++c)
                    *to++ = static_cast<std::byte>(std::clamp(v + sigma * normal(random) + 0.5, 0.0, 255.0));
            }
        }
        return {};
    };
    auto file = io::PendingFile::create(path, {});
    EXPECT_TRUE(io::jpeg.write(*file, picture));
    EXPECT_TRUE(file->commit());
    const auto bytes = *io::readFile(path);
    const auto source =
        *render::PhotoSource::make(std::make_shared<const image::Photo>(*io::readPhoto(bytes, "noisy.jpg")));
    image::EncodedPlanes out(size);
    source->read(base::rectOf(size), 0, out);
    return out;
}

// What is left of the noise in Y: files hold colour at half the size, so that it is not what went in.
double noiseLeft(const image::EncodedPlanes& picture) {
    double sum = 0;
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const auto i = static_cast<std::size_t>(x);
            const double luminance = (picture.red.row(y)[i] + picture.green.row(y)[i] + picture.blue.row(y)[i]) / 3;
            sum += std::pow(luminance - clean(x, y) / 255, 2);
        }
    }
    return std::sqrt(sum / (size.width * size.height));
}

TEST(NoiseLevel, IsMeasuredAfterJpegOfQuality92) {
    const tests::TempFolder folder;
    for (const double sigma : {5.0, 10.0, 20.0}) {
        const image::EncodedPlanes picture = throughJpeg(sigma, folder / "noisy.jpg");
        const double left = noiseLeft(picture);
        EXPECT_NEAR(measured(picture).y.overall, left, 0.25 * left) << sigma;
    }
}

}  // namespace
}  // namespace dimhem::task
