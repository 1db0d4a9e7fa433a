// All that is looked at while a sequence is rendered, each as a promise (core/stage/staged.h): what arrives at a step,
// the picture inside it, models of its operations, masks, the subject's own colours. Each promise follows from others
// alone, down to the photo, so that none can look at what does not stand in its key.
//
// Areas are those of the photo's levels; where one may reach beyond, it says so. Pictures are worked out on tiles of a
// fixed grid (of image::defaultTilePx, at each level), so that they come out the same whatever is asked for.
#pragma once

#include <memory>
#include <optional>
#include <vector>

#include "core/mask/mask.h"
#include "core/render/photo_source.h"
#include "core/render/pointwise_run.h"
#include "core/render/sequence.h"
#include "core/render/tile_cache.h"
#include "core/stage/placed.h"

namespace dimhem::render {

using image::Area;
using stage::Reading;
using stage::Staged;

// Of a step's operations those from one on, up to another.
struct OperationRange {
    std::size_t first = 0, last = 0;
};

// What a step, or some of its operations, will do to an area: the promise of an Acting.
class Action {
public:
    Action(const Sequence::Step& step, OperationRange operations, std::optional<Staged<mask::Coverage>> mask,
           std::vector<Staged<Model>> models, std::optional<Staged<OwnColours>> own = {})
        : step_(&step),
          operations_(operations),
          mask_(std::move(mask)),
          models_(std::move(models)),
          own_(std::move(own)) {}

    const Sequence::Step& step() const { return *step_; }
    base::ContentKey key() const;
    Acting value() const;

private:
    const Sequence::Step* step_;
    OperationRange operations_;
    std::optional<Staged<mask::Coverage>> mask_;  // none where nothing is mixed
    std::vector<Staged<Model>> models_;
    std::optional<Staged<OwnColours>> own_;
};

inline void addTo(base::KeyBuilder& key, const Action& action) {
    key.add(action.key());
}

// Photo, cache and sequence must outlive it and its promises.
class Reader {
public:
    Reader(const PhotoSource& photo, TileCache& cache, const Sequence& sequence)
        : photo_(&photo), cache_(&cache), sequence_(&sequence) {}

    const PhotoSource& photo() const { return *photo_; }
    TileCache& cache() const { return *cache_; }
    const Sequence& sequence() const { return *sequence_; }
    image::TileGrid gridOf(int level) const { return {image::levelSize(photo_->size(), level), image::defaultTilePx}; }

    base::ContentKey photoKey(const Area& area) const;
    Reading<image::EncodedPlanes> photoOver(const Area& area) const;

    // A correction's whole mask, also beyond the photo, and what its parts can look at.
    Staged<mask::Coverage> mask(document::Id correction, const Area& area) const;
    std::shared_ptr<mask::Context> contextOf(document::Id correction) const;

    // What a step does to a tile; none where its mask covers nothing of it.
    std::optional<Action> actionOn(std::size_t step, const Area& tile) const;
    std::vector<Action> actionsOn(const Area& tile) const;
    base::ContentKey keyAfter(const std::vector<Action>& actions, const Area& tile) const;

    // The picture after the first `steps` steps: of a tile, and over any area within the level.
    Staged<StagePicture> arrivingTile(std::size_t steps, const Area& tile) const;
    Reading<image::EncodedPlanes> arriving(std::size_t steps, const Area& area) const;
    // The picture inside a step, after so many of its operations.
    Reading<image::EncodedPlanes> inside(std::size_t step, std::size_t operations, const Area& area) const;
    // The model of an operation that has one, over an area.
    Staged<Model> model(std::size_t step, std::size_t operation, const Area& area) const;

private:
    class MaskContext;
    class StepScene;
    class ArrivingTile;
    base::ContentKey arrivingKey(std::size_t steps, const Area& tile) const;
    Staged<StagePicture> insideTile(std::size_t step, std::size_t operations, const Area& tile) const;
    std::vector<Staged<Model>> models(std::size_t step, OperationRange operations, const Area& area) const;
    Staged<Model> paintedModel(std::size_t step, std::size_t operation, const Area& area) const;
    Staged<Model> modelTile(std::size_t step, std::size_t operation, const Area& tile) const;
    Staged<Model> gatheredModel(std::size_t step, std::size_t operation, const Area& area) const;

    const PhotoSource* photo_;
    TileCache* cache_;
    const Sequence* sequence_;
};

// Put together from tiles that cover it, encoded.
Reading<image::EncodedPlanes> pictureFrom(std::vector<stage::Placed<StagePicture>> tiles, const base::Rect& rect);

// A part of the photo as values beyond its edge as well.
Reading<image::EncodedPlanes> goneOn(Reading<image::EncodedPlanes> inside, const Area& from, const Area& to);

}  // namespace dimhem::render
