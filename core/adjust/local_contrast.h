// Local contrast: what is smaller than a scale made stronger, or evened, about edges that stay as they are.
//
// On L = L* / 100 (CIE 15:2004). Bases are taken off by the guided filter (edge/guided_filter.h) with L as its own
// guide, with the radius and with a quarter of it: L' = L + amount / 2 ((L - base) + (L - near base)). Red, green and
// blue are scaled alike in linear light, by Y' / Y, 1/4 to 4 times.
//
// The slope of the filter's lines is variance^2 / (variance^2 + flat^2) instead of variance / (variance + flat): what
// has much more than the flat variance is an edge altogether, and gets no halo; what has less is texture altogether.
//
// The lines are worked out on the level where the radius is at most 16 pixels, and read with each pixel's own L (He and
// Sun, "Fast Guided Filter", 2015).
#pragma once

#include "core/adjust/adjustment.h"

namespace dimhem::adjust {

class LocalContrast final : public SpatialOperation {
public:
    // The amount that is added of what differs from the bases, -1 .. 1; the radius in pixels of the photo.
    LocalContrast(double amount, double radiusPx) : amount_(static_cast<float>(amount / 2)), radiusPx_(radiusPx) {}

    int modelLevel(int level) const override;
    int reach(int modelLevel) const override { return 2 * radiusOn(modelLevel); }
    std::size_t planes() const override { return 4; }
    void addModelKey(base::KeyBuilder& key) const override { key.add("local contrast").add(radiusPx_); }
    Beyond beyondPhoto() const override { return Beyond::mirrored; }
    void makeModel(image::EncodedPlanes around, const Area& area, std::span<const image::Plane<float>> coarser,
                   std::span<image::Plane<float>> model) const override;
    void row(kernel::ConvertibleRow& pixels, std::span<const float* const> model) const override;

private:
    int radiusOn(int level) const;

    float amount_;
    double radiusPx_;
};

}  // namespace dimhem::adjust
