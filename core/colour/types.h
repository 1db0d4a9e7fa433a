// One type for each colour domain, so that a value cannot enter the wrong formula.
#pragma once

namespace dimhem::colour {

// Linear light, sRGB/BT.709 primaries, D65; unbounded (scRGB, IEC 61966-2-2). 1 is the white of the display.
struct LinearRgb {
    double r = 0, g = 0, b = 0;
};

// The same through the sRGB curve, extended odd-symmetrically below 0 and by its power law above 1.
struct EncodedRgb {
    double r = 0, g = 0, b = 0;
};

// CIE 1931 2 degree, scaled so that the white has Y = 1.
struct Xyz {
    double x = 0, y = 0, z = 0;
};

// CIE 1931 chromaticity.
struct Chromaticity {
    double x = 0, y = 0;
};

// White and primaries of sRGB (IEC 61966-2-1).
inline constexpr Chromaticity srgbWhite{0.3127, 0.3290}, srgbRed{0.64, 0.33}, srgbGreen{0.30, 0.60},
    srgbBlue{0.15, 0.06};

// CIE 1976 L*a*b* against the white of sRGB (D65). L* 0..100.
struct Lab {
    double l = 0, a = 0, b = 0;
};

// For keys of what depends on a colour (core/base/content_key.h).
template <class KeyBuilder>
void addTo(KeyBuilder& key, const LinearRgb& c) {
    key.add(c.r).add(c.g).add(c.b);
}
template <class KeyBuilder>
void addTo(KeyBuilder& key, const Lab& c) {
    key.add(c.l).add(c.a).add(c.b);
}

}  // namespace dimhem::colour
