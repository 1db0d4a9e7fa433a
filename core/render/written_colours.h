// The picture in the encoding of the file it will be written to: the photo's own profile, else sRGB.
#pragma once

#include <optional>
#include <vector>

#include "core/check/fault.h"
#include "core/colour/icc.h"
#include "core/image/photo.h"
#include "core/image/plane.h"

namespace dimhem::render {

class WrittenColours {
public:
    // A profile that cannot be written to counts as sRGB, as an export then writes it.
    explicit WrittenColours(const image::Photo& photo);

    // What is lost of each pixel of a row.
    void faultsOf(const image::EncodedPlanes& picture, int y, std::vector<check::Fault>& out) const;

private:
    std::optional<colour::IccTransform> fromWorking_;  // none: sRGB
};

}  // namespace dimhem::render
