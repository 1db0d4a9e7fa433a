// Pictures rendered whole, in tiles of any size.
#pragma once

#include <cstring>

#include "core/image/tiles.h"
#include "core/render/renderer.h"

namespace dimhem::tests {

// The whole picture of a level, put together from tiles of one size by a number of workers.
inline image::EncodedPlanes assembled(const render::Renderer& renderer, const document::DocumentPtr& document,
                                      int level, int tilePx, const base::Workers& workers, document::Id keepBelow = 0) {
    const base::Size size = image::levelSize(renderer.photo().size(), level);
    const image::TileGrid grid(size, tilePx);
    const render::Sequence sequence(document, {});
    image::EncodedPlanes whole(size);
    base::parallelForAll(grid.count(), workers, {}, [&](std::size_t i) {
        const base::Rect rect = grid.tile(static_cast<int>(i) % grid.columns(), static_cast<int>(i) / grid.columns());
        image::EncodedPlanes tile(rect.size());
        renderer.picture(sequence, {rect, level}, tile, keepBelow);
        image::copyShared(tile, rect, whole, base::rectOf(size));
    });
    return whole;
}

inline bool sameBits(const image::EncodedPlanes& a, const image::EncodedPlanes& b) {
    for (int y = 0; y < a.size().height; ++y) {
        for (const auto& [p, q] : {std::pair{&a.red, &b.red}, {&a.green, &b.green}, {&a.blue, &b.blue}}) {
            if (std::memcmp(p->row(y).data(), q->row(y).data(),
                            sizeof(float) * static_cast<std::size_t>(a.size().width)) != 0)
                return false;
        }
    }
    return true;
}

}  // namespace dimhem::tests
