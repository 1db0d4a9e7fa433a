#include "core/task/smaller_picture.h"

#include <algorithm>

#include "core/kernel/srgb_rows.h"

namespace dimhem::task {

SmallerPicture::SmallerPicture(base::Size from, base::Size to, int bandPx, FullRows full, base::Workers workers)
    : from_(from),
      to_(to),
      bandPx_(bandPx),
      full_(std::move(full)),
      workers_(std::move(workers)),
      across_(image::axisShares(from.width, to.width)),
      down_(image::axisShares(from.height, to.height)) {}

base::Result<image::RgbaPlanes> SmallerPicture::rows(int y0, int y1) {
    image::RgbaPlanes out({to_.width, y1 - y0});
    for (int y = y0; y < y1; ++y) {
        const image::AxisShare& share = down_[static_cast<std::size_t>(y)];
        for (; firstRow_ < share.first && !narrow_.empty(); ++firstRow_) narrow_.pop_front();
        while (firstRow_ + static_cast<int>(narrow_.size()) <= share.last) {
            if (auto read = readBand(); !read) return tl::unexpected(read.error());
        }
        putRow(share, y - y0, out);
    }
    return out;
}

base::Result<void> SmallerPicture::readBand() {
    const int y0 = firstRow_ + static_cast<int>(narrow_.size());
    auto band = full_(y0, std::min(y0 + bandPx_, from_.height));
    if (!band) return tl::unexpected(band.error());
    const auto count = static_cast<std::size_t>(band->alpha.size().height);
    std::vector<Narrow> rows(count);
    base::parallelForAll(count, workers_, {}, [&](std::size_t y) { rows[y] = narrowed(*band, static_cast<int>(y)); });
    std::ranges::move(rows, std::back_inserter(narrow_));
    return {};
}

SmallerPicture::Narrow SmallerPicture::narrowed(image::RgbaPlanes& band, int y) const {
    Narrow narrow;
    const auto alpha = band.alpha.row(y);
    const std::span<float> colours[] = {band.colours.red.row(y), band.colours.green.row(y), band.colours.blue.row(y)};
    const auto keep = [&](std::span<const float> row, std::vector<float>& to) {
        to.resize(across_.size());
        image::meanRow(row, across_, to);
    };
    for (std::size_t c = 0; c < 3; ++c) {
        kernel::decodeRow(colours[c].data(), colours[c].size());
        for (std::size_t x = 0; x < alpha.size(); ++x) colours[c][x] *= alpha[x];
        keep(colours[c], narrow.channels[c]);
    }
    keep(alpha, narrow.channels[3]);
    return narrow;
}

void SmallerPicture::putRow(const image::AxisShare& share, int y, image::RgbaPlanes& out) const {
    const std::span<float> to[] = {out.colours.red.row(y), out.colours.green.row(y), out.colours.blue.row(y),
                                   out.alpha.row(y)};
    for (std::size_t c = 0; c < 4; ++c) {
        std::ranges::fill(to[c], 0.0f);
        for (int from = share.first; from <= share.last; ++from) {
            const std::vector<float>& row = narrow_[static_cast<std::size_t>(from - firstRow_)].channels[c];
            const float part = share.of(from);
            for (std::size_t x = 0; x < row.size(); ++x) to[c][x] += row[x] * part;
        }
    }
    for (std::size_t c = 0; c < 3; ++c) {
        for (std::size_t x = 0; x < to[c].size(); ++x) to[c][x] = to[3][x] > 0 ? to[c][x] / to[3][x] : 0.0f;
        kernel::encodeRow(to[c].data(), to[c].size());
    }
}

}  // namespace dimhem::task
