#include "core/mask/range.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "core/json/fields.h"

namespace dimhem::mask {

namespace {

double raisedCosine(double t) {
    return 0.5 - 0.5 * std::cos(std::numbers::pi * std::clamp(t, 0.0, 1.0));
}

base::Result<Range> readFour(const nlohmann::json& object, std::string_view name) {
    const auto found = object.find(name);
    const bool four = found != object.end() && found->is_array() && found->size() == 4 &&
                      std::all_of(found->begin(), found->end(), [](const auto& v) { return v.is_number(); });
    if (!four) return fields::wrongField(name, "a list of four numbers");
    Range range;
    for (std::size_t i = 0; i < 4; ++i) range.points[i] = (*found)[i].template get<double>();
    if (!std::is_sorted(range.points.begin(), range.points.end()))
        return fields::wrongField(name, "four numbers in rising order");
    return range;
}

}  // namespace

double weightOn(const Range& range, double value) {
    const auto& p = range.points;
    if (value < p[0] || value > p[3]) return 0;
    if (value < p[1]) return raisedCosine((value - p[0]) / (p[1] - p[0]));
    if (value > p[2]) return raisedCosine((p[3] - value) / (p[3] - p[2]));
    return 1;
}

double weightOnCircle(const Range& range, double degrees) {
    // The turn that begins at the first point.
    const double from = range.points[0];
    double v = std::fmod(degrees - from, 360.0);
    if (v < 0) v += 360;
    return weightOn(range, from + v);
}

base::Result<Range> readRange(const nlohmann::json& object, std::string_view name, double min, double max) {
    auto range = readFour(object, name);
    if (range && !(range->points[0] >= min && range->points[3] <= max)) {
        return fields::wrongField(
            name, "within " + std::to_string(static_cast<int>(min)) + " and " + std::to_string(static_cast<int>(max)));
    }
    return range;
}

base::Result<Range> readCircleRange(const nlohmann::json& object, std::string_view name) {
    auto range = readFour(object, name);
    if (range && !(range->points[0] >= -360 && range->points[0] <= 360 && range->points[3] - range->points[0] <= 360)) {
        return fields::wrongField(name, "degrees of one turn");
    }
    return range;
}

}  // namespace dimhem::mask
