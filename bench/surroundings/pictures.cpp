#include "bench/surroundings/pictures.h"

#include <chrono>
#include <cmath>
#include <stdexcept>

#include "core/colour/ciede2000.h"
#include "core/colour/lab.h"
#include "core/document/json_format.h"
#include "core/image/tiles.h"
#include "core/io/file_bytes.h"
#include "core/io/registry.h"
#include "core/task/measuring.h"

namespace dimhem::surroundings {

namespace {

double millisecondsOf(const std::function<void()>& work) {
    const auto from = std::chrono::steady_clock::now();
    work();
    return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - from).count();
}

}  // namespace

image::EncodedPlanes pictureOf(const render::PhotoSource& photo) {
    image::EncodedPlanes out(photo.size());
    photo.read(base::rectOf(photo.size()), 0, out);
    return out;
}

image::EncodedPlanes readPicture(const std::string& path) {
    const auto bytes = io::readFile(path);
    if (!bytes) throw std::runtime_error(bytes.error().message);
    auto photo = io::readPhoto(*bytes, path);
    if (!photo) throw std::runtime_error(photo.error().message);
    return pictureOf(**render::PhotoSource::make(std::make_shared<const image::Photo>(std::move(*photo))));
}

image::EncodedPlanes copied(const image::EncodedPlanes& picture) {
    image::EncodedPlanes out;
    out.red = image::copied(picture.red);
    out.green = image::copied(picture.green);
    out.blue = image::copied(picture.blue);
    return out;
}

std::shared_ptr<const render::PhotoSource> photoOf(const image::EncodedPlanes& picture) {
    image::Photo photo;
    photo.format = "made";
    photo.samples = image::Samples(picture.size(), 3, image::SampleType::u8);
    for (int y = 0; y < picture.size().height; ++y) {
        auto* to = reinterpret_cast<std::uint8_t*>(photo.samples.row(y));
        for (std::size_t x = 0; x < static_cast<std::size_t>(picture.size().width); ++x) {
            for (const float v : {picture.red.row(y)[x], picture.green.row(y)[x], picture.blue.row(y)[x]})
                *to++ = static_cast<std::uint8_t>(std::lround(255 * std::clamp(v, 0.0f, 1.0f)));
        }
    }
    return *render::PhotoSource::make(std::make_shared<const image::Photo>(std::move(photo)));
}

image::EncodedPlanes withNoise(const image::EncodedPlanes& picture, const std::function<double(double)>& sigma,
                               std::uint32_t seed) {
    std::mt19937 random(seed);
    std::normal_distribution<double> normal;
    image::EncodedPlanes out = copied(picture);
    for (image::Plane<float>* plane : {&out.red, &out.green, &out.blue}) {
        for (int y = 0; y < plane->size().height; ++y) {
            for (float& v : plane->row(y)) v += static_cast<float>(normal(random) * sigma(double{v}) / 255);
        }
    }
    return out;
}

document::DocumentPtr correctedEverywhere(const std::string& adjustment) {
    const auto document = document::fromJsonText(
        R"({"format": "dim-hem-document", "version": 1, "photo": {"path": "photo.png"}, "corrections":
            [{"mask": {"starts": "everywhere"}, "adjustments": [)" +
        adjustment + "]}]}");
    if (!document) throw std::runtime_error(document.error().message);
    return *document;
}

Corrected corrected(const std::shared_ptr<const render::PhotoSource>& photo, const std::string& adjustment) {
    const render::Renderer renderer(photo, std::make_shared<render::TileCache>());
    document::DocumentPtr document = correctedEverywhere(adjustment);
    Corrected out{image::EncodedPlanes(photo->size())};
    out.measuringMs = millisecondsOf([&] { document = task::withAllMeasured(renderer, document); });
    const render::Sequence sequence(document, {});
    out.renderingMs = millisecondsOf([&] {
        renderer.picture(sequence, {base::rectOf(photo->size()), 0}, out.picture);
    });
    return out;
}

Difference differenceOf(const image::EncodedPlanes& a, const image::EncodedPlanes& b,
                        const image::Plane<float>& where) {
    double squares = 0, deltaE = 0, count = 0;
    for (int y = 0; y < a.size().height; ++y) {
        for (std::size_t x = 0; x < static_cast<std::size_t>(a.size().width); ++x) {
            if (!where.size().empty() && where.row(y)[x] <= 0.5f) continue;
            const auto at = [&](const image::EncodedPlanes& p) {
                const auto held = [](float v) { return std::clamp(double{v}, 0.0, 1.0); };
                return colour::EncodedRgb{held(p.red.row(y)[x]), held(p.green.row(y)[x]), held(p.blue.row(y)[x])};
            };
            const colour::EncodedRgb p = at(a), q = at(b);
            squares += (p.r - q.r) * (p.r - q.r) + (p.g - q.g) * (p.g - q.g) + (p.b - q.b) * (p.b - q.b);
            deltaE += colour::ciede2000(colour::labFromEncoded(p), colour::labFromEncoded(q));
            ++count;
        }
    }
    return {10 * std::log10(3 * count / squares), deltaE / count};
}

double megapixels(base::Size size) {
    return static_cast<double>(size.width) * size.height / 1e6;
}

}  // namespace dimhem::surroundings
