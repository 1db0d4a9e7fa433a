// A photo as it was read: its samples exactly as they stand in the file, and what came with them.
//
// Samples are interleaved, 1 (grey), 2 (grey, alpha), 3 (RGB) or 4 (RGB, alpha; not premultiplied) channels, in the
// encoding that the profile describes; no profile means sRGB. They are never converted in place: an untouched
// photo can be written back bit for bit.
#pragma once

#include <cstddef>
#include <cstdint>
#include <memory>
#include <span>
#include <string>
#include <vector>

#include "core/base/rect.h"

namespace dimhem::image {

enum class SampleType { u8, u16, f32 };

std::size_t bytesOf(SampleType type);

class Samples {
public:
    Samples() = default;
    Samples(base::Size size, int channels, SampleType type);  // not initialised

    base::Size size() const { return size_; }
    int channels() const { return channels_; }
    SampleType type() const { return type_; }
    bool hasAlpha() const { return channels_ == 2 || channels_ == 4; }
    int colourChannels() const { return channels_ <= 2 ? 1 : 3; }
    std::size_t rowBytes() const { return pixelBytes() * static_cast<std::size_t>(size_.width); }
    std::size_t pixelBytes() const { return bytesOf(type_) * static_cast<std::size_t>(channels_); }
    std::byte* row(int y) { return data_.get() + rowBytes() * static_cast<std::size_t>(y); }
    const std::byte* row(int y) const { return data_.get() + rowBytes() * static_cast<std::size_t>(y); }
    std::size_t bytes() const { return rowBytes() * static_cast<std::size_t>(size_.height); }

    // All channels of pixels [x0, x1) of row y as floats, 8 and 16 bits scaled to 0..1.
    void readRow(int y, int x0, int x1, float* interleaved) const;

private:
    base::Size size_;
    int channels_ = 0;
    SampleType type_ = SampleType::u8;
    std::unique_ptr<std::byte[]> data_;
};

// Metadata blocks in their standard binary or text form; empty where the file has none.
struct Metadata {
    std::vector<std::uint8_t> exif;  // a TIFF structure, Exif 2.32
    std::vector<std::uint8_t> iptc;  // IPTC-IIM records
    std::string xmp;                 // an XMP packet (ISO 16684-1)
    std::string comment;             // a comment in the file itself, as JPEG has
    std::vector<std::string> lost;   // what the file had and could not be kept, one sentence each
};

struct Photo {
    Samples samples;
    bool linear = false;                // samples are linear light (OpenEXR); otherwise encoded
    std::vector<std::uint8_t> profile;  // ICC profile; empty: sRGB (or linear sRGB where `linear`)
    Metadata metadata;
    std::string format;                 // the name of the format it was read from, such as "JPEG"
    std::vector<std::string> warnings;  // what is not shown as the file has it, one sentence each

    base::Size size() const { return samples.size(); }
};

// The samples turned upright after an EXIF orientation 1..8 (Exif 2.32, tag 274); any other value: unchanged.
Samples oriented(Samples samples, int orientation);

}  // namespace dimhem::image
