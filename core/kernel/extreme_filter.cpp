#include "core/kernel/extreme_filter.h"

#include <algorithm>
#include <limits>
#include <vector>

namespace dimhem::kernel {

namespace {

// Windows of a length made of windows of twice, four times ... the length of one, two of the longest laid over each
// other: `row` has `count` values, of which the outcome has length - 1 fewer.
template <class Pick>
void shortened(std::vector<float>& row, std::size_t count, std::size_t length, Pick pick) {
    std::size_t step = 1;
    const auto widen = [&](std::size_t by) {
        for (std::size_t i = 0; i + by < count; ++i) row[i] = pick(row[i], row[i + by]);
        count -= by;
    };
    for (; 2 * step <= length; step *= 2) widen(step);
    if (step < length) widen(length - step);
}

// Rows, then columns.
template <class Pick>
image::Plane<float> extremes(const image::Plane<float>& values, int radius, float none, Pick pick) {
    const base::Size size = values.size();
    const auto r = static_cast<std::size_t>(radius), length = 2 * r + 1;
    image::Plane<float> across(size), out(size);
    std::vector<float> line;
    for (int y = 0; y < size.height; ++y) {
        line.assign(static_cast<std::size_t>(size.width) + 2 * r, none);
        std::copy(values.row(y).begin(), values.row(y).end(), line.begin() + radius);
        shortened(line, line.size(), length, pick);
        std::copy_n(line.begin(), size.width, across.row(y).begin());
    }
    for (int y = 0; y < size.height; ++y) {
        const int first = std::max(0, y - radius), last = std::min(size.height - 1, y + radius);
        const auto to = out.row(y);
        std::copy(across.row(first).begin(), across.row(first).end(), to.begin());
        for (int row = first + 1; row <= last; ++row) {
            const auto from = across.row(row);
            for (std::size_t x = 0; x < to.size(); ++x) to[x] = pick(to[x], from[x]);
        }
    }
    return out;
}

}  // namespace

image::Plane<float> leastAround(const image::Plane<float>& values, int radius) {
    return extremes(values, radius, std::numeric_limits<float>::max(), [](float a, float b) { return a < b ? a : b; });
}

image::Plane<float> greatestAround(const image::Plane<float>& values, int radius) {
    return extremes(values, radius, std::numeric_limits<float>::lowest(),
                    [](float a, float b) { return a > b ? a : b; });
}

}  // namespace dimhem::kernel
