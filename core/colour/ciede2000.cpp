#include "core/colour/ciede2000.h"

#include <cmath>
#include <numbers>

namespace dimhem::colour {

namespace {

constexpr double degree = std::numbers::pi / 180;

double pow7(double v) {
    const double v2 = v * v;
    return v2 * v2 * v2 * v;
}

// Hue angle in degrees, 0..360; 0 for a colour without chroma.
double hueDeg(double a, double b) {
    if (a == 0 && b == 0) return 0;
    const double h = std::atan2(b, a) / degree;
    return h < 0 ? h + 360 : h;
}

double chromaGain(double meanChroma) {  // G of equation 4
    const double c7 = pow7(meanChroma);
    return 0.5 * (1 - std::sqrt(c7 / (c7 + pow7(25))));
}

double hueDifferenceDeg(double h1, double h2, bool grey) {  // equation 10
    if (grey) return 0;
    const double d = h2 - h1;
    return d > 180 ? d - 360 : d < -180 ? d + 360 : d;
}

double meanHueDeg(double h1, double h2, bool grey) {  // equation 14
    if (grey) return h1 + h2;
    if (std::abs(h1 - h2) <= 180) return (h1 + h2) / 2;
    return h1 + h2 < 360 ? (h1 + h2 + 360) / 2 : (h1 + h2 - 360) / 2;
}

}  // namespace

double ciede2000(const Lab& one, const Lab& two) {
    const double gain = 1 + chromaGain((std::hypot(one.a, one.b) + std::hypot(two.a, two.b)) / 2);
    const double a1 = gain * one.a, a2 = gain * two.a;
    const double c1 = std::hypot(a1, one.b), c2 = std::hypot(a2, two.b);
    const double h1 = hueDeg(a1, one.b), h2 = hueDeg(a2, two.b);
    const bool grey = c1 * c2 == 0;

    const double dL = two.l - one.l;
    const double dC = c2 - c1;
    const double dH = 2 * std::sqrt(c1 * c2) * std::sin(hueDifferenceDeg(h1, h2, grey) / 2 * degree);

    const double l = (one.l + two.l) / 2;
    const double c = (c1 + c2) / 2;
    const double h = meanHueDeg(h1, h2, grey);
    const double t = 1 - 0.17 * std::cos((h - 30) * degree) + 0.24 * std::cos(2 * h * degree) +
                     0.32 * std::cos((3 * h + 6) * degree) - 0.20 * std::cos((4 * h - 63) * degree);
    const double l50 = (l - 50) * (l - 50);
    const double sL = 1 + 0.015 * l50 / std::sqrt(20 + l50);
    const double sC = 1 + 0.045 * c;
    const double sH = 1 + 0.015 * c * t;
    const double turn = 30 * std::exp(-((h - 275) / 25) * ((h - 275) / 25));
    const double rC = 2 * std::sqrt(pow7(c) / (pow7(c) + pow7(25)));
    const double rT = -std::sin(2 * turn * degree) * rC;

    const double l1 = dL / sL, c1s = dC / sC, h1s = dH / sH;
    return std::sqrt(l1 * l1 + c1s * c1s + h1s * h1s + rT * c1s * h1s);
}

}  // namespace dimhem::colour
