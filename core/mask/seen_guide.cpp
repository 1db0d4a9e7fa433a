#include "core/mask/seen_guide.h"

#include <algorithm>
#include <vector>

#include "core/image/tiles.h"

namespace dimhem::mask {

namespace {

constexpr int guideTilePx = 64;  // small, so that a stroke that goes on never waits for many at once
constexpr int smoothReach = 4;   // of the filter that takes the noise away

void copyShared(const edge::Guide& from, const base::Rect& fromRect, edge::Guide& to, const base::Rect& toRect) {
    image::copyShared(from.l, fromRect, to.l, toRect);
    image::copyShared(from.a, fromRect, to.a, toRect);
    image::copyShared(from.b, fromRect, to.b, toRect);
}

edge::Guide emptyGuide(base::Size size) {
    return {image::Plane<float>(size), image::Plane<float>(size), image::Plane<float>(size)};
}

Staged<edge::Guide> smoothTile(const Area& tile, const PhotoRead& photo) {
    return stage::kept(photo.store(), staged<edge::Guide>(
                                          "smooth guide",
                                          [](const PhotoRead& photo, const Area& tile) {
                                              const Area wide = image::grown(tile, smoothReach);
                                              const edge::Guide smooth =
                                                  edge::denoised(guideOver(wide, photo), noiseAt(tile.level, photo));
                                              edge::Guide own = emptyGuide(tile.rect.size());
                                              copyShared(smooth, wide.rect, own, tile.rect);
                                              return own;
                                          },
                                          photo, tile));
}

double measuredNoise(int level, const PhotoRead& photo) {
    constexpr int across = 5, windowPx = 96;
    const base::Size size = image::levelSize(photo.size(), level);
    std::vector<double> found;
    for (int i = 0; i < across * across; ++i) {
        const int x = (2 * (i % across) + 1) * size.width / (2 * across) - windowPx / 2;
        const int y = (2 * (i / across) + 1) * size.height / (2 * across) - windowPx / 2;
        const base::Rect window = base::intersected({x, y, x + windowPx, y + windowPx}, base::rectOf(size));
        if (window.empty()) continue;
        found.push_back(edge::noiseOf(guideOver({window, level}, photo).l));
    }
    if (found.empty()) return 0;
    const auto middle = found.begin() + static_cast<std::ptrdiff_t>(found.size() / 2);
    std::nth_element(found.begin(), middle, found.end());
    return *middle;
}

}  // namespace

edge::Guide guideOver(const Area& area, const PhotoRead& photo) {
    return edge::guideFrom(photo.picture(area));
}

edge::Guide smoothGuideOver(const Area& area, const PhotoRead& photo) {
    edge::Guide out = emptyGuide(area.rect.size());
    forEachTile(area, guideTilePx,
                [&](const Area& tile) { copyShared(*smoothTile(tile, photo).value(), tile.rect, out, area.rect); });
    return out;
}

double noiseAt(int level, const PhotoRead& photo) {
    return *stage::kept(photo.store(),
                        staged<double>(
                            "noise", [](const PhotoRead& photo, int level) { return measuredNoise(level, photo); },
                            photo, level))
                .value();
}

}  // namespace dimhem::mask
