// Made photos, a landscape with texture and noise, in the kinds that people open. Each is made once.
#pragma once

#include <memory>
#include <vector>

#include "core/render/photo_source.h"

namespace dimhem::bench {

inline constexpr base::Size photo24{6000, 4000}, photo100{12000, 8334};

enum class PhotoKind { srgb, displayP3, tiff16, alpha };

image::Photo madePhoto(base::Size size, PhotoKind kind = PhotoKind::srgb);

// The photo of 24 megapixels as a JPEG file in memory, as a 16-bit TIFF file.
const std::vector<std::uint8_t>& jpegFile();
const std::vector<std::uint8_t>& tiffFile();

const std::shared_ptr<const render::PhotoSource>& sourceOf(base::Size size, PhotoKind kind = PhotoKind::srgb);

}  // namespace dimhem::bench
