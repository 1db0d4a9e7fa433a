// Slow and obvious versions, in double, of what the kernels and adjustments do fast.
#pragma once

#include <algorithm>
#include <cmath>

#include "core/colour/srgb.h"
#include "core/kernel/dab_rows.h"

namespace dimhem::tests {

// Coverage of one dab over what the stroke has, as in kernel/dab_rows.h.
inline double referenceDab(const kernel::DabShape& dab, double x, double y, double stroke) {
    const double d = std::hypot(x - dab.centreX, y - dab.centreY);
    double start = dab.radius * (1 - dab.softness), end = dab.radius;
    if (end - start < 1) {
        start = dab.radius - 0.5;
        end = start + 1;
    }
    const double t = std::clamp((d - start) / (end - start), 0.0, 1.0);
    const double p = dab.ceiling * (1 - t * t * (3 - 2 * t));
    return std::max(stroke, std::min(p, stroke + dab.build * p));
}

struct ReferenceLight {
    double exposure = 0, contrast = 0, lift = 0, hold = 0, black = 0, white = 100;
    bool holdColour = false;
    double midtone = 0;

    // Steps 2 to 6 of adjust/light.h.
    double tone(double v) const {
        v = (v - black / 100) / std::max((white - black) / 100, 0.01);
        const double z = std::clamp(v, 0.0, 1.0), m = 0.9 * midtone / 100;
        v += m * (z * (1 - z) + std::min(v, 0.0) - std::max(v - 1, 0.0));
        const double x = std::clamp(v, 0.0, 1.0);
        const double a = lift >= 0 ? 2.5 * lift / 100 : 0.9 * lift / 100;
        v += a * (x * std::pow(1 - x, 3) + std::min(v, 0.0));
        const double y = std::clamp(v, 0.0, 1.0);
        v += contrast / 100 * (y * (1 - y) * (2 * y - 1) - (v - y));
        if (v > 0.5) v += hold / 100 * (0.5 + 0.5 * (1 - std::exp(-(v - 0.5) / 0.5)) - v);
        return v;
    }

    colour::EncodedRgb operator()(const colour::EncodedRgb& in) const {
        colour::LinearRgb c = colour::linearFromEncoded(in);
        const double gain = std::exp2(exposure);
        c = {c.r * gain, c.g * gain, c.b * gain};
        if (!holdColour) {
            const colour::EncodedRgb e = colour::encodedFromLinear(c);
            return {tone(e.r), tone(e.g), tone(e.b)};
        }
        const double y = colour::luminance(c);
        const double toned = colour::linearFromEncoded(tone(colour::encodedFromLinear(y)));
        const double t = std::clamp(y / 0.02, 0.0, 1.0), share = t * t * (3 - 2 * t);
        const double k = y > 0 ? 1 + (std::max(toned, 0.0) - y) / y * share : 1, grey = toned - k * y;
        return colour::encodedFromLinear({c.r * k + grey, c.g * k + grey, c.b * k + grey});
    }
};

}  // namespace dimhem::tests
