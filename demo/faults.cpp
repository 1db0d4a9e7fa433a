// Puts known, seeded faults into the clean renders of the demo scenes and writes photo and truth.
//
//   demo_faults RENDERS OUT    RENDERS holds what demo/render.sh made
#include <algorithm>
#include <cmath>
#include <cstdio>
#include <cstring>
#include <filesystem>
#include <random>

#include "core/colour/srgb.h"
#include "core/io/jpeg.h"
#include "core/io/png.h"
#include "core/io/registry.h"

namespace {

using namespace dimhem;
namespace fs = std::filesystem;

struct Picture {
    base::Size size;
    std::vector<float> rgb;  // encoded sRGB, interleaved
    float* at(int x, int y) {
        return rgb.data() +
               3 * (static_cast<std::size_t>(y) * static_cast<std::size_t>(size.width) + static_cast<std::size_t>(x));
    }
};

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

void save(const fs::path& path, Picture& picture, int channels, int quality) {
    io::Picture out;
    out.size = picture.size;
    out.channels = channels;
    out.quality = quality;
    out.rows = [&](int y0, int y1, std::byte* to) -> base::Result<void> {
        for (int y = y0; y < y1; ++y) {
            for (int x = 0; x < picture.size.width; ++x) {
                for (int c = 0; c < channels; ++c)
                    *to++ = static_cast<std::byte>(std::clamp(picture.at(x, y)[c], 0.0f, 1.0f) * 255 + 0.5f);
            }
        }
        return {};
    };
    auto file = io::PendingFile::create(path);
    const io::Format& format = path.extension() == ".png" ? io::png : io::jpeg;
    if (!file || !format.write(*file, out) || !file->commit()) {
        std::fprintf(stderr, "%s could not be written\n", path.c_str());
        std::exit(1);
    }
}

// Normal noise, the same for the same seed on every machine: Box and Muller over a fixed generator.
class Noise {
public:
    explicit Noise(std::uint32_t seed) : random_(seed) {}
    float operator()() {
        const double u = (random_() + 1.0) / 4294967297.0, v = random_() / 4294967296.0;
        return static_cast<float>(std::sqrt(-2 * std::log(u)) * std::cos(2 * 3.14159265358979 * v));
    }

private:
    std::mt19937 random_;
};

// Colour noise comes in blotches: a coarse grid of normal values, interpolated.
class Blotches {
public:
    Blotches(base::Size size, int cellPx, std::uint32_t seed) : cellPx_(cellPx), columns_(size.width / cellPx + 2) {
        Noise noise(seed);
        values_.resize(static_cast<std::size_t>(columns_) * static_cast<std::size_t>(size.height / cellPx + 2));
        for (float& v : values_) v = noise();
    }
    float at(int x, int y) const {
        const int cx = x / cellPx_, cy = y / cellPx_;
        const float fx = static_cast<float>(x % cellPx_) / static_cast<float>(cellPx_),
                    fy = static_cast<float>(y % cellPx_) / static_cast<float>(cellPx_);
        const auto v = [&](int i, int j) { return values_[static_cast<std::size_t>(j * columns_ + i)]; };
        return (v(cx, cy) * (1 - fx) + v(cx + 1, cy) * fx) * (1 - fy) +
               (v(cx, cy + 1) * (1 - fx) + v(cx + 1, cy + 1) * fx) * fy;
    }

private:
    int cellPx_, columns_;
    std::vector<float> values_;
};

void expose(float* pixel, double ev) {
    for (int c = 0; c < 3; ++c) {
        pixel[c] =
            static_cast<float>(colour::encodedFromLinear(colour::linearFromEncoded(double{pixel[c]}) * std::exp2(ev)));
    }
}

double smooth(double t) {
    t = std::clamp(t, 0.0, 1.0);
    return t * t * (3 - 2 * t);
}

// Noise everywhere, banding in the sky: steps of four 8-bit levels, as a sky stretched too far shows them.
void makeTowerDusk(const fs::path& renders, const fs::path& out) {
    Picture photo = load(renders / "tower.png"), sky = load(renders / "tower-matte1.png"),
            tower = load(renders / "tower-matte2.png");
    save(out / "truth/tower-dusk-clean.jpg", photo, 3, 97);
    save(out / "truth/tower-dusk-sky.png", sky, 1, 0);
    save(out / "truth/tower-dusk-tower.png", tower, 1, 0);
    Noise noise(1871);
    const Blotches red(photo.size, 5, 7), blue(photo.size, 6, 11);
    for (int y = 0; y < photo.size.height; ++y) {
        for (int x = 0; x < photo.size.width; ++x) {
            float* p = photo.at(x, y);
            const float inSky = sky.at(x, y)[0];
            constexpr float steps = 255.0f / 4;
            for (int c = 0; c < 3; ++c) p[c] += inSky * (std::round(p[c] * steps) / steps - p[c]);
            const float sigma = 0.020f - 0.013f * inSky;
            const float grey = noise() * sigma;
            p[0] += grey + red.at(x, y) * sigma * 0.7f;
            p[1] += grey - (red.at(x, y) + blue.at(x, y)) * sigma * 0.2f;
            p[2] += grey + blue.at(x, y) * sigma * 0.9f;
        }
    }
    save(out / "tower-dusk.jpg", photo, 3, 92);
}

// The ground up to 1.7 stops too dark, most of all at the bottom; the sky up to 0.6 stops too light, most at the top.
void makeBayGradient(const fs::path& renders, const fs::path& out) {
    Picture photo = load(renders / "bay.png"), sky = load(renders / "bay-matte1.png"),
            ground = load(renders / "bay-matte3.png");
    save(out / "truth/bay-gradient-clean.jpg", photo, 3, 97);
    save(out / "truth/bay-gradient-sky.png", sky, 1, 0);
    save(out / "truth/bay-gradient-ground.png", ground, 1, 0);
    Noise noise(1902);
    const double height = photo.size.height;
    for (int y = 0; y < photo.size.height; ++y) {
        for (int x = 0; x < photo.size.width; ++x) {
            float* p = photo.at(x, y);
            expose(p, 0.6 * (1 - smooth(y / (0.52 * height))) * double{sky.at(x, y)[0]} -
                          1.7 * smooth((y - 0.60 * height) / (0.36 * height)) * double{ground.at(x, y)[0]});
            const float grey = noise() * 0.005f;
            for (int c = 0; c < 3; ++c) p[c] += grey;
        }
    }
    save(out / "bay-gradient.jpg", photo, 3, 92);
}

}  // namespace

int main(int argc, char** argv) {
    if (argc != 3) {
        std::fprintf(stderr, "usage: demo_faults RENDERS OUT\n");
        return 2;
    }
    fs::create_directories(fs::path(argv[2]) / "truth");
    makeTowerDusk(argv[1], argv[2]);
    makeBayGradient(argv[1], argv[2]);
}
