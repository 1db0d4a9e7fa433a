#include "bench/engine/photos.h"

#include <lcms2.h>
#include <unistd.h>

#include <cmath>
#include <cstring>
#include <filesystem>
#include <map>
#include <random>

#include "core/base/parallel.h"
#include "core/io/jpeg.h"
#include "core/io/registry.h"
#include "core/io/tiff.h"

namespace dimhem::bench {

namespace {

// The primaries of SMPTE EG 432-1 with the white and the curve of IEC 61966-2-1; values from memory.
std::vector<std::uint8_t> displayP3() {
    const cmsCIExyY white = {0.3127, 0.3290, 1};
    const cmsCIExyYTRIPLE primaries = {{0.680, 0.320, 1}, {0.265, 0.690, 1}, {0.150, 0.060, 1}};
    const double srgb[] = {2.4, 1 / 1.055, 0.055 / 1.055, 1 / 12.92, 0.04045};
    cmsToneCurve* curve = cmsBuildParametricToneCurve(nullptr, 4, srgb);
    cmsToneCurve* curves[3] = {curve, curve, curve};
    cmsHPROFILE profile = cmsCreateRGBProfile(&white, &primaries, curves);
    cmsUInt32Number size = 0;
    cmsSaveProfileToMem(profile, nullptr, &size);
    std::vector<std::uint8_t> out(size);
    cmsSaveProfileToMem(profile, out.data(), &size);
    cmsCloseProfile(profile);
    cmsFreeToneCurve(curve);
    return out;
}

// Values 0..255, with a fraction.
void makeRow(base::Size size, int y, std::mt19937& random, double* rgb) {
    for (int x = 0; x < size.width; ++x) {
        const double v =
            110 + 60 * std::sin(x * 0.002 + std::cos(y * 0.003)) + 25 * std::sin(x * 0.11) * std::sin(y * 0.07);
        const double noise = static_cast<double>(random() % 1700) / 100 - 8;
        for (int c = 0; c < 3; ++c) *rgb++ = std::clamp(v + noise + 18 * c - 0.008 * y * c, 0.0, 255.0);
    }
}

std::vector<std::uint8_t> fileOf(const io::Format& format, const image::Photo& photo) {
    io::Picture picture;
    picture.size = photo.size();
    picture.type = photo.samples.type();
    picture.rows = [&](int y0, int y1, std::byte* rows) -> base::Result<void> {
        for (int y = y0; y < y1; ++y, rows += photo.samples.rowBytes())
            std::memcpy(rows, photo.samples.row(y), photo.samples.rowBytes());
        return {};
    };
    const std::string path =
        "/tmp/dimhem-bench-" + std::to_string(::getpid()) + "." + std::string(format.extensions[0]);
    auto file = io::PendingFile::create(path, {});
    (void)format.write(*file, picture);
    (void)file->commit();
    auto bytes = *io::readFile(path);
    std::filesystem::remove(path);
    return bytes;
}

}  // namespace

image::Photo madePhoto(base::Size size, PhotoKind kind) {
    image::Photo photo;
    const bool deep = kind == PhotoKind::tiff16, alpha = kind == PhotoKind::alpha;
    photo.samples = image::Samples(size, alpha ? 4 : 3, deep ? image::SampleType::u16 : image::SampleType::u8);
    if (kind == PhotoKind::displayP3) photo.profile = displayP3();
    base::parallelForAll(static_cast<std::size_t>(size.height), {}, {}, [&](std::size_t row) {
        const int y = static_cast<int>(row);
        std::mt19937 random(static_cast<unsigned>(24 + y));
        std::vector<double> rgb(static_cast<std::size_t>(size.width) * 3);
        makeRow(size, y, random, rgb.data());
        auto* bytes = reinterpret_cast<std::uint8_t*>(photo.samples.row(y));
        auto* words = reinterpret_cast<std::uint16_t*>(photo.samples.row(y));
        for (std::size_t i = 0; i < rgb.size(); ++i) {
            if (deep) {
                *words++ = static_cast<std::uint16_t>(rgb[i] * 257);
            } else {
                *bytes++ = static_cast<std::uint8_t>(rgb[i]);
                if (alpha && i % 3 == 2) *bytes++ = static_cast<std::uint8_t>(255 - (i / 3) % 100);
            }
        }
    });
    return photo;
}

const std::vector<std::uint8_t>& jpegFile() {
    static const auto bytes = fileOf(io::jpeg, madePhoto(photo24));
    return bytes;
}

const std::vector<std::uint8_t>& tiffFile() {
    static const auto bytes = fileOf(io::tiff, madePhoto(photo24, PhotoKind::tiff16));
    return bytes;
}

const std::shared_ptr<const render::PhotoSource>& sourceOf(base::Size size, PhotoKind kind) {
    static std::map<std::tuple<int, int, PhotoKind>, std::shared_ptr<const render::PhotoSource>> made;
    auto& source = made[{size.width, size.height, kind}];
    if (!source) source = *render::PhotoSource::make(std::make_shared<const image::Photo>(madePhoto(size, kind)));
    return source;
}

}  // namespace dimhem::bench
