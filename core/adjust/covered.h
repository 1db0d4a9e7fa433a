// Where the mask of a correction covers a level, in pieces that lie well apart: those of its tiles that are covered
// anywhere, joined where they touch.
#pragma once

#include <vector>

#include "core/base/rect.h"
#include "core/image/tiles.h"

namespace dimhem::adjust {

class Covered {
public:
    // `covered(tile)`: the smallest rectangle that holds what is covered of a tile.
    template <class InTile>
    static Covered lookFor(base::Size level, InTile covered) {
        Covered out(level);
        std::vector<base::Rect> rects(out.pieces_.size());
        out.grid_.forEach(base::rectOf(level),
                          [&](const base::Rect& tile) { rects[out.indexOf(tile)] = covered(tile); });
        out.join(rects);
        return out;
    }

    bool isEmpty() const { return rects_.empty(); }
    const image::TileGrid& grid() const { return grid_; }
    // The piece a tile belongs to; -1 where nothing of it is covered.
    int pieceOf(const base::Rect& tile) const { return pieces_[indexOf(tile)]; }
    const base::Rect& rectOf(int piece) const { return rects_[static_cast<std::size_t>(piece)]; }

private:
    explicit Covered(base::Size level);
    std::size_t indexOf(const base::Rect& tile) const;
    void join(const std::vector<base::Rect>& rects);

    image::TileGrid grid_;
    int across_;
    std::vector<int> pieces_;  // of each tile
    std::vector<base::Rect> rects_;
};

}  // namespace dimhem::adjust
