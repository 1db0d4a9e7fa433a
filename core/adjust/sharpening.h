// Sharpening: what a Gaussian of the radius takes out of a picture laid on it again, times the amount (an unsharp mask;
// common practice), on luma (BT.709, of encoded values), so that no colours appear at edges.
//
//   d    = Y - G(Y)
//   d'   = sign(d) max(0, |d| - threshold sigma)      sigma: the noise, which white noise halves level by level
//   Y'   = Y + amount d', at most `halo` of the range of what lies within a radius beyond that range
//   out  = P + (Y' - Y)
// sigma of the Gaussian = radius, in pixels of the photo; on a coarser level it is as much smaller, so that a view
// shows what an export scaled down does.
#pragma once

#include "core/adjust/adjustment.h"

namespace dimhem::adjust {

struct SharpeningSettings {
    double amount = 0;     // of what is laid on: 1 once
    double radiusPx = 1;   // 0.3 .. 10
    double threshold = 0;  // encoded, on the photo itself
    double halo = 0;       // 0 none .. 1 as much again
};

class Sharpening final : public SpatialOperation {
public:
    explicit Sharpening(const SharpeningSettings& settings) : settings_(settings) {}

    int modelLevel(int level) const override { return level; }
    int reach(int modelLevel) const override;
    std::size_t planes() const override { return 3; }  // d', and how far up and down there is room
    void addModelKey(base::KeyBuilder& key) const override;
    Beyond beyondPhoto() const override { return Beyond::mirrored; }
    void makeModel(image::EncodedPlanes around, const Area& area, std::span<const image::Plane<float>> coarser,
                   std::span<image::Plane<float>> model) const override;
    void row(kernel::ConvertibleRow& pixels, std::span<const float* const> model) const override;

private:
    double sigmaOn(int level) const;
    int windowOn(int level) const;  // that the range is taken of, either side

    SharpeningSettings settings_;
};

}  // namespace dimhem::adjust
