#include "core/colour/lab.h"

#include <cmath>

#include "core/colour/srgb.h"

namespace dimhem::colour {

namespace {

// From the chromaticities of IEC 61966-2-1 (primaries, and a white of 0.3127, 0.3290), exactly; the fractions are those
// of CSS Color Module Level 4, "Sample code for color conversions".
constexpr double toXyz[3][3] = {{506752.0 / 1228815, 87881.0 / 245763, 12673.0 / 70218},
                                {87098.0 / 409605, 175762.0 / 245763, 12673.0 / 175545},
                                {7918.0 / 409605, 87881.0 / 737289, 1001167.0 / 1053270}};
constexpr Xyz white = {toXyz[0][0] + toXyz[0][1] + toXyz[0][2], 1.0, toXyz[2][0] + toXyz[2][1] + toXyz[2][2]};

double labCurve(double t) {
    constexpr double breakpoint = (24.0 / 116) * (24.0 / 116) * (24.0 / 116);
    return t > breakpoint ? std::cbrt(t) : 841.0 / 108 * t + 16.0 / 116;
}

double labCurveInverse(double f) {
    return f > 24.0 / 116 ? f * f * f : 108.0 / 841 * (f - 16.0 / 116);
}

}  // namespace

Xyz xyzFromLinear(const LinearRgb& c) {
    const auto row = [&](const double(&m)[3]) { return m[0] * c.r + m[1] * c.g + m[2] * c.b; };
    return {row(toXyz[0]), row(toXyz[1]), row(toXyz[2])};
}

LinearRgb linearFromXyz(const Xyz& c) {
    // Cramer's rule on the matrix above: exact, where a printed inverse is rounded.
    const auto& m = toXyz;
    const auto det3 = [](double a, double b, double c0, double d, double e, double f, double g, double h, double i) {
        return a * (e * i - f * h) - b * (d * i - f * g) + c0 * (d * h - e * g);
    };
    const double det = det3(m[0][0], m[0][1], m[0][2], m[1][0], m[1][1], m[1][2], m[2][0], m[2][1], m[2][2]);
    return {det3(c.x, m[0][1], m[0][2], c.y, m[1][1], m[1][2], c.z, m[2][1], m[2][2]) / det,
            det3(m[0][0], c.x, m[0][2], m[1][0], c.y, m[1][2], m[2][0], c.z, m[2][2]) / det,
            det3(m[0][0], m[0][1], c.x, m[1][0], m[1][1], c.y, m[2][0], m[2][1], c.z) / det};
}

Lab labFromXyz(const Xyz& c) {
    const double fx = labCurve(c.x / white.x);
    const double fy = labCurve(c.y / white.y);
    const double fz = labCurve(c.z / white.z);
    return {116 * fy - 16, 500 * (fx - fy), 200 * (fy - fz)};
}

Xyz xyzFromLab(const Lab& c) {
    const double fy = (c.l + 16) / 116;
    return {white.x * labCurveInverse(fy + c.a / 500), white.y * labCurveInverse(fy),
            white.z * labCurveInverse(fy - c.b / 200)};
}

double lightness(double luminance) {
    return 116 * labCurve(luminance) - 16;
}

Lab labFromLinear(const LinearRgb& colour) {
    return labFromXyz(xyzFromLinear(colour));
}

Lab labFromEncoded(const EncodedRgb& colour) {
    return labFromLinear(linearFromEncoded(colour));
}

}  // namespace dimhem::colour
