// Pictures for the outcomes of corrections that look round each pixel: read, made noisy, corrected and compared.
#pragma once

#include <functional>
#include <memory>
#include <random>
#include <string>
#include <vector>

#include "core/image/plane.h"
#include "core/render/renderer.h"

namespace dimhem::surroundings {

image::EncodedPlanes readPicture(const std::string& path);
image::EncodedPlanes copied(const image::EncodedPlanes& picture);

// A photo of 8 bits, rounded to the nearest.
std::shared_ptr<const render::PhotoSource> photoOf(const image::EncodedPlanes& picture);
image::EncodedPlanes pictureOf(const render::PhotoSource& photo);

// Normal noise of a sigma in levels of 255, which may depend on the value.
image::EncodedPlanes withNoise(const image::EncodedPlanes& picture, const std::function<double(double)>& sigma,
                               std::uint32_t seed);

// The photo under one correction that covers all of it, with one adjustment written as in documents.
document::DocumentPtr correctedEverywhere(const std::string& adjustment);

struct Corrected {
    image::EncodedPlanes picture;
    double measuringMs = 0, renderingMs = 0;  // on one core
};
Corrected corrected(const std::shared_ptr<const render::PhotoSource>& photo, const std::string& adjustment);

struct Difference {
    double psnr = 0;    // over the three channels, of 255
    double deltaE = 0;  // mean CIEDE2000
};
// Where `where` is more than a half; empty: everywhere.
Difference differenceOf(const image::EncodedPlanes& a, const image::EncodedPlanes& b,
                        const image::Plane<float>& where = {});

double megapixels(base::Size size);

}  // namespace dimhem::surroundings
