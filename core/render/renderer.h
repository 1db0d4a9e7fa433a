// Renders areas of a document: the picture, or what a view of it shows.
//
// The key of an area's picture is built from the key of the photo, then, for each correction whose mask covers any of
// the area, from what is below, the correction and the mask there. So what is the same is found in the cache, an area
// that no mask touches is the photo itself, and cost follows the masked area.
//
// Every function may be called from many threads; the outcome depends on neither their number nor the tile size.
#pragma once

#include <memory>
#include <mutex>
#include <optional>

#include "core/image/tiles.h"
#include "core/mask/mask.h"
#include "core/render/photo_source.h"
#include "core/render/reader.h"
#include "core/render/sequence.h"
#include "core/render/tile_cache.h"
#include "core/render/view.h"

namespace dimhem::render {

class Renderer {
public:
    Renderer(std::shared_ptr<const PhotoSource> photo, std::shared_ptr<TileCache> cache)
        : photo_(std::move(photo)),
          cache_(std::move(cache)),
          written_(std::make_shared<const WrittenColours>(photo_->photo())) {}

    const PhotoSource& photo() const { return *photo_; }
    TileCache& cache() const { return *cache_; }
    // While it lasts, what one piece of work makes of this photo stays in the cache for its other pieces.
    TileCache::Hold hold() const;

    // The picture of an area after the sequence, encoded sRGB, into `out` of the area's size. It is worked out on tiles
    // of a fixed grid (of image::defaultTilePx, at each level): areas that are such tiles cost least. False: no
    // correction touches these tiles and `out` holds the photo itself. `keepBelow`: keep the picture below this
    // correction in the cache, for when it is being edited.
    bool picture(const Sequence& sequence, const mask::Area& area, image::EncodedPlanes& out,
                 document::Id keepBelow = 0) const;
    // The same; none where no correction touches the tiles, without reading the photo.
    std::optional<image::EncodedPlanes> changedPicture(const Sequence& sequence, const mask::Area& area) const;

    // The pixels a view shows of an area.
    std::shared_ptr<const DisplayTile> display(const Sequence& sequence, const View& view,
                                               const mask::Area& area) const;

    // Dithers what was changed of an area's picture for 8 bits, where the sequence needs it.
    void addDither(const Sequence& sequence, const mask::Area& area, image::EncodedPlanes& picture) const;

    // Lays the picture of an area, by the photo's transparency, over the document's backdrop; where it has none, over
    // the weave, or leaves it as it is.
    void layOverBackdrop(const Sequence& sequence, const mask::Area& area, image::EncodedPlanes& picture,
                         bool elseWeave) const;

    // The coverage of a correction's mask over an area; empty where there is none of that id.
    mask::CoveragePtr coverage(const Sequence& sequence, document::Id correction, const mask::Area& area) const;

    // What the parts of a correction's mask can look at. The sequence must outlive it.
    std::shared_ptr<mask::Context> maskContext(const Sequence& sequence, document::Id correction) const;

private:
    Reader readerOf(const Sequence& sequence) const { return {*photo_, *cache_, sequence}; }
    bool isTile(const mask::Area& area) const;
    bool pictureOf(const Reader& reader, std::span<const Action> actions, const mask::Area& tile,
                   image::EncodedPlanes& out, document::Id keepBelow) const;
    static void compose(std::span<const Action> actions, StagePicture& picture);
    // The picture as picture() gives it, as a promise; sequence and id must outlive it.
    Reading<image::EncodedPlanes> pictureRead(const Sequence& sequence, const mask::Area& area,
                                              std::vector<Action> actions, const document::Id& keepBelow) const;
    Reading<image::EncodedPlanes> pictureRead(const Sequence& sequence, const mask::Area& area) const;
    std::vector<stage::Step<image::EncodedPlanes>> stepsOf(const Sequence& sequence, const View& view,
                                                           const mask::Area& area, bool isChanged) const;
    std::shared_ptr<const PhotoSource> backdropSource(const document::BackdropPicture& picture,
                                                      const base::CancelToken& cancel) const;
    std::shared_ptr<const PhotoSource> photo_;
    std::shared_ptr<TileCache> cache_;
    std::shared_ptr<const WrittenColours> written_;

    // The backdrop's picture with its levels, which may be larger than the whole cache: the latest one is kept.
    struct Backdrop {
        std::mutex mutex;
        base::ContentKey key;
        std::shared_ptr<const PhotoSource> source;
    };
    std::shared_ptr<Backdrop> backdrop_ = std::make_shared<Backdrop>();
};

}  // namespace dimhem::render
