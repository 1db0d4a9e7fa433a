#include "core/mask/gathered.h"

#include <algorithm>

#include "core/kernel/coverage_rows.h"
#include "core/mask/beyond_photo.h"

namespace dimhem::mask {

void copyInto(image::Plane<float>& out, const base::Rect& outRect, const Coverage& from, const base::Rect& fromRect) {
    const base::Rect both = base::intersected(fromRect, outRect);
    for (int y = both.y0; y < both.y1; ++y) {
        float* to = out.row(y - outRect.y0).data() + (both.x0 - outRect.x0);
        for (int x = both.x0; x < both.x1; ++x) {
            const std::uint16_t v = from.isConstant() ? from.value() : from.row(y - fromRect.y0)[x - fromRect.x0];
            *to++ = static_cast<float>(v) / kernel::fullCoverage;
        }
    }
}

Area nearPhoto(base::Size photo, const Area& area) {
    constexpr int nearPx = 256;  // of the level: further than any mask looks about a pixel of the photo to be seen
    const base::Rect near = base::grown(base::rectOf(image::levelSize(photo, area.level)), nearPx);
    const base::Rect& r = area.rect;
    const int x0 = std::clamp(r.x0, near.x0, near.x1 - 1), y0 = std::clamp(r.y0, near.y0, near.y1 - 1);
    return {{x0, y0, std::clamp(r.x1, x0 + 1, near.x1), std::clamp(r.y1, y0 + 1, near.y1)}, area.level};
}

stage::Staged<image::Plane<float>> valuesNearPhoto(std::vector<CoverageTile> tiles, const Area& near,
                                                   const Area& area) {
    return stage::staged<image::Plane<float>>(
        "gathered values",
        [](const std::vector<CoverageTile>& tiles, const Area& near, const Area& area) {
            image::Plane<float> out(near.rect.size());
            for (const CoverageTile& tile : tiles) copyInto(out, near.rect, *tile.coverage.value(), tile.area.rect);
            return near == area ? std::move(out) : extended(out, near.rect, area.rect);
        },
        std::move(tiles), near, area);
}

stage::Staged<Coverage> gathered(std::vector<CoverageTile> tiles, const Area& area) {
    return stage::staged<Coverage>(
        "gathered",
        [](const std::vector<CoverageTile>& tiles, const Area& area) {
            image::Plane<std::uint16_t> out(area.rect.size());
            for (const CoverageTile& tile : tiles) {
                const CoveragePtr coverage = tile.coverage.value();
                const base::Rect both = base::intersected(tile.area.rect, area.rect);
                for (int y = both.y0; y < both.y1; ++y) {
                    std::uint16_t* to = out.row(y - area.rect.y0).data() + (both.x0 - area.rect.x0);
                    if (coverage->isConstant()) {
                        std::fill_n(to, both.width(), coverage->value());
                    } else {
                        std::copy_n(coverage->row(y - tile.area.rect.y0) + (both.x0 - tile.area.rect.x0), both.width(),
                                    to);
                    }
                }
            }
            return Coverage(std::move(out));
        },
        std::move(tiles), area);
}

}  // namespace dimhem::mask
