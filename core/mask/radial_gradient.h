// Radial gradient: full coverage within an inner oval, none beyond an outer one.
//
//   rho = distance from the centre, in half axes of the outer oval (turned by the angle)
//   1 |-----.               rho <= 1 - feather: 1
//     |      `.             between: 1 - (3 t^2 - 2 t^3), t = (rho - (1 - feather)) / feather
//   0 |        `-----       rho >= 1: 0
//     0   1-f   1   rho
// Inside out: the part is flipped. The ovals may be larger than the photo or lie beside it.
#pragma once

#include "core/base/param.h"
#include "core/mask/shape.h"

namespace dimhem::mask {

struct Oval {
    base::Point centre;
    double halfWidthPx = 100, halfHeightPx = 100;  // of the outer oval, along and across its angle
    double angleDeg = 0;                           // clockwise, as the photo is seen
    double featherPct = 50;                        // 0..100: how far in the inner oval lies
};

inline void addTo(base::KeyBuilder& key, const Oval& oval) {
    addTo(key, oval.centre);
    key.add(oval.halfWidthPx).add(oval.halfHeightPx).add(oval.angleDeg).add(oval.featherPct);
}

class RadialGradient final : public Shape {
public:
    explicit RadialGradient(const Oval& oval) : oval_(oval) {}
    static const ShapeKind kindInfo;

    const Oval& oval() const { return oval_; }

    const ShapeKind& kind() const override { return kindInfo; }
    std::optional<std::uint16_t> uniformOn(const Area& area) const override;
    Staged<Coverage> over(const Area& area, Context& context) const override;
    void toJson(nlohmann::json& json) const override;

private:
    Oval oval_;
};

extern const base::ParamSpec ovalFeatherSpec;

}  // namespace dimhem::mask
