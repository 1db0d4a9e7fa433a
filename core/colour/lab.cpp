#include "core/colour/lab.h"

#include <cmath>

#include "core/colour/srgb.h"

namespace dimhem::colour {

namespace {

constexpr const Matrix3& toXyz = xyzFromLinearMatrix;
constexpr Matrix3 toLinear = inverse(toXyz);
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
    const Vector3 v = product(toXyz, Vector3{c.r, c.g, c.b});
    return {v[0], v[1], v[2]};
}

LinearRgb linearFromXyz(const Xyz& c) {
    const Vector3 v = product(toLinear, Vector3{c.x, c.y, c.z});
    return {v[0], v[1], v[2]};
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
