#include "core/mask/painted.h"

namespace dimhem::mask {

Staged<image::RgbaPlanes> painted(const Mask& mask, const Area& area, Context& context) {
    auto out = staged<image::RgbaPlanes>(
        "nothing painted", [](base::Size size) { return image::RgbaPlanes(size); }, area.rect.size());
    for (const PartPtr& part : mask.parts) {
        if (part->enabled && part->shape->paints()) out = part->shape->painted(std::move(out), area, context);
    }
    return out;
}

void layOver(const image::RgbaPlanes& layer, image::RgbaPlanes& below) {
    const base::Size size = layer.alpha.size();
    for (int y = 0; y < size.height; ++y) {
        const auto upper = layer.alpha.row(y);
        const auto lower = below.alpha.row(y);
        const std::pair<std::span<const float>, std::span<float>> channels[] = {
            {layer.colours.red.row(y), below.colours.red.row(y)},
            {layer.colours.green.row(y), below.colours.green.row(y)},
            {layer.colours.blue.row(y), below.colours.blue.row(y)}};
        for (std::size_t x = 0; x < upper.size(); ++x) {
            const float a = upper[x], b = lower[x] * (1 - a), both = a + b;
            if (!(a > 0)) continue;
            for (const auto& [from, to] : channels) to[x] = b > 0 ? (a * from[x] + b * to[x]) / both : from[x];
            lower[x] = both;
        }
    }
}

}  // namespace dimhem::mask
