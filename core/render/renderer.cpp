#include "core/render/renderer.h"

#include <algorithm>

#include "core/base/long_work.h"
#include "core/image/tiles.h"
#include "core/kernel/display_rows.h"
#include "core/kernel/dither_rows.h"
#include "core/render/behind.h"
#include "core/render/view_steps.h"

namespace dimhem::render {

namespace {

base::ContentKey keyOf(const document::Backdrop& backdrop) {
    base::KeyBuilder key;
    key.add(backdrop.index());
    if (const auto* colour = std::get_if<colour::EncodedRgb>(&backdrop))
        key.add(colour->r).add(colour->g).add(colour->b);
    if (const auto* picture = std::get_if<document::BackdropPicture>(&backdrop)) key.add(picture->key);
    return key.key();
}

bool showsMask(const View& view) {
    return view.maskView != MaskView::none && view.maskView != MaskView::stitch;
}

// What the picture is compared with to tell what is lost: the photo, or the picture without the selected correction.
const Sequence& beforeLoss(const Sequence& sequence, const View& view) {
    Comparison allOff;
    allOff.allOff = true;
    return view.shine.byAll ? sequence.compared(allOff) : sequence.without(view.selected);
}

Comparison whoseTones(const View& view) {
    Comparison comparison;
    comparison.allOff = view.shine.tones == Shine::Tones::photo;
    comparison.stopBefore = view.shine.tones == Shine::Tones::arriving ? view.selected : 0;
    return comparison;
}

}  // namespace

std::shared_ptr<mask::Context> Renderer::maskContext(const Sequence& sequence, document::Id correction) const {
    return readerOf(sequence).contextOf(correction);
}

void Renderer::compose(std::span<const Action> actions, StagePicture& picture) {
    std::vector<Acting> acting;
    for (const Action& action : actions) acting.push_back(action.value());
    run(acting, picture);
}

// What the tiles of one piece of work look at of one another: a few pictures of the photo, or of what a view shows of a
// large one.
TileCache::Hold Renderer::hold() const {
    constexpr std::size_t bytesOfPixel = 64, least = std::size_t{96} << 20, most = std::size_t{1} << 30;
    const auto pixels =
        static_cast<std::size_t>(photo_->size().width) * static_cast<std::size_t>(photo_->size().height);
    return {*cache_, std::clamp(bytesOfPixel * pixels, least, most)};
}

bool Renderer::isTile(const mask::Area& area) const {
    const image::TileGrid grid(image::levelSize(photo_->size(), area.level), image::defaultTilePx);
    const base::Rect places = grid.touched(area.rect);
    return places.width() == 1 && places.height() == 1 && grid.tile(places.x0, places.y0) == area.rect;
}

bool Renderer::picture(const Sequence& sequence, const mask::Area& area, image::EncodedPlanes& out,
                       document::Id keepBelow) const {
    base::countLongWork();
    const TileCache::Hold hold = this->hold();
    const Reader reader = readerOf(sequence);
    if (isTile(area)) return pictureOf(reader, reader.actionsOn(area), area, out, keepBelow);
    bool touched = false;
    reader.gridOf(area.level).forEach(area.rect, [&](const base::Rect& tile) {
        image::EncodedPlanes part(tile.size());
        touched = picture(sequence, {tile, area.level}, part, keepBelow) || touched;
        image::copyShared(part, tile, out, area.rect);
    });
    return touched;
}

std::optional<image::EncodedPlanes> Renderer::changedPicture(const Sequence& sequence, const mask::Area& area) const {
    base::countLongWork();
    const TileCache::Hold hold = this->hold();
    image::EncodedPlanes out;
    if (!isTile(area)) {
        out = image::EncodedPlanes(area.rect.size());
        return picture(sequence, area, out) ? std::optional(std::move(out)) : std::nullopt;
    }
    const Reader reader = readerOf(sequence);
    const std::vector<Action> all = reader.actionsOn(area);
    if (all.empty()) return std::nullopt;
    out = image::EncodedPlanes(area.rect.size());
    pictureOf(reader, all, area, out, 0);
    return out;
}

bool Renderer::pictureOf(const Reader& reader, std::span<const Action> all, const mask::Area& tile,
                         image::EncodedPlanes& out, document::Id keepBelow) const {
    const auto edited =
        std::find_if(all.begin(), all.end(), [=](const Action& a) { return a.step().correction->id == keepBelow; });
    std::span<const Action> rest = all;
    StagePicture picture(std::move(out));
    if (edited != all.end() && edited != all.begin()) {
        const auto steps = static_cast<std::size_t>(&edited->step() - reader.sequence().steps().data());
        picture.copyFrom(*reader.arrivingTile(steps, tile).value());
        rest = rest.subspan(static_cast<std::size_t>(edited - all.begin()));
    } else {
        photo_->read(tile.rect, tile.level, picture.planes);
    }
    compose(rest, picture);
    picture.encode();
    out = std::move(picture.planes);
    return !all.empty();
}

mask::CoveragePtr Renderer::coverage(const Sequence& sequence, document::Id correction, const mask::Area& area) const {
    base::countLongWork();
    base::throwIfCancelled(sequence.cancel());
    const TileCache::Hold hold = this->hold();
    return readerOf(sequence).mask(correction, area).value();
}

Reading<image::EncodedPlanes> Renderer::pictureRead(const Sequence& sequence, const mask::Area& area,
                                                    std::vector<Action> actions, const document::Id& keepBelow) const {
    return stage::reading<image::EncodedPlanes>(
        "picture",
        [](const PhotoSource&, const std::vector<Action>& actions, const mask::Area& area, const Renderer& renderer,
           const Sequence& sequence, const document::Id& keepBelow) {
            image::EncodedPlanes out(area.rect.size());
            if (renderer.isTile(area)) {
                renderer.pictureOf(renderer.readerOf(sequence), actions, area, out, keepBelow);
            } else {
                renderer.picture(sequence, area, out, keepBelow);
            }
            return out;
        },
        stage::keyed(photo_->key(), *photo_), std::move(actions), area, stage::unkeyed(*this), stage::unkeyed(sequence),
        stage::unkeyed(keepBelow));
}

Reading<image::EncodedPlanes> Renderer::pictureRead(const Sequence& sequence, const mask::Area& area) const {
    static constexpr document::Id none = 0;
    return pictureRead(sequence, area, readerOf(sequence).actionsOn(area), none);
}

// What the view does to the picture, one after the other.
std::vector<ViewStep> Renderer::stepsOf(const Sequence& sequence, const View& view, const mask::Area& area,
                                        bool isChanged) const {
    const Reader reader = readerOf(sequence);
    const document::Correction* selected = document::findCorrection(sequence.document(), view.selected);
    const bool showsChange = selected && view.maskView == MaskView::change;
    std::vector<ViewStep> steps;
    if (view.pushedAdjustment)
        steps.push_back(pushedFrom(pictureRead(sequence.withoutAdjustment(view.pushedAdjustment), area)));
    if (isChanged && !showsChange && sequence.needsDither())
        steps.push_back(ditheredFrom(reader.photoOver(area), area));
    if (photo_->photo().samples.hasAlpha()) {
        const document::Backdrop& backdrop = sequence.document().backdrop;
        steps.push_back(stage::step<image::EncodedPlanes>(
            "over the backdrop",
            [](image::EncodedPlanes& picture, const document::Backdrop&, const PhotoSource&, const mask::Area& area,
               const Renderer& renderer,
               const Sequence& sequence) { renderer.layOverBackdrop(sequence, area, picture, true); },
            stage::keyed(keyOf(backdrop), backdrop), stage::keyed(photo_->key(), *photo_), area, stage::unkeyed(*this),
            stage::unkeyed(sequence)));
    }
    if (showsChange) {
        steps.push_back(changeFrom(pictureRead(sequence.without(view.selected), area), view.changeGain));
    } else if (selected && showsMask(view)) {
        const mask::Part* part = mask::findPart(selected->mask, view.part);
        const auto context = reader.contextOf(selected->id);
        const Staged<mask::Coverage> shown =
            part ? mask::partOver(*part, area, *context) : mask::over(selected->mask, area, *context);
        steps.push_back(withMask(shown.owning(context), view, selected->threadColour));
    }
    if (view.shine.of == Shine::Of::tones) {
        std::optional<Staged<mask::Coverage>> under;
        if (view.shine.underMask) under = reader.mask(view.selected, area);
        if (view.shine.tones == Shine::Tones::shown) {
            steps.push_back(withTones(view.shine, std::move(under)));
        } else {
            const Sequence& whose = sequence.compared(whoseTones(view));
            steps.push_back(withTonesOf(view.shine, pictureRead(whose, area), std::move(under)));
        }
    } else if (view.shine.of == Shine::Of::lost) {
        steps.push_back(
            withLost(pictureRead(beforeLoss(sequence, view), area), stage::keyed(photo_->key(), *written_)));
    }
    return steps;
}

std::shared_ptr<const DisplayTile> Renderer::display(const Sequence& sequence, const View& view,
                                                     const mask::Area& area) const {
    base::countLongWork();
    const TileCache::Hold hold = this->hold();
    std::vector<Action> actions = readerOf(sequence).actionsOn(area);
    const std::vector<ViewStep> steps = stepsOf(sequence, view, area, !actions.empty());
    const Reading<image::EncodedPlanes> picture = pictureRead(sequence, area, std::move(actions), view.selected);
    base::ContentKey key = picture.key();
    for (const ViewStep& step : steps) key = step.keyAfter(key);
    if (auto known = cache_->findDisplay(key)) return known;

    // A plate shows nothing of the picture.
    const bool isPlate =
        view.maskView == MaskView::plate && document::findCorrection(sequence.document(), view.selected);
    image::EncodedPlanes shown = isPlate ? image::EncodedPlanes(area.rect.size()) : picture.value();
    for (const ViewStep& step : steps) step.apply(shown);
    auto tile = std::make_shared<DisplayTile>(area.rect.size());
    for (int y = 0; y < area.rect.height(); ++y) {
        const kernel::EncodedRow row = kernel::rowOf(shown, y);
        kernel::displayRow({row.red, row.green, row.blue}, tile->row(y).data(),
                           static_cast<std::size_t>(area.rect.width()));
    }
    cache_->keepDisplay(key, tile);
    return tile;
}

void Renderer::addDither(const Sequence& sequence, const mask::Area& area, image::EncodedPlanes& picture) const {
    if (!sequence.needsDither()) return;
    image::EncodedPlanes photo(area.rect.size());
    photo_->read(area.rect, area.level, photo);
    for (int y = 0; y < area.rect.height(); ++y)
        kernel::addDither(kernel::rowOf(picture, y), kernel::rowOf(std::as_const(photo), y),
                          static_cast<std::size_t>(area.rect.width()), area.rect.x0, area.rect.y0 + y,
                          kernel::eightBitStep);
}

std::shared_ptr<const PhotoSource> Renderer::backdropSource(const document::BackdropPicture& picture,
                                                            const base::CancelToken& cancel) const {
    {
        const std::lock_guard lock(backdrop_->mutex);
        if (backdrop_->source && backdrop_->key == picture.key) return backdrop_->source;
    }
    const auto made = std::static_pointer_cast<const PhotoSource>(cache_->once(
        base::KeyBuilder().add("backdrop").add(picture.key).key(),
        [&]() -> stage::Store::Made {
            const auto source = PhotoSource::make(picture.photo, {}, cancel);
            if (!source) base::throwIfCancelled(cancel);
            return {source ? std::static_pointer_cast<const void>(*source) : nullptr,
                    static_cast<std::size_t>(picture.photo->size().width) *
                        static_cast<std::size_t>(picture.photo->size().height) * 2};
        },
        cancel));
    const std::lock_guard lock(backdrop_->mutex);
    backdrop_->key = picture.key;
    backdrop_->source = made;
    return made;
}

void Renderer::layOverBackdrop(const Sequence& sequence, const mask::Area& area, image::EncodedPlanes& picture,
                               bool elseWeave) const {
    const document::Backdrop& backdrop = sequence.document().backdrop;
    if (const auto* colour = std::get_if<colour::EncodedRgb>(&backdrop)) {
        layOverColour(*photo_, area, *colour, picture);
        return;
    }
    const auto* behind = std::get_if<document::BackdropPicture>(&backdrop);
    if (behind && behind->photo) {
        if (const auto source = backdropSource(*behind, sequence.cancel())) {
            layOverPicture(*photo_, area, *source, picture);
            return;
        }
    }
    if (elseWeave) layOverWeave(*photo_, area, picture);
}

}  // namespace dimhem::render
