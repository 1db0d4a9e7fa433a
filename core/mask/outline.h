// Outline: the inside of a closed polygon (even-odd), anti-aliased, with a feather.
#pragma once

#include <vector>

#include "core/base/param.h"
#include "core/mask/shape.h"

namespace dimhem::mask {

class Outline final : public Shape {
public:
    // Fewer than three points cover nothing.
    Outline(std::vector<base::Point> points, double featherPx) : points_(std::move(points)), featherPx_(featherPx) {}
    static const ShapeKind kindInfo;

    const std::vector<base::Point>& points() const { return points_; }
    double featherPx() const { return featherPx_; }

    const ShapeKind& kind() const override { return kindInfo; }
    base::ContentKey keyOn(const Area& area, Context& context) const override;
    CoveragePtr render(const Area& area, Context& context) const override;
    void toJson(nlohmann::json& json) const override;

private:
    std::vector<base::Point> points_;
    double featherPx_;
};

extern const base::ParamSpec outlineFeatherSpec;  // its number: the distance from 90 % to 10 %

}  // namespace dimhem::mask
