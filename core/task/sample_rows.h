// From the renderer's working colour to the samples of an output file, in the photo's own profile.
#pragma once

#include <optional>

#include "core/base/error.h"
#include "core/colour/icc.h"
#include "core/image/rgba_planes.h"
#include "core/render/photo_source.h"

namespace dimhem::task {

class SampleRows {
public:
    // `corrected`: whether any correction takes part; a grey photo then becomes RGB in sRGB. `opaque`: the picture has
    // been laid over something already.
    static base::Result<SampleRows> make(const image::Photo& photo, image::SampleType type, bool alpha, bool corrected,
                                         bool opaque = false);

    int channels() const { return channels_; }
    const std::vector<std::uint8_t>& profile() const { return profile_; }
    std::size_t pixelBytes() const { return image::bytesOf(type_) * static_cast<std::size_t>(channels_); }

    // Packs an area at level 0: the corrected picture, or where it is null, the photo. Pixels that are exactly the
    // photo's, at the photo's own depth, are copied from it.
    void pack(const render::PhotoSource& photo, const base::Rect& rect, const image::EncodedPlanes* corrected,
              std::byte* to, std::size_t rowBytes) const;
    // Packs a picture that is not the photo's, such as one of another size.
    void pack(const image::RgbaPlanes& picture, std::byte* to, std::size_t rowBytes) const;

private:
    SampleRows() = default;
    // `alpha` is null where all is opaque.
    void packRow(const image::EncodedPlanes& picture, int row, const float* alpha, std::byte* to) const;

    image::SampleType type_ = image::SampleType::u8;
    int channels_ = 3;
    bool opaque_ = false;             // or the photo has no alpha
    bool sameLayout_ = false;         // type and channels are the photo's own: samples can be copied
    bool roundTripsExactly_ = false;  // the way through float gives 8 and 16 bit samples back as they were
    std::optional<colour::IccTransform> fromWorking_;
    std::vector<std::uint8_t> profile_;
};

}  // namespace dimhem::task
