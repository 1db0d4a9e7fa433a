// What the made scenes are put together from: mattes drawn with seeds, surfaces, and a camera.
#pragma once

#include <cmath>
#include <cstdint>
#include <random>
#include <string>

#include "bench/edges/scenes.h"
#include "core/image/photo.h"

namespace dimhem::edges {

inline constexpr base::Size compositeSize{1200, 800};

class Random {
public:
    explicit Random(std::uint32_t seed) : engine_(seed) {}
    double uniform() { return engine_() / 4294967296.0; }
    double between(double a, double b) { return a + (b - a) * uniform(); }
    double normal() {
        return std::sqrt(-2 * std::log((engine_() + 1.0) / 4294967297.0)) * std::cos(6.283185307 * uniform());
    }

private:
    std::mt19937 engine_;
};

// Ends the program with a sentence where there is no such photo.
image::Photo load(const std::string& path);

// A rectangle of a picture in linear light, every `step`th pixel; past the picture's end it goes on mirrored.
image::EncodedPlanes linearCrop(const image::Photo& photo, int x0, int y0, base::Size size, int step = 1);

// A round body with a wobbling edge, a head and a stick.
image::Plane<float> bodyMatte(Random& random);

// Rods from hair-thin to finger-thick.
image::Plane<float> rodMatte(Random& random);

// Smooth light on one colour, from the upper left, with a fine grain.
image::EncodedPlanes shaded(const float colour[3], Random& random);

// `noise` is the standard deviation in encoded values that all channels share; each has half as much of its own.
std::shared_ptr<const render::PhotoSource> camera(const image::EncodedPlanes& linear, double noise, Random& random);

// `softPx`: as a lens out of focus blurs, the mean over a disc.
Scene composite(std::string name, Difficulty difficulty, image::EncodedPlanes subject, image::EncodedPlanes backdrop,
                image::Plane<float> matte, int softPx, double noise, Random& random);

}  // namespace dimhem::edges
