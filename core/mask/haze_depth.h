// Haze depth: what has a share of haze between four points, 0 (near: none of its light is haze) .. 100 % (far: all of
// it is), see range.h.
//
// The share is 1 - t, t the transmission of edge/transmission.h with the air light it finds: worked out once for the
// photo, on the level whose longer side is at most 1500 pixels, and evaluated with each pixel's own colour, so that it
// follows edges. It is smoothed after that, by the guided filter with itself as its guide, so that they stay.
#pragma once

#include "core/base/param.h"
#include "core/mask/range.h"
#include "core/mask/shape.h"

namespace dimhem::mask {

struct HazeDepthValues {
    Range haze{{35, 55, 100, 100}};
    Seen seen = Seen::photo;
    double smoothPx = 2;  // half the radius, pixels of the photo
};

class HazeDepth final : public Shape {
public:
    explicit HazeDepth(const HazeDepthValues& values) : values_(values) {}
    static const ShapeKind kindInfo;

    const HazeDepthValues& values() const { return values_; }

    const ShapeKind& kind() const override { return kindInfo; }
    Staged<Coverage> over(const Area& area, Context& context) const override;
    void toJson(nlohmann::json& json) const override;
    bool looksAtArriving() const override { return values_.seen == Seen::arriving; }

    // The share of haze over an area, 0..100.
    Staged<image::Plane<float>> hazeOver(const Area& area, Context& context) const;

private:
    HazeDepthValues values_;
};

}  // namespace dimhem::mask
