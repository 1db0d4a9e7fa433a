// The picture as it arrives at a step, on tiles of a fixed grid, each worked out once, so that masks that look at what
// arrives cost no more than those that do not.
#include <algorithm>

#include "core/image/tiles.h"
#include "core/render/reader.h"

namespace dimhem::render {

namespace {

base::ContentKey arrivingQuestion(const Area& tile, std::size_t steps) {
    return mask::keyOf(tile).add("arriving").add(steps).key();
}

}  // namespace

// Of a tile after some steps. A step that covers nothing of it changes neither the picture nor its key.
base::ContentKey Reader::arrivingKey(std::size_t steps, const Area& tile) const {
    base::ContentKey key = photoKey(tile);
    std::size_t known = steps;
    for (; known > 0; --known) {
        if (const auto found = sequence_->remembered(arrivingQuestion(tile, known))) {
            key = *found;
            break;
        }
    }
    for (std::size_t i = known; i < steps; ++i) {
        if (const auto action = actionOn(i, tile)) key = base::KeyBuilder().add(key).add(action->key()).key();
        sequence_->remember(arrivingQuestion(tile, i + 1), key);
    }
    return key;
}

class Reader::ArrivingTile final : public Staged<StagePicture>::Work {
public:
    ArrivingTile(const Reader& reader, std::size_t steps, const Area& tile)
        : reader_(reader), steps_(steps), tile_(tile) {}

    base::ContentKey key() const override { return reader_.arrivingKey(steps_, tile_); }

    // On from the latest step whose outcome is still there.
    std::shared_ptr<const StagePicture> value() const override {
        TileCache& cache = reader_.cache();
        const base::ContentKey wanted = key();
        if (auto known = cache.findPicture(wanted)) return known;
        std::size_t from = steps_;
        std::shared_ptr<const StagePicture> below;
        while (from > 0 && !below) {
            --from;
            if (from > 0) below = cache.findPicture(reader_.arrivingKey(from, tile_));
        }
        auto made = std::make_shared<StagePicture>(tile_.rect.size());
        if (below) {
            made->copyFrom(*below);
        } else {
            reader_.photo().read(tile_.rect, tile_.level, made->planes);
        }
        std::vector<Acting> acting;
        for (std::size_t i = from; i < steps_; ++i) {
            if (const auto action = reader_.actionOn(i, tile_)) acting.push_back(action->value());
        }
        run(acting, *made);
        cache.keepPicture(wanted, made);
        return made;
    }

private:
    Reader reader_;
    std::size_t steps_;
    Area tile_;
};

Staged<StagePicture> Reader::arrivingTile(std::size_t steps, const Area& tile) const {
    return Staged<StagePicture>(std::make_shared<const ArrivingTile>(*this, steps, tile));
}

namespace {

using PictureTile = stage::Placed<StagePicture>;

constexpr auto pictureOf = [](const std::vector<PictureTile>& tiles, const base::Rect& rect) {
    image::EncodedPlanes out(rect.size());
    for (const PictureTile& tile : tiles) {
        const auto made = tile.stage.value();
        if (!made->isLinear) {
            image::copyShared(made->planes, tile.rect, out, rect);
            continue;
        }
        StagePicture encoded(tile.rect.size());
        encoded.copyFrom(*made);
        encoded.encode();
        image::copyShared(encoded.planes, tile.rect, out, rect);
    }
    return out;
};

}  // namespace

Reading<image::EncodedPlanes> pictureFrom(std::vector<PictureTile> tiles, const base::Rect& rect) {
    return stage::reading<image::EncodedPlanes>("gathered", pictureOf, std::move(tiles), rect);
}

Reading<image::EncodedPlanes> Reader::arriving(std::size_t steps, const Area& area) const {
    if (steps == 0) return photoOver(area);
    std::vector<PictureTile> tiles;
    gridOf(area.level).forEach(area.rect, [&](const base::Rect& tile) {
        tiles.push_back({tile, arrivingTile(steps, {tile, area.level})});
    });
    return pictureFrom(std::move(tiles), area.rect);
}

}  // namespace dimhem::render
