#include "core/mask/painted.h"

namespace dimhem::mask {

Staged<image::RgbaPlanes> painted(const Mask& mask, const Area& area, Context& context) {
    std::vector<PaintStep> steps;
    for (const PartPtr& part : mask.parts) {
        if (!part->enabled || !part->shape->paints()) continue;
        if (auto step = part->shape->painting(area, context)) steps.push_back(std::move(*step));
    }
    return staged<image::RgbaPlanes>(
        "painted",
        [](const std::vector<PaintStep>& steps, base::Size size) {
            image::RgbaPlanes out(size);
            for (const PaintStep& step : steps) step.apply(out);
            return out;
        },
        std::move(steps), area.rect.size());
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
