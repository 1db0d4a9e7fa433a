// Wire: thin things clicked along, from place to place: wires, ropes, stays, masts, rails.
//
// Between two clicks the line is looked for about the straight way (edge/followed_line.h), on the photo's own level,
// and covers as much of each pixel as a line of the width found there would. The clicks need only be near it.
#pragma once

#include <vector>

#include "core/base/param.h"
#include "core/mask/shape.h"

namespace dimhem::mask {

// That a document can hold.
inline constexpr std::size_t mostWires = 1000, mostWirePoints = 1000;

struct WireLine {
    std::vector<base::Point> points;
    double withinPx = 6;  // how far off the clicks may be, in pixels of the photo
};

class Wire final : public Shape {
public:
    // A line of fewer than two points covers nothing. `widthPct`: of the width found.
    Wire(std::vector<WireLine> lines, double widthPct);
    static const ShapeKind kindInfo;

    const std::vector<WireLine>& lines() const { return lines_; }
    double widthPct() const { return widthPct_; }

    const ShapeKind& kind() const override { return kindInfo; }
    std::optional<std::uint16_t> uniformOn(const Area& area) const override;
    Staged<Coverage> over(const Area& area, Context& context) const override;
    void toJson(nlohmann::json& json) const override;
    std::size_t weight() const override;

private:
    std::vector<WireLine> lines_;
    double widthPct_;
    base::ContentKey linesKey_;
    base::Rect reach_;  // what the lines can come to, in pixels of the photo
};

extern const base::ParamSpec wireWidthSpec;
extern const base::ParamSpec wireWithinSpec;

}  // namespace dimhem::mask
