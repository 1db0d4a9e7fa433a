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
#include "core/render/shine.h"
#include "core/render/tile_cache.h"

namespace dimhem::render {

enum class MaskView {
    none,
    tint,    // the mask's coverage in its thread colour over the picture
    plate,   // the coverage itself: black none, white full
    stitch,  // as none: the contours are drawn over it by whoever shows it
    cutOut,  // the masked area of the picture alone, on grey
    change,  // what the correction changes, amplified, about mid grey
};

struct View {
    Comparison comparison;
    MaskView maskView = MaskView::none;
    document::Id selected = 0;  // the correction whose mask is shown, and below which the picture is worth keeping
    mask::PartId part = 0;      // one part of its mask instead of the whole
    double tintOpacity = 0.6;
    double changeGain = 4;              // 1..16
    double maskGain = 1;                // how often the coverage is counted, so that faint spill is seen
    document::Id pushedAdjustment = 0;  // of the selected correction: its effect pushFactor times; 0: none
    Shine shine{};                      // over whatever else is shown
    friend bool operator==(const View&, const View&) = default;
};

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
    base::ContentKey pictureKey(const Sequence& sequence, const mask::Area& area) const;
    std::shared_ptr<const PhotoSource> backdropSource(const document::BackdropPicture& picture,
                                                      const base::CancelToken& cancel) const;
    void pushAdjustment(const Sequence& without, const mask::Area& area, image::EncodedPlanes& picture) const;
    void shine(const Sequence& sequence, const View& view, const mask::Area& area, image::EncodedPlanes& picture) const;
    void showChange(const Sequence& sequence, const View& view, const mask::Area& area,
                    image::EncodedPlanes& picture) const;
    void overlayMask(const View& view, const document::Correction& correction, const mask::Coverage& coverage,
                     image::EncodedPlanes& picture) const;

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
