// Region: dragged roughly inside a thing, it fills out to the thing's edge.
//
// Found over the whole photo on a coarse level (edge/grown_region.h): drags that add are surely inside, drags that take
// away surely outside. What does not hang together with an adding drag is left out, unless parts apart are wanted. Its
// edge is then cut anew on each finer level (across_levels.h). Measured on the photo as it was read.
#pragma once

#include <vector>

#include "core/base/param.h"
#include "core/mask/shape.h"

namespace dimhem::mask {

// What a document can hold.
inline constexpr std::size_t mostDrags = 1000, mostDragPoints = 20'000;

struct RegionDrag {
    std::vector<base::Point> points;
    bool removes = false;
};

struct FoundRegion;

class Region final : public Shape {
public:
    // Without a drag that adds it covers nothing.
    Region(std::vector<RegionDrag> drags, double reachPct, bool takesApart = false);
    static const ShapeKind kindInfo;

    const std::vector<RegionDrag>& drags() const { return drags_; }
    double reachPct() const { return reachPct_; }
    bool takesApart() const { return takesApart_; }  // also parts that no drag reaches, where their colours are sure

    // Where it is least sure: a further drag, that adds or takes away, tells most there.
    struct UnsurePlace {
        base::Point at;
        double radiusPx = 0;  // of the photo
    };
    std::vector<UnsurePlace> unsurePlaces(const PhotoRead& photo) const;

    const ShapeKind& kind() const override { return kindInfo; }
    Staged<Coverage> over(const Area& area, Context& context) const override;
    void toJson(nlohmann::json& json) const override;
    std::size_t weight() const override;

private:
    Staged<FoundRegion> found(const PhotoRead& photo) const;

    std::vector<RegionDrag> drags_;
    double reachPct_;
    bool takesApart_;
    base::ContentKey dragsKey_;
};

extern const base::ParamSpec regionReachSpec;

}  // namespace dimhem::mask
