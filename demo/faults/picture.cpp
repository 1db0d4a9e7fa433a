#include "demo/faults/picture.h"

#include <algorithm>
#include <cmath>
#include <cstdio>

#include "core/colour/srgb.h"
#include "core/io/jpeg.h"
#include "core/io/png.h"
#include "core/io/registry.h"

namespace dimhem::demo {

Picture load(const fs::path& path) {
    const auto photo = io::readPhoto(path);
    if (!photo) {
        std::fprintf(stderr, "%s\n", photo.error().message.c_str());
        std::exit(1);
    }
    Picture picture{photo->size(), {}};
    const int channels = photo->samples.channels();
    std::vector<float> row(static_cast<std::size_t>(picture.size.width) * static_cast<std::size_t>(channels));
    for (int y = 0; y < picture.size.height; ++y) {
        photo->samples.readRow(y, 0, picture.size.width, row.data());
        for (int x = 0; x < picture.size.width; ++x) {
            for (int c = 0; c < 3; ++c)
                picture.rgb.push_back(row[static_cast<std::size_t>(x * channels + (channels >= 3 ? c : 0))]);
        }
    }
    return picture;
}

void save(const fs::path& path, Picture& picture, int channels, int quality, Picture* alpha) {
    io::Picture out;
    out.size = picture.size;
    out.channels = channels;
    out.quality = quality;
    out.rows = [&](int y0, int y1, std::byte* to) -> base::Result<void> {
        for (int y = y0; y < y1; ++y) {
            for (int x = 0; x < picture.size.width; ++x) {
                const auto byteOf = [](float v) {
                    return static_cast<std::byte>(std::clamp(v, 0.0f, 1.0f) * 255 + 0.5f);
                };
                for (int c = 0; c < std::min(channels, 3); ++c) *to++ = byteOf(picture.at(x, y)[c]);
                if (alpha) *to++ = byteOf(alpha->at(x, y)[0]);
            }
        }
        return {};
    };
    auto file = io::PendingFile::create(path, {});
    const io::Format& format = path.extension() == ".png" ? io::png : io::jpeg;
    if (!file || !format.write(*file, out) || !file->commit()) {
        std::fprintf(stderr, "%s could not be written\n", path.c_str());
        std::exit(1);
    }
}

float Noise::operator()() {
    const double u = (random_() + 1.0) / 4294967297.0, v = random_() / 4294967296.0;
    return static_cast<float>(std::sqrt(-2 * std::log(u)) * std::cos(2 * 3.14159265358979 * v));
}

Blotches::Blotches(base::Size size, int cellPx, std::uint32_t seed)
    : cellPx_(cellPx), columns_(size.width / cellPx + 2) {
    Noise noise(seed);
    values_.resize(static_cast<std::size_t>(columns_) * static_cast<std::size_t>(size.height / cellPx + 2));
    for (float& v : values_) v = noise();
}

float Blotches::at(int x, int y) const {
    const int cx = x / cellPx_, cy = y / cellPx_;
    const float fx = static_cast<float>(x % cellPx_) / static_cast<float>(cellPx_),
                fy = static_cast<float>(y % cellPx_) / static_cast<float>(cellPx_);
    const auto v = [&](int i, int j) { return values_[static_cast<std::size_t>(j * columns_ + i)]; };
    return (v(cx, cy) * (1 - fx) + v(cx + 1, cy) * fx) * (1 - fy) +
           (v(cx, cy + 1) * (1 - fx) + v(cx + 1, cy + 1) * fx) * fy;
}

void expose(float* pixel, double ev) {
    for (int c = 0; c < 3; ++c) {
        pixel[c] =
            static_cast<float>(colour::encodedFromLinear(colour::linearFromEncoded(double{pixel[c]}) * std::exp2(ev)));
    }
}

void scaleLight(float* pixel, double red, double green, double blue) {
    const double by[3] = {red, green, blue};
    for (int c = 0; c < 3; ++c)
        pixel[c] = static_cast<float>(colour::encodedFromLinear(colour::linearFromEncoded(double{pixel[c]}) * by[c]));
}

double luminanceOf(const float* pixel) {
    return colour::luminance(colour::linearFromEncoded(colour::EncodedRgb{pixel[0], pixel[1], pixel[2]}));
}

double smooth(double t) {
    t = std::clamp(t, 0.0, 1.0);
    return t * t * (3 - 2 * t);
}

}  // namespace dimhem::demo
