#include "core/adjust/covered.h"

namespace dimhem::adjust {

Covered::Covered(base::Size level)
    : grid_(level, image::defaultTilePx), across_((level.width + image::defaultTilePx - 1) / image::defaultTilePx) {
    const int down = (level.height + image::defaultTilePx - 1) / image::defaultTilePx;
    pieces_.assign(static_cast<std::size_t>(across_) * static_cast<std::size_t>(down), -1);
}

std::size_t Covered::indexOf(const base::Rect& tile) const {
    return static_cast<std::size_t>(tile.y0 / image::defaultTilePx) * static_cast<std::size_t>(across_) +
           static_cast<std::size_t>(tile.x0 / image::defaultTilePx);
}

void Covered::join(const std::vector<base::Rect>& rects) {
    const int down = static_cast<int>(rects.size()) / across_;
    std::vector<std::size_t> waiting;
    for (std::size_t first = 0; first < rects.size(); ++first) {
        if (rects[first].empty() || pieces_[first] >= 0) continue;
        const int piece = static_cast<int>(rects_.size());
        rects_.emplace_back();
        pieces_[first] = piece;
        waiting.push_back(first);
        while (!waiting.empty()) {
            const std::size_t now = waiting.back();
            waiting.pop_back();
            rects_.back() = base::united(rects_.back(), rects[now]);
            const int column = static_cast<int>(now) % across_, row = static_cast<int>(now) / across_;
            for (int y = std::max(0, row - 1); y <= std::min(down - 1, row + 1); ++y) {
                for (int x = std::max(0, column - 1); x <= std::min(across_ - 1, column + 1); ++x) {
                    const auto next =
                        static_cast<std::size_t>(y) * static_cast<std::size_t>(across_) + static_cast<std::size_t>(x);
                    if (rects[next].empty() || pieces_[next] >= 0) continue;
                    pieces_[next] = piece;
                    waiting.push_back(next);
                }
            }
        }
    }
}

}  // namespace dimhem::adjust
