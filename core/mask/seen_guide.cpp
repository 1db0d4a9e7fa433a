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

std::shared_ptr<const edge::Guide> smoothTile(const Area& tile, Context& context) {
    const base::ContentKey key =
        base::KeyBuilder().add("smooth guide").add(context.pictureKey(Seen::photo, tile)).key();
    return madeOnce<edge::Guide>(
        context, key,
        [&] {
            const Area wide{base::grown(tile.rect, smoothReach), tile.level};
            const edge::Guide smooth = edge::denoised(guideOver(wide, context), noiseAt(tile.level, context));
            auto own = std::make_shared<edge::Guide>(emptyGuide(tile.rect.size()));
            copyShared(smooth, wide.rect, *own, tile.rect);
            return own;
        },
        [](const edge::Guide& guide) { return 3 * guide.l.bytes(); });
}

double measuredNoise(int level, Context& context) {
    constexpr int across = 5, windowPx = 96;
    const base::Size size = image::levelSize(context.photoSize(), level);
    std::vector<double> found;
    for (int i = 0; i < across * across; ++i) {
        const int x = (2 * (i % across) + 1) * size.width / (2 * across) - windowPx / 2;
        const int y = (2 * (i / across) + 1) * size.height / (2 * across) - windowPx / 2;
        const base::Rect window = base::intersected({x, y, x + windowPx, y + windowPx}, base::rectOf(size));
        if (window.empty()) continue;
        found.push_back(edge::noiseOf(guideOver({window, level}, context).l));
    }
    if (found.empty()) return 0;
    const auto middle = found.begin() + static_cast<std::ptrdiff_t>(found.size() / 2);
    std::nth_element(found.begin(), middle, found.end());
    return *middle;
}

}  // namespace

edge::Guide guideOver(const Area& area, Context& context) {
    image::EncodedPlanes picture(area.rect.size());
    context.readPicture(Seen::photo, area, picture);
    return edge::guideFrom(std::move(picture));
}

edge::Guide smoothGuideOver(const Area& area, Context& context) {
    edge::Guide out = emptyGuide(area.rect.size());
    image::forEachTile(area.rect, guideTilePx, [&](const base::Rect& tile) {
        copyShared(*smoothTile({tile, area.level}, context), tile, out, area.rect);
    });
    return out;
}

double noiseAt(int level, Context& context) {
    const Area whole{base::rectOf(image::levelSize(context.photoSize(), level)), level};
    const base::ContentKey key = base::KeyBuilder().add("noise").add(context.pictureKey(Seen::photo, whole)).key();
    return *madeOnce<double>(
        context, key, [&] { return std::make_shared<const double>(measuredNoise(level, context)); },
        [](double) { return sizeof(double); });
}

}  // namespace dimhem::mask
