#include "core/colour/srgb.h"

#include <cmath>

namespace dimhem::colour {

double encodedFromLinear(double linear) {
    const double v = std::abs(linear);
    const double encoded = v <= 0.0031308 ? 12.92 * v : 1.055 * std::pow(v, 1 / 2.4) - 0.055;
    return std::copysign(encoded, linear);
}

double linearFromEncoded(double encoded) {
    const double v = std::abs(encoded);
    const double linear = v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4);
    return std::copysign(linear, encoded);
}

EncodedRgb encodedFromLinear(const LinearRgb& colour) {
    return {encodedFromLinear(colour.r), encodedFromLinear(colour.g), encodedFromLinear(colour.b)};
}

LinearRgb linearFromEncoded(const EncodedRgb& colour) {
    return {linearFromEncoded(colour.r), linearFromEncoded(colour.g), linearFromEncoded(colour.b)};
}

double luminance(const LinearRgb& colour) {
    return lumaR * colour.r + lumaG * colour.g + lumaB * colour.b;
}

}  // namespace dimhem::colour
