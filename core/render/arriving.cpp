// The picture as it arrives at a step, on tiles of a fixed grid.
#include <algorithm>

#include "core/image/tiles.h"
#include "core/render/renderer.h"

namespace dimhem::render {

namespace {

base::ContentKey arrivingQuestion(const base::ContentKey& tile, std::size_t steps) {
    return base::KeyBuilder().add("arriving").add(tile).add(steps).key();
}

}  // namespace

base::ContentKey Renderer::arrivingKey(const Sequence& sequence, std::size_t steps, const mask::Area& area) const {
    if (steps == 0) return photoKey(area);
    base::KeyBuilder key;
    gridOf(area.level).forEach(area.rect, [&](const base::Rect& tile) {
        key.add(arrivingTileKey(sequence, steps, {tile, area.level}));
    });
    return key.key();
}

base::ContentKey Renderer::arrivingTileKey(const Sequence& sequence, std::size_t steps, const mask::Area& tile) const {
    base::ContentKey key = photoKey(tile);
    const base::ContentKey place = key;
    std::size_t known = steps;
    while (known > 0) {
        if (const auto found = sequence.knownKey(arrivingQuestion(place, known))) {
            key = *found;
            break;
        }
        --known;
    }
    for (std::size_t i = known; i < steps; ++i) {
        key = touch(sequence, i, tile, key).after;
        sequence.keepKey(arrivingQuestion(place, i + 1), key);
    }
    return key;
}

std::shared_ptr<const StagePicture> Renderer::arrivingTile(const Sequence& sequence, std::size_t steps,
                                                           const mask::Area& tile) const {
    const base::ContentKey wanted = arrivingTileKey(sequence, steps, tile);
    if (auto known = cache_->findPicture(wanted)) return known;
    // On from the latest step whose outcome is still there.
    std::size_t from = steps;
    std::shared_ptr<const StagePicture> below;
    while (from > 0 && !below) {
        --from;
        if (from > 0) below = cache_->findPicture(arrivingTileKey(sequence, from, tile));
    }
    auto made = std::make_shared<StagePicture>(tile.rect.size());
    if (below) {
        made->copyFrom(*below);
    } else {
        photo_->read(tile.rect, tile.level, made->planes);
    }
    std::vector<Touch> touches;
    for (std::size_t i = from; i < steps; ++i) {
        Touch found = touch(sequence, i, tile, {}, Keys::none);
        if (!found.coverage->isEmpty()) touches.push_back(std::move(found));
    }
    compose(sequence, touches, tile, *made);
    cache_->keepPicture(wanted, made);
    return made;
}

void Renderer::readArriving(const Sequence& sequence, std::size_t steps, const mask::Area& area,
                            image::EncodedPlanes& out) const {
    if (steps == 0) return photo_->read(area.rect, area.level, out);
    gridOf(area.level).forEach(area.rect, [&](const base::Rect& tile) {
        const auto made = arrivingTile(sequence, steps, {tile, area.level});
        if (!made->isLinear) return image::copyShared(made->planes, tile, out, area.rect);
        StagePicture encoded(tile.size());
        encoded.copyFrom(*made);
        encoded.encode();
        image::copyShared(encoded.planes, tile, out, area.rect);
    });
}

}  // namespace dimhem::render
