// A row of pixels in three planes, by the domain of its values, so that no formula gets the wrong one.
//
// Encoded: extended encoded sRGB; linear: linear light of sRGB's primaries (colour/types.h). Nothing here owns memory.
#pragma once

#include <cstddef>
#include <type_traits>

#include "core/image/plane.h"

namespace dimhem::kernel {

template <class Domain, class T>
struct RgbRow {
    T* red;
    T* green;
    T* blue;

    RgbRow from(std::size_t x) const { return {red + x, green + x, blue + x}; }
    operator RgbRow<Domain, const T>() const requires(!std::is_const_v<T>) { return {red, green, blue}; }
};

using EncodedRow = RgbRow<image::Encoded, float>;
using ConstEncodedRow = RgbRow<image::Encoded, const float>;
using LinearRow = RgbRow<image::Linear, float>;
using ConstLinearRow = RgbRow<image::Linear, const float>;

template <class Domain>
RgbRow<Domain, float> rowOf(image::RgbPlanes<Domain>& planes, int y) {
    return {planes.red.row(y).data(), planes.green.row(y).data(), planes.blue.row(y).data()};
}
template <class Domain>
RgbRow<Domain, const float> rowOf(const image::RgbPlanes<Domain>& planes, int y) {
    return {planes.red.row(y).data(), planes.green.row(y).data(), planes.blue.row(y).data()};
}

}  // namespace dimhem::kernel
