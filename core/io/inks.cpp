#include "core/io/inks.h"

#include "core/colour/srgb.h"

namespace dimhem::io {

Inks::Inks(const std::vector<std::uint8_t>& profile, std::vector<std::string>& warnings) {
    constexpr int inkCount = 4;
    if (auto transform = colour::IccTransform::toWorking(profile, inkCount)) {
        transform_ = std::move(*transform);
    } else {
        warnings.push_back(profile.empty()
                               ? "The photo holds printing inks without a colour profile; its colours are estimated."
                               : "The photo's colour profile cannot be used for its printing inks; its colours are "
                                 "estimated.");
    }
}

void Inks::row(const float* inks, float* light, std::size_t pixels) const {
    if (transform_) return transform_->row(inks, light, pixels);
    for (std::size_t x = 0; x < pixels; ++x) {
        const float* ink = inks + 4 * x;
        for (std::size_t c = 0; c < 3; ++c) {
            const double encoded = (1.0 - double{ink[c]}) * (1.0 - double{ink[3]});
            light[3 * x + c] = static_cast<float>(colour::linearFromEncoded(encoded));
        }
    }
}

}  // namespace dimhem::io
