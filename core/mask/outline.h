// Outline: the inside of a closed line through points (even-odd), straight or curved (course.h), anti-aliased, with a
// feather.
//
// Snapped, it is only roughly round the thing: up to `snapPx` off. The thing's own edge is then looked for on the level
// where that is at most 10 pixels, by the colours on both sides near by (edge/band_cut.h) and by those of all that is
// surely inside and outside (edge/colour_cut.h), and cut anew on each finer level (across_levels.h). The points stay as
// drawn.
#pragma once

#include <vector>

#include "core/base/param.h"
#include "core/mask/course.h"
#include "core/mask/shape.h"

namespace dimhem::mask {

inline constexpr std::size_t mostOutlinePoints = 20'000;  // that a document can hold

struct Snapped;

class Outline final : public Shape {
public:
    // Fewer than three points cover nothing.
    Outline(std::vector<base::Point> points, double featherPx, double snapPx = 0, Joining joining = {});
    static const ShapeKind kindInfo;

    const std::vector<base::Point>& points() const { return points_; }
    const Joining& joining() const { return joining_; }
    const Course& course() const { return course_; }
    double featherPx() const { return featherPx_; }
    double snapPx() const { return snapPx_; }  // 0: not snapped
    // Whether it is not snapped, or would lose most of itself and therefore is not.
    bool staysAsDrawn(const PhotoRead& photo) const;

    const ShapeKind& kind() const override { return kindInfo; }
    std::optional<std::uint16_t> uniformOn(const Area& area) const override;
    Staged<Coverage> over(const Area& area, Context& context) const override;
    void toJson(nlohmann::json& json) const override;
    std::size_t weight() const override { return points_.size(); }

private:
    Staged<Snapped> cut(const PhotoRead& photo) const;

    std::vector<base::Point> points_;
    double featherPx_, snapPx_;
    Joining joining_;
    Course course_;
    base::ContentKey courseKey_;
    base::Rect bounds_;  // of the course, in pixels of the photo
};

extern const base::ParamSpec outlineSnapSpec;     // how far off its points may be
extern const base::ParamSpec outlineFeatherSpec;  // its number: the distance from 90 % to 10 %

}  // namespace dimhem::mask
