// What a page of a TIFF file says of its pixels, and which page is the picture.
#pragma once

#include <tiffio.h>

#include "core/io/format.h"
#include "core/io/tiff_samples.h"

namespace dimhem::io {

struct TiffLayout {
    enum class Colours { grey, rgb, palette, lab, inks, other };  // other: left to libtiff to turn into 8-bit RGB
    std::uint32_t width = 0, height = 0;
    TiffNumbers numbers;
    std::uint16_t channels = 1;  // all that are stored for a pixel
    Colours colours = Colours::grey;
    bool inverted = false;  // grey with 0 as white
    bool iccLab = false;    // a* and b* are stored from 0 up
    bool planar = false;    // each channel in a plane of its own
    std::uint16_t compression = COMPRESSION_NONE;
    int alpha = -1;                // the channel that is alpha
    bool alphaMultiplied = false;  // colours are stored multiplied by it

    int colourChannels() const;
    base::Size size() const { return {static_cast<int>(width), static_cast<int>(height)}; }
};

// Makes the first page that is not a reduced one, or a mask, the current one; where all are, the largest. Says so where
// there are more.
void choosePage(TIFF* tiff, std::vector<std::string>& warnings);

// Of the current page; fails where it cannot be read. `fileBytes` must be able to hold it.
base::Result<TiffLayout> layoutOf(TIFF* tiff, std::size_t fileBytes, const Reading& reading,
                                  std::vector<std::string>& warnings);

}  // namespace dimhem::io
