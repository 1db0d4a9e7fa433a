// Pictures whose subject's matte is known: two demo photos, and composites of seeded shapes over demo pictures.
//
// A composite mixes a subject and a background in linear light through a known matte, then adds what a camera adds: a
// little blur, noise, 8 bits. Its subject's own colours are known too, also where the matte is partial.
#pragma once

#include <functional>
#include <memory>
#include <string>
#include <vector>

#include "core/image/plane.h"
#include "core/render/renderer.h"

namespace dimhem::edges {

enum class Difficulty { clear, sameColour, lowContrast, soft, thin, noisy, manyColoured };

struct Scene {
    std::string name;
    Difficulty difficulty = Difficulty::clear;
    std::shared_ptr<const render::PhotoSource> photo;
    image::Plane<float> matte;               // the subject's, 0..1
    image::EncodedPlanes subject, backdrop;  // linear light; empty for the demo photos
    base::Size size() const { return matte.size(); }
};

// `demo` is the folder of the demo set.
std::vector<Scene> scenes(const std::string& demo, std::uint32_t seed);

// Eighteen composites more: nine kinds of thing, each over calm and over busy pictures.
std::vector<Scene> kinds(const std::string& demo, std::uint32_t seed);

std::shared_ptr<const render::PhotoSource> sourceOf(const image::EncodedPlanes& linear);

}  // namespace dimhem::edges
