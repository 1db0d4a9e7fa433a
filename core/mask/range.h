// Four points on a scale: full between the inner two, fading to none at the outer two.
//
//   1 |      .-----.            raised cosine between outer and inner point on both sides
//     |    ,'       `.          a fade of no width is a step
//   0 |---'           `-----
//        p0  p1    p2  p3
// On a circle (hue) the points go round: p0 <= p1 <= p2 <= p3 <= p0 + 360.
#pragma once

#include <array>
#include <nlohmann/json_fwd.hpp>
#include <string_view>

#include "core/base/content_key.h"
#include "core/base/error.h"

namespace dimhem::mask {

struct Range {
    std::array<double, 4> points{};
    friend bool operator==(const Range&, const Range&) = default;
};

inline void addTo(base::KeyBuilder& key, const Range& range) {
    key.add(std::span<const double>(range.points));
}

double weightOn(const Range& range, double value);          // on a line
double weightOnCircle(const Range& range, double degrees);  // degrees of any turn

// "range": [p0, p1, p2, p3] in rising order within [min, max].
base::Result<Range> readRange(const nlohmann::json& object, std::string_view name, double min, double max);
// [p0, p1, p2, p3] in degrees; p0 in -360..360, rising, at most one turn in all.
base::Result<Range> readCircleRange(const nlohmann::json& object, std::string_view name);

}  // namespace dimhem::mask
