// Softening that stops at edges, and the split of a picture into tone and texture: ways between a picture and its bases
// (guided_base.h).
//
//   softening        out = P + amount (base - P)                  also: texture softened, tone kept
//   tone softening   out = P + amount (wide base - base)          tone evened over four times the radius, texture kept
#pragma once

#include "core/adjust/adjustment.h"

namespace dimhem::adjust {

enum class Softened { all, toneAlone };

class EdgeSoftening final : public SpatialOperation {
public:
    // The amount is 0..1, the radius in pixels of the photo.
    EdgeSoftening(Softened what, double amount, double radiusPx)
        : what_(what), amount_(static_cast<float>(amount)), radiusPx_(radiusPx) {}

    int modelLevel(int level) const override;
    int reach(int modelLevel) const override;
    std::size_t planes() const override;
    void addModelKey(base::KeyBuilder& key) const override { key.add(what_).add(radiusPx_); }
    Beyond beyondPhoto() const override { return Beyond::mirrored; }
    void makeModel(image::EncodedPlanes around, const Area& area, std::span<const image::Plane<float>> coarser,
                   std::span<image::Plane<float>> model) const override;
    void row(kernel::ConvertibleRow& pixels, std::span<const float* const> model) const override;

private:
    double widestPx() const;  // of the radii

    Softened what_;
    float amount_;
    double radiusPx_;
};

}  // namespace dimhem::adjust
