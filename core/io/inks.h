// Printing inks (cyan, magenta, yellow, black) as light.
#pragma once

#include <optional>

#include "core/colour/icc.h"
#include "core/io/format.h"

namespace dimhem::io {

class Inks {
public:
    // By the file's profile; where it has none, or one that is no use, by plain arithmetic: the light that a layer
    // lets through is 1 - ink, and layers multiply (common practice). The latter is said in `warnings`.
    Inks(const std::vector<std::uint8_t>& profile, std::vector<std::string>& warnings);

    // `pixels` of 4 inks, 0 (none) .. 1 (full), to linear sRGB light, 3 values a pixel.
    void row(const float* inks, float* light, std::size_t pixels) const;

private:
    std::optional<colour::IccTransform> transform_;
};

}  // namespace dimhem::io
