// The finished picture in a smaller size: rendered at its full size, band by band, then averaged in linear light, so
// that corrections that look at fine detail do in a small file what they do in a large one.
#pragma once

#include <deque>
#include <functional>
#include <vector>

#include "core/base/error.h"
#include "core/base/parallel.h"
#include "core/image/area_mean.h"
#include "core/image/rgba_planes.h"

namespace dimhem::task {

class SmallerPicture {
public:
    // Rows [y0, y1) of the full picture, encoded sRGB; alpha 1 where the picture has none.
    using FullRows = std::function<base::Result<image::RgbaPlanes>(int y0, int y1)>;

    SmallerPicture(base::Size from, base::Size to, int bandPx, FullRows full, base::Workers workers);

    // Rows of the smaller picture, encoded sRGB, asked for from the top downwards.
    base::Result<image::RgbaPlanes> rows(int y0, int y1);

private:
    // One row of the full picture, as wide as the smaller one: linear light times alpha, and alpha.
    struct Narrow {
        std::vector<float> channels[4];
    };
    base::Result<void> readBand();
    Narrow narrowed(image::RgbaPlanes& band, int y) const;
    void putRow(const image::AxisShare& share, int y, image::RgbaPlanes& out) const;

    base::Size from_, to_;
    int bandPx_;
    FullRows full_;
    base::Workers workers_;
    std::vector<image::AxisShare> across_, down_;
    std::deque<Narrow> narrow_;  // the rows [firstRow_, firstRow_ + size) of the full picture that are still needed
    int firstRow_ = 0;
};

}  // namespace dimhem::task
