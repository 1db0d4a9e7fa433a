#include "core/image/area_mean.h"

#include <algorithm>
#include <cmath>

namespace dimhem::image {

std::vector<AxisShare> axisShares(int from, int to) {
    std::vector<AxisShare> shares(static_cast<std::size_t>(to));
    for (int i = 0; i < to; ++i) {
        // Whole numbers, in units of 1 / to of a pixel: ends that meet a pixel's border do so exactly.
        const long long begin = static_cast<long long>(i) * from, end = begin + from;
        const auto first = begin / to, last = (end - 1) / to;
        const auto part = [to](long long covered) { return static_cast<float>(static_cast<double>(covered) / to); };
        shares[static_cast<std::size_t>(i)] = {static_cast<int>(first), static_cast<int>(last),
                                               part(std::min(end, (first + 1) * to) - begin), part(end - last * to),
                                               static_cast<float>(static_cast<double>(to) / from)};
    }
    return shares;
}

void meanRow(std::span<const float> row, std::span<const AxisShare> shares, std::span<float> out) {
    for (std::size_t i = 0; i < shares.size(); ++i) {
        const AxisShare& share = shares[i];
        float sum = row[static_cast<std::size_t>(share.first)] * share.firstPart;
        for (int x = share.first + 1; x < share.last; ++x) sum += row[static_cast<std::size_t>(x)];
        if (share.last > share.first) sum += row[static_cast<std::size_t>(share.last)] * share.lastPart;
        out[i] = sum * share.scale;
    }
}

base::Size sizeWithin(base::Size size, int longSidePx) {
    const int longer = std::max(size.width, size.height);
    if (longer <= longSidePx) return size;
    const auto side = [&](int px) {
        return std::max(1, static_cast<int>(std::lround(static_cast<double>(px) * longSidePx / longer)));
    };
    return {side(size.width), side(size.height)};
}

}  // namespace dimhem::image
