#include "core/colour/hsl.h"

#include <algorithm>
#include <cmath>

namespace dimhem::colour {

double hslHueDeg(const EncodedRgb& c) {
    const double high = std::max({c.r, c.g, c.b}), chroma = high - std::min({c.r, c.g, c.b});
    if (chroma <= 0) return 0;
    double sixth = 0;
    if (high == c.r) {
        sixth = (c.g - c.b) / chroma + (c.g < c.b ? 6 : 0);
    } else if (high == c.g) {
        sixth = (c.b - c.r) / chroma + 2;
    } else {
        sixth = (c.r - c.g) / chroma + 4;
    }
    return sixth * 60;
}

EncodedRgb rgbFromHsl(double hueDeg, double saturation, double lightness) {
    const double a = saturation * std::min(lightness, 1 - lightness);
    const auto channel = [&](double n) {
        const double k = std::fmod(std::fmod(n + hueDeg / 30, 12) + 12, 12);
        return lightness - a * std::max(-1.0, std::min({k - 3, 9 - k, 1.0}));
    };
    return {channel(0), channel(8), channel(4)};
}

}  // namespace dimhem::colour
