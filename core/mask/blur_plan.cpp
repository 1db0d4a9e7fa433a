#include "core/mask/blur_plan.h"

#include <algorithm>
#include <cmath>

#include "core/image/tiles.h"
#include "core/kernel/bilinear.h"
#include "core/kernel/coverage_rows.h"
#include "core/kernel/gaussian.h"

namespace dimhem::mask {

namespace {

constexpr double shortestSigma = 4;

std::uint16_t coverageFrom(float v) {
    return static_cast<std::uint16_t>(std::clamp(v, 0.0f, 1.0f) * kernel::fullCoverage + 0.5f);
}

}  // namespace

BlurPlan planBlur(const Area& area, double sigmaPx, double extraPx) {
    const double here = sigmaPx / area.scale();
    const int coarser = here >= 2 * shortestSigma ? static_cast<int>(std::floor(std::log2(here / shortestSigma))) : 0;
    BlurPlan plan;
    plan.area.level = std::min(area.level + coarser, std::max(area.level, image::maxLevel));
    const int shift = plan.area.level - area.level;
    plan.sigma = sigmaPx / plan.area.scale();
    const int margin = kernel::gaussianReach(plan.sigma) + static_cast<int>(std::ceil(extraPx / plan.area.scale())) +
                       (shift > 0 ? 2 : 0);
    const int round = (1 << shift) - 1;
    plan.area.rect = {(area.rect.x0 >> shift) - margin, (area.rect.y0 >> shift) - margin,
                      ((area.rect.x1 + round) >> shift) + margin, ((area.rect.y1 + round) >> shift) + margin};
    return plan;
}

CoveragePtr readBack(const image::Plane<float>& plane, const BlurPlan& plan, const Area& area) {
    image::Plane<std::uint16_t> out(area.rect.size());
    const int shift = plan.area.level - area.level;
    const double scale = 1.0 / (1 << shift);
    for (int y = 0; y < area.rect.height(); ++y) {
        std::uint16_t* row = out.row(y).data();
        if (shift == 0) {
            const float* from =
                plane.row(area.rect.y0 + y - plan.area.rect.y0).data() + (area.rect.x0 - plan.area.rect.x0);
            std::transform(from, from + area.rect.width(), row, [](float v) { return coverageFrom(v); });
            continue;
        }
        for (int x = 0; x < area.rect.width(); ++x) {
            row[x] = coverageFrom(
                static_cast<float>(kernel::bilinear(plane, (area.rect.x0 + x + 0.5) * scale - plan.area.rect.x0,
                                                    (area.rect.y0 + y + 0.5) * scale - plan.area.rect.y0)));
        }
    }
    return std::make_shared<Coverage>(std::move(out));
}

}  // namespace dimhem::mask
