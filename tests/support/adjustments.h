// Adjustments applied to single colours.
#pragma once

#include "core/adjust/adjustment.h"
#include "core/colour/srgb.h"

namespace dimhem::tests {

inline colour::EncodedRgb applied(const adjust::AdjustmentKind& kind, const adjust::Settings& settings,
                                  const colour::EncodedRgb& in) {
    float r = static_cast<float>(in.r), g = static_cast<float>(in.g), b = static_cast<float>(in.b);
    adjust::apply(kind.prepare(settings), {&r, &g, &b}, 1);
    return {r, g, b};
}

// The neutral settings but for these numbers.
inline adjust::Settings with(const adjust::AdjustmentKind& kind,
                             std::initializer_list<std::pair<std::string_view, double>> set) {
    adjust::Settings settings = adjust::neutralSettings(kind);
    for (const auto& [id, value] : set) {
        for (std::size_t i = 0; i < kind.params.size(); ++i) {
            if (kind.params[i].id == id) settings.values[i] = value;
        }
    }
    return settings;
}

inline double luminance(const colour::EncodedRgb& c) {
    return colour::luminance(colour::linearFromEncoded(c));
}

}  // namespace dimhem::tests
