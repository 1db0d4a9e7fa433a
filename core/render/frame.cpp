#include "core/render/frame.h"

#include <algorithm>

#include "core/image/tiles.h"

namespace dimhem::render {

bool renderFrame(const Renderer& renderer, const FrameRequest& request, const base::Workers& workers,
                 const base::CancelToken& cancel,
                 const std::function<void(const base::Rect&, const std::shared_ptr<const DisplayTile>&)>& done) {
    const image::TileGrid grid(image::levelSize(renderer.photo().size(), request.level), image::defaultTilePx);
    std::vector<base::Rect> tiles;
    grid.forEach(request.rect, [&](const base::Rect& tile) { tiles.push_back(tile); });
    const auto distance = [&](const base::Rect& r) {
        const double dx = (r.x0 + r.x1) / 2.0 - request.focus.x, dy = (r.y0 + r.y1) / 2.0 - request.focus.y;
        return dx * dx + dy * dy;
    };
    std::sort(tiles.begin(), tiles.end(), [&](const auto& a, const auto& b) { return distance(a) < distance(b); });

    const Sequence sequence(request.document, request.view.comparison, cancel);
    const TileCache::Hold hold = renderer.hold();  // a frame's tiles look at one another's surroundings
    return base::parallelFor(tiles.size(), workers, cancel, [&](std::size_t i) {
        done(tiles[i], renderer.display(sequence, request.view, {tiles[i], request.level}));
    });
}

}  // namespace dimhem::render
