#include "core/colour/white_point.h"

#include <algorithm>
#include <cmath>
#include <string>

#include "core/colour/lab.h"

namespace dimhem::colour {

namespace {

struct Uv {
    double u, v;
};

Uv uvOf(const Chromaticity& c) {  // CIE 1960 UCS
    const double d = -2 * c.x + 12 * c.y + 3;
    return {4 * c.x / d, 6 * c.y / d};
}

Chromaticity chromaticityOf(const Uv& c) {
    const double d = 2 * c.u - 8 * c.v + 4;
    return {3 * c.u / d, 2 * c.v / d};
}

base::Result<Chromaticity> outside(const char* what, double tempK) {
    return base::fail(base::ErrorCode::invalidValue, what,
                      std::to_string(static_cast<int>(tempK)) + " K lies outside the range of the formula.");
}

Chromaticity daylightFormula(double t) {
    const double x = t <= 7000 ? -4.6070e9 / (t * t * t) + 2.9678e6 / (t * t) + 0.09911e3 / t + 0.244063
                               : -2.0064e9 / (t * t * t) + 1.9018e6 / (t * t) + 0.24748e3 / t + 0.237040;
    return {x, -3.000 * x * x + 2.870 * x - 0.275};
}

Chromaticity planckianFormula(double t) {
    const double x = t <= 4000 ? -0.2661239e9 / (t * t * t) - 0.2343589e6 / (t * t) + 0.8776956e3 / t + 0.179910
                               : -3.0258469e9 / (t * t * t) + 2.1070379e6 / (t * t) + 0.2226347e3 / t + 0.240390;
    const double x2 = x * x, x3 = x2 * x;
    if (t <= 2222) return {x, -1.1063814 * x3 - 1.34811020 * x2 + 2.18555832 * x - 0.20219683};
    if (t <= 4000) return {x, -0.9549476 * x3 - 1.37418593 * x2 + 2.09137015 * x - 0.16748867};
    return {x, 3.0817580 * x3 - 5.87338670 * x2 + 3.75112997 * x - 0.37001483};
}

Chromaticity locus(double t) {
    // The passage is long (and even in reciprocal temperature) so that the locus bends gently: its normals must not
    // cross within the range of Duv in use.
    constexpr double lampK = 4000, daylightK = 6500;
    if (t <= lampK) return planckianFormula(t);
    if (t >= daylightK) return daylightFormula(t);
    const double k = (1 / lampK - 1 / t) / (1 / lampK - 1 / daylightK);
    const double w = k * k * (3 - 2 * k);
    const Chromaticity p = planckianFormula(t), d = daylightFormula(t);
    return {p.x + w * (d.x - p.x), p.y + w * (d.y - p.y)};
}

// The unit direction of positive Duv at a temperature: across the locus, away from magenta.
Uv isotherm(double tempK) {
    const Uv a = uvOf(locus(tempK * 0.995));
    const Uv b = uvOf(locus(tempK * 1.005));
    const double du = b.u - a.u, dv = b.v - a.v;
    const double length = std::hypot(du, dv);
    return {dv / length, -du / length};
}

double squaredDistance(const Uv& a, const Uv& b) {
    return (a.u - b.u) * (a.u - b.u) + (a.v - b.v) * (a.v - b.v);
}

Xyz xyzOf(const Chromaticity& c) {
    return {c.x / c.y, 1, (1 - c.x - c.y) / c.y};
}

constexpr Matrix3 cone = {{{0.8951, 0.2664, -0.1614}, {-0.7502, 1.7135, 0.0367}, {0.0389, -0.0685, 1.0296}}};

}  // namespace

base::Result<Chromaticity> daylight(double tempK) {
    if (!(tempK >= 4000 && tempK <= 25000)) return outside("daylight", tempK);
    return daylightFormula(tempK);
}

base::Result<Chromaticity> planckian(double tempK) {
    if (!(tempK >= 1667 && tempK <= 25000)) return outside("planckian", tempK);
    return planckianFormula(tempK);
}

Chromaticity whiteOf(const WhiteSetting& setting) {
    const double tempK = std::clamp(setting.tempK, minTempK, maxTempK);
    const Uv base = uvOf(locus(tempK));
    const Uv across = isotherm(tempK);
    return chromaticityOf({base.u + setting.duv * across.u, base.v + setting.duv * across.v});
}

WhiteSetting settingOf(const Chromaticity& white) {
    const Uv wanted = uvOf(white);
    // In reciprocal temperature the locus is walked at an even pace: a coarse scan finds the nearest stretch, a
    // golden-section search the place within it.
    const double low = 1e6 / maxTempK, high = 1e6 / minTempK;
    const auto distance = [&](double mired) { return squaredDistance(uvOf(locus(1e6 / mired)), wanted); };
    constexpr int scan = 128;
    const double step = (high - low) / scan;
    double best = low;
    for (int i = 0; i <= scan; ++i) {
        if (distance(low + i * step) < distance(best)) best = low + i * step;
    }
    double a = std::max(low, best - step), b = std::min(high, best + step);
    constexpr double golden = 0.6180339887498949;
    for (int i = 0; i < 60; ++i) {
        const double x1 = b - golden * (b - a), x2 = a + golden * (b - a);
        (distance(x1) < distance(x2) ? b : a) = distance(x1) < distance(x2) ? x2 : x1;
    }
    const double tempK = 1e6 / ((a + b) / 2);
    const Uv base = uvOf(locus(tempK));
    const Uv across = isotherm(tempK);
    return {tempK, (wanted.u - base.u) * across.u + (wanted.v - base.v) * across.v};
}

Vector3 coneGains(const Chromaticity& from, const Chromaticity& to) {
    const Xyz fromXyz = xyzOf(from), toXyz = xyzOf(to);
    const auto fromCone = product(cone, Vector3{fromXyz.x, fromXyz.y, fromXyz.z});
    const auto toCone = product(cone, Vector3{toXyz.x, toXyz.y, toXyz.z});
    return {toCone[0] / fromCone[0], toCone[1] / fromCone[1], toCone[2] / fromCone[2]};
}

Matrix3 bradford(const Chromaticity& from, const Chromaticity& to) {
    const Vector3 gains = coneGains(from, to);
    Matrix3 scale{};
    for (std::size_t i = 0; i < 3; ++i) scale[i][i] = gains[i];
    return product(inverse(cone), product(scale, cone));
}

Matrix3 adaptationOfLinear(const Chromaticity& from, const Chromaticity& to) {
    return product(inverse(xyzFromLinearMatrix), product(bradford(from, to), xyzFromLinearMatrix));
}

}  // namespace dimhem::colour
