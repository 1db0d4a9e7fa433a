// Veil density: how much of a veil's light lies over each place, told from its colour.
//
// In linear light P = (1 - w) J + w C. Where the things under the veil are about of one colour s, whatever their tone,
// P = a s + m c, with c what is seen where the veil is densest, and m the density beside the density there: by least
// squares m = P . n, n = c' / (c . c'), c' the part of c at right angles to s. It is linear in P, so that noise evens
// out under the Gaussian it is smoothed by; what is blown has lost its colour and counts for nothing there. Coverage is
// (m - c) / (1 - c), c what counts as clear, held to 0..1.
#pragma once

#include <optional>

#include "core/base/param.h"
#include "core/colour/types.h"
#include "core/mask/range.h"
#include "core/mask/shape.h"

namespace dimhem::mask {

struct VeilDensityValues {
    std::optional<colour::LinearRgb> dense, clear;  // seen where the veil is densest, and where there is none
    Seen seen = Seen::photo;
    double smoothPx = 30;      // sigma, pixels of the photo
    double clearBelowPct = 0;  // a density up to here counts as none; what is above begins from there
};

extern const base::ParamSpec densitySmoothSpec, clearBelowSpec;

class VeilDensity final : public Shape {
public:
    explicit VeilDensity(const VeilDensityValues& values) : values_(values) {}
    static const ShapeKind kindInfo;

    const VeilDensityValues& values() const { return values_; }

    const ShapeKind& kind() const override { return kindInfo; }
    std::optional<std::uint16_t> uniformOn(const Area& area) const override;
    Staged<Coverage> over(const Area& area, Context& context) const override;
    void toJson(nlohmann::json& json) const override;
    bool looksAtArriving() const override { return values_.seen == Seen::arriving; }

    // n; none where a colour is missing or the two are too much alike to tell a veil by.
    std::optional<colour::LinearRgb> direction() const;

private:
    VeilDensityValues values_;
};

}  // namespace dimhem::mask
