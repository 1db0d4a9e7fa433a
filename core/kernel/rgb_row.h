// A row of pixels in three planes, by the domain of its values, so that no formula gets the wrong one.
//
// Encoded: extended encoded sRGB; linear: linear light of sRGB's primaries (colour/types.h). Nothing here owns memory.
#pragma once

#include <cstddef>
#include <type_traits>

namespace dimhem::kernel {

template <class Domain, class T>
struct RgbRow {
    T* red;
    T* green;
    T* blue;

    RgbRow from(std::size_t x) const { return {red + x, green + x, blue + x}; }
    operator RgbRow<Domain, const T>() const requires(!std::is_const_v<T>) { return {red, green, blue}; }
};

struct Encoded {};
struct Linear {};

using EncodedRow = RgbRow<Encoded, float>;
using ConstEncodedRow = RgbRow<Encoded, const float>;
using LinearRow = RgbRow<Linear, float>;
using ConstLinearRow = RgbRow<Linear, const float>;

}  // namespace dimhem::kernel
