// Samples as TIFF packs them into rows, made into those of a photo.
#pragma once

#include <cstddef>
#include <optional>

#include "core/image/photo.h"

namespace dimhem::io {

struct TiffNumbers {
    enum class Kind { whole, signedWhole, real } kind = Kind::whole;
    int bits = 8;

    // What they are read as: whole numbers of up to 8 and 16 bits as those, of more bits, and floats, as floats.
    // Nothing: they are not read.
    std::optional<image::SampleType> type() const;
};

// `count` samples of a packed row, as libtiff gives it, to samples of numbers.type(). Whole numbers are scaled to the
// full range of the type (signed ones of 8 and 16 bits stay as they are, bit for bit), 32-bit ones to 0..1.
void unpack(const TiffNumbers& numbers, const std::byte* from, std::size_t count, std::byte* to);

}  // namespace dimhem::io
