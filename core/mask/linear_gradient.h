// Linear gradient: full coverage behind one line, none beyond another, parallel one.
//
//   1 |----.
//     |      `.        t = 0 on the line through `full`, 1 on the line through `none`,
//     |         `.     measured along the way from one to the other;
//   0 |            `---  linear: 1 - t;  smooth: 1 - (3 t^2 - 2 t^3)
//     0            1  t
#pragma once

#include <span>

#include "core/base/param.h"
#include "core/mask/shape.h"

namespace dimhem::mask {

enum class GradientProfile { smooth, linear };

class LinearGradient final : public Shape {
public:
    // `full` and `none` are the ends of the spine; where they coincide, everything beyond the line is uncovered.
    LinearGradient(base::Point full, base::Point none, GradientProfile profile = GradientProfile::smooth);
    static const ShapeKind kindInfo;

    base::Point full() const { return full_; }
    base::Point none() const { return none_; }
    GradientProfile profile() const { return profile_; }

    const ShapeKind& kind() const override { return kindInfo; }
    std::optional<std::uint16_t> uniformOn(const Area& area) const override;
    Staged<Coverage> over(const Area& area, Context& context) const override;
    void toJson(nlohmann::json& json) const override;

private:
    base::Point full_, none_;
    GradientProfile profile_;
};

}  // namespace dimhem::mask
