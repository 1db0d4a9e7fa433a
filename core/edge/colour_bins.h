// The colours of a window of the picture counted in bins: about its own mean, as wide as its colours are spread.
#pragma once

#include <array>
#include <cstddef>

#include "core/edge/guide.h"

namespace dimhem::edge {

using Colour = std::array<float, 3>;  // OKLab

// What tells where the colours of an area lie; of areas beside each other, the sum.
struct ColourSums {
    double pixels = 0;
    std::array<double, 3> sum{}, square{};
    ColourSums& operator+=(const ColourSums& other);
};
ColourSums colourSums(const Guide& guide, const base::Rect& area);

class ColourBins {
public:
    static constexpr std::size_t perAxis = 24, count = perAxis * perAxis * perAxis;
    explicit ColourBins(const ColourSums& window);
    std::size_t of(const Colour& colour) const;  // colours beyond the last bin count there
    Colour centre(std::size_t bin) const;
    double volume() const;  // of all bins together

private:
    std::array<float, 3> start_, perBin_;
};

}  // namespace dimhem::edge
