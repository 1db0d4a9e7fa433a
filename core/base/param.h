// The description of one parameter of an adjustment or tool, kept beside the code that uses it.
//
// Sliders and fields, document reading, validation, the command line and tests all read this table; a range or a
// neutral value is written nowhere else. Nor is a parameter's place in a table: a struct's value is reached through its
// MemberParam, one of a list of values by placeOf its id.
#pragma once

#include <algorithm>
#include <span>
#include <string_view>

namespace dimhem::base {

enum class Scale {
    linear,
    logarithmic,   // equal steps of the hand are equal factors; min > 0
    reciprocal,    // equal steps of the hand are equal steps of 1/value (colour temperature, in mired); min > 0
    aboutNeutral,  // the hand's steps are smaller near the neutral value, where such a parameter is mostly used
};

struct ParamSpec {
    std::string_view id;         // as written in documents
    std::string_view label;      // as shown
    std::string_view unit = {};  // "", "%", "px", "EV", "K"
    double min = 0;
    double max = 1;
    double neutral = 0;  // for adjustments: where it does nothing; for tools: the value they start with
    double step = 1;     // of the arrow keys
    int decimals = 0;    // shown
    std::string_view tip;
    Scale scale = Scale::linear;
    bool toggle = false;  // 0 off, 1 on
};

inline bool inRange(const ParamSpec& spec, double value) {
    return value >= spec.min && value <= spec.max;  // false for NaN
}

inline double clamped(const ParamSpec& spec, double value) {
    return std::clamp(value, spec.min, spec.max);
}

// As far on the other side of the neutral value, as far as the range goes; of a reciprocal scale in 1/value.
inline double mirrored(const ParamSpec& spec, double value) {
    if (spec.scale != Scale::reciprocal) return clamped(spec, 2 * spec.neutral - value);
    const double inverse = 2 / spec.neutral - 1 / value;
    return inverse > 0 ? clamped(spec, 1 / inverse) : spec.max;
}

inline const ParamSpec* findParam(std::span<const ParamSpec> specs, std::string_view id) {
    const auto found = std::find_if(specs.begin(), specs.end(), [&](const ParamSpec& s) { return s.id == id; });
    return found == specs.end() ? nullptr : &*found;
}

// A parameter and the member that holds its value.
template <class T>
struct MemberParam {
    ParamSpec spec;
    double T::*value;
};

// Where a parameter stands among others; an id that is not there does not compile.
consteval std::size_t placeOf(std::span<const ParamSpec> specs, std::string_view id) {
    std::size_t place = 0;
    while (specs[place].id != id) ++place;
    return place;
}

}  // namespace dimhem::base
