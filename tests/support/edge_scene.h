// A subject before a background, both of known colour, with a known matte: what the tools that keep to edges are tested
// on. Everything is a function of the place, so that every level and tile sees the same.
#pragma once

#include <cmath>
#include <cstdint>
#include <functional>

#include "core/colour/srgb.h"
#include "core/edge/guide.h"
#include "core/image/photo.h"
#include "core/mask/context.h"

namespace dimhem::tests {

struct EdgeScene {
    base::Size size{240, 180};
    colour::LinearRgb subject{0.35, 0.16, 0.08}, backdrop{0.12, 0.22, 0.42};
    double grain = 0.01;                                // of the encoded values, to either side
    double softPx = 1;                                  // from full to none
    std::function<double(double x, double y)> outside;  // distance from the subject's edge, below 0 within it

    EdgeScene() {
        outside = [](double x, double y) { return std::hypot(x - 110, y - 90) - 55 + 4 * std::sin(x / 9); };
    }

    double matteAt(double x, double y) const { return std::clamp(0.5 - outside(x, y) / softPx, 0.0, 1.0); }

    // The same for a place whenever it is asked for.
    static double noiseAt(double x, double y, int channel) {
        auto h = static_cast<std::uint32_t>(static_cast<int>(x * 4)) * 73856093u ^
                 static_cast<std::uint32_t>(static_cast<int>(y * 4)) * 19349663u ^
                 static_cast<std::uint32_t>(channel + 1) * 83492791u;
        h ^= h >> 13;
        h *= 0x5bd1e995u;
        h ^= h >> 15;
        return (h & 0xffff) / 32768.0 - 1;
    }

    // Mixed in linear light, then encoded.
    colour::EncodedRgb at(double x, double y) const {
        const double a = matteAt(x, y);
        const auto channel = [&](double f, double b, int c) {
            const double encoded = colour::encodedFromLinear(a * f + (1 - a) * b);
            return std::clamp(encoded + grain * noiseAt(x, y, c), 0.0, 1.0);
        };
        return {channel(subject.r, backdrop.r, 0), channel(subject.g, backdrop.g, 1),
                channel(subject.b, backdrop.b, 2)};
    }

    edge::Guide guide() const {
        image::EncodedPlanes picture(size);
        forEach([&](int x, int y) {
            const auto column = static_cast<std::size_t>(x);
            const colour::EncodedRgb c = at(x + 0.5, y + 0.5);
            picture.red.row(y)[column] = static_cast<float>(c.r);
            picture.green.row(y)[column] = static_cast<float>(c.g);
            picture.blue.row(y)[column] = static_cast<float>(c.b);
        });
        return edge::guideFrom(std::move(picture));
    }

    image::Plane<float> plane(const std::function<double(double x, double y)>& value) const {
        image::Plane<float> out(size);
        forEach([&](int x, int y) {
            out.row(y)[static_cast<std::size_t>(x)] = static_cast<float>(value(x + 0.5, y + 0.5));
        });
        return out;
    }
    image::Plane<float> matte() const {
        return plane([&](double x, double y) { return matteAt(x, y); });
    }
    // The matte moved outward, or inward where below 0.
    image::Plane<float> movedMatte(double by) const {
        return plane([&](double x, double y) { return std::clamp(0.5 - (outside(x, y) - by) / 2, 0.0, 1.0); });
    }

    std::shared_ptr<const image::Photo> photo() const {
        auto photo = std::make_shared<image::Photo>();
        photo->format = "made";
        photo->samples = image::Samples(size, 3, image::SampleType::u8);
        forEach([&](int x, int y) {
            const colour::EncodedRgb c = at(x + 0.5, y + 0.5);
            auto* to = reinterpret_cast<std::uint8_t*>(photo->samples.row(y)) + 3 * x;
            to[0] = static_cast<std::uint8_t>(std::lround(c.r * 255));
            to[1] = static_cast<std::uint8_t>(std::lround(c.g * 255));
            to[2] = static_cast<std::uint8_t>(std::lround(c.b * 255));
        });
        return photo;
    }

    template <class Visit>
    void forEach(Visit visit) const {
        for (int y = 0; y < size.height; ++y) {
            for (int x = 0; x < size.width; ++x) visit(x, y);
        }
    }
};

// What a mask covers too much and too little, of what it should, in percent.
struct HemError {
    double spillPct = 0, shortPct = 0;
};
inline HemError hemError(const image::Plane<float>& mask, const image::Plane<float>& truth) {
    double spill = 0, missing = 0, all = 0;
    for (int y = 0; y < truth.size().height; ++y) {
        for (std::size_t x = 0; x < truth.row(y).size(); ++x) {
            const double d = double{mask.row(y)[x]} - double{truth.row(y)[x]};
            (d > 0 ? spill : missing) += std::abs(d);
            all += double{truth.row(y)[x]};
        }
    }
    return {100 * spill / all, 100 * missing / all};
}

}  // namespace dimhem::tests
