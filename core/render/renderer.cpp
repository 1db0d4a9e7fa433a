#include "core/render/renderer.h"

#include <algorithm>
#include <array>
#include <limits>

#include "core/base/long_work.h"
#include "core/colour/thread_colours.h"
#include "core/image/tiles.h"
#include "core/kernel/coverage_rows.h"
#include "core/kernel/display_rows.h"
#include "core/kernel/dither_rows.h"
#include "core/kernel/mix_rows.h"
#include "core/render/behind.h"
#include "core/render/clean_edge.h"

namespace dimhem::render {

namespace {

float coverageAt(const mask::Coverage& coverage, int x, int y) {
    const std::uint16_t value = coverage.isConstant() ? coverage.value() : coverage.row(y)[x];
    return static_cast<float>(value) / kernel::fullCoverage;
}

base::ContentKey keyOf(const document::Backdrop& backdrop) {
    base::KeyBuilder key;
    key.add(backdrop.index());
    if (const auto* colour = std::get_if<colour::EncodedRgb>(&backdrop))
        key.add(colour->r).add(colour->g).add(colour->b);
    if (const auto* picture = std::get_if<document::BackdropPicture>(&backdrop)) key.add(picture->key);
    return key.key();
}

base::KeyBuilder keyOfView(const View& view, const document::Correction& correction) {
    base::KeyBuilder key;
    key.add(view.maskView).add(view.part).add(view.maskGain);
    if (view.maskView == MaskView::tint) key.add(view.tintOpacity).add(correction.threadColour);
    if (view.maskView == MaskView::change) key.add(view.changeGain);
    return key;
}

using PlanePair = std::pair<image::Plane<float>*, const image::Plane<float>*>;
std::array<PlanePair, 3> planePairs(image::EncodedPlanes& one, const image::EncodedPlanes& other) {
    return {PlanePair{&one.red, &other.red}, {&one.green, &other.green}, {&one.blue, &other.blue}};
}

// What the picture is compared with to tell what is lost: the photo, or the picture without the selected correction.
const Sequence& beforeLoss(const Sequence& sequence, const View& view) {
    Comparison allOff;
    allOff.allOff = true;
    return view.shine.byAll ? sequence.compared(allOff) : sequence.without(view.selected);
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

std::shared_ptr<const DisplayTile> Renderer::display(const Sequence& sequence, const View& view,
                                                     const mask::Area& area) const {
    base::countLongWork();
    const TileCache::Hold hold = this->hold();
    const document::Correction* selected = document::findCorrection(sequence.document(), view.selected);
    const bool showsMask = selected && view.maskView != MaskView::none && view.maskView != MaskView::stitch;
    const Reader reader = readerOf(sequence);
    const std::vector<Action> all = reader.actionsOn(area);
    std::optional<Staged<mask::Coverage>> shown;
    base::KeyBuilder key;
    key.add(reader.keyAfter(all, area));
    key.add(sequence.needsDither());  // of any correction, though it touches other tiles
    if (photo_->photo().samples.hasAlpha()) key.add(keyOf(sequence.document().backdrop));
    if (showsMask) {
        const mask::Part* part = mask::findPart(selected->mask, view.part);
        const auto context = reader.contextOf(selected->id);
        shown =
            (part ? mask::partOver(*part, area, *context) : mask::over(selected->mask, area, *context)).owning(context);
        key.add(keyOfView(view, *selected).key()).add(shown->key());
        if (view.maskView == MaskView::change) key.add(pictureKey(sequence.without(view.selected), area));
    }
    const Sequence* unpushed = view.pushedAdjustment ? &sequence.withoutAdjustment(view.pushedAdjustment) : nullptr;
    if (unpushed) key.add("pushed").add(pictureKey(*unpushed, area));
    if (view.shine.of != Shine::Of::nothing) {
        key.add(view.shine.of).add(view.shine.channel).add(view.shine.from).add(view.shine.to).add(view.shine.byAll);
        if (view.shine.underMask && selected) key.add(reader.mask(selected->id, area).key());
        if (view.shine.of == Shine::Of::lost) key.add(pictureKey(beforeLoss(sequence, view), area));
    }
    if (auto known = cache_->findDisplay(key.key())) return known;

    image::EncodedPlanes picture(area.rect.size());
    if (!showsMask || view.maskView != MaskView::plate) {
        if (isTile(area)) {
            pictureOf(reader, all, area, picture, view.selected);
        } else {
            this->picture(sequence, area, picture, view.selected);
        }
    }
    if (unpushed) pushAdjustment(*unpushed, area, picture);
    if (!all.empty() && !(showsMask && view.maskView == MaskView::change)) addDither(sequence, area, picture);
    if (photo_->photo().samples.hasAlpha()) layOverBackdrop(sequence, area, picture, true);
    if (showsMask && view.maskView == MaskView::change) {
        showChange(sequence, view, area, picture);
    } else if (showsMask) {
        overlayMask(view, *selected, *shown->value(), picture);
    }
    if (view.shine.of != Shine::Of::nothing) shine(sequence, view, area, picture);
    auto tile = std::make_shared<DisplayTile>(area.rect.size());
    for (int y = 0; y < area.rect.height(); ++y) {
        const kernel::EncodedRow row = kernel::rowOf(picture, y);
        kernel::displayRow({row.red, row.green, row.blue}, tile->row(y).data(),
                           static_cast<std::size_t>(area.rect.width()));
    }
    cache_->keepDisplay(key.key(), tile);
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

base::ContentKey Renderer::pictureKey(const Sequence& sequence, const mask::Area& area) const {
    const Reader reader = readerOf(sequence);
    return reader.keyAfter(reader.actionsOn(area), area);
}

void Renderer::pushAdjustment(const Sequence& without, const mask::Area& area, image::EncodedPlanes& picture) const {
    image::EncodedPlanes plain(area.rect.size());
    this->picture(without, area, plain);
    constexpr auto factor = static_cast<float>(pushFactor);
    const auto pushed = [](float with, float before) { return before + (with - before) * factor; };
    for (const auto& [now, was] : planePairs(picture, plain)) {
        for (int y = 0; y < area.rect.height(); ++y)
            std::transform(now->row(y).begin(), now->row(y).end(), was->row(y).begin(), now->row(y).begin(), pushed);
    }
}

void Renderer::shine(const Sequence& sequence, const View& view, const mask::Area& area,
                     image::EncodedPlanes& picture) const {
    if (view.shine.of == Shine::Of::tones) {
        const mask::CoveragePtr under = view.shine.underMask ? coverage(sequence, view.selected, area) : nullptr;
        shineTones(view.shine, under.get(), picture);
        return;
    }
    image::EncodedPlanes before(area.rect.size());
    this->picture(beforeLoss(sequence, view), area, before);
    shineLost(*written_, before, picture);
}

void Renderer::showChange(const Sequence& sequence, const View& view, const mask::Area& area,
                          image::EncodedPlanes& picture) const {
    image::EncodedPlanes without(area.rect.size());
    this->picture(sequence.without(view.selected), area, without);
    const auto gain = static_cast<float>(view.changeGain);
    const auto amplify = [gain](float with, float before) { return 0.5f + (with - before) * gain; };
    for (const auto& [now, was] : planePairs(picture, without)) {
        for (int y = 0; y < area.rect.height(); ++y)
            std::transform(now->row(y).begin(), now->row(y).end(), was->row(y).begin(), now->row(y).begin(), amplify);
    }
}

void Renderer::overlayMask(const View& view, const document::Correction& correction, const mask::Coverage& coverage,
                           image::EncodedPlanes& picture) const {
    const colour::ThreadColour& thread = colour::threadColours[static_cast<std::size_t>(correction.threadColour)];
    const float colour[3] = {static_cast<float>(thread.red) / 255, static_cast<float>(thread.green) / 255,
                             static_cast<float>(thread.blue) / 255};
    constexpr float cutOutGrey = 0.32f;
    image::Plane<float>* planes[3] = {&picture.red, &picture.green, &picture.blue};
    for (int y = 0; y < picture.size().height; ++y) {
        for (int c = 0; c < 3; ++c) {
            const auto row = planes[c]->row(y);
            for (int x = 0; x < picture.size().width; ++x) {
                const float covered = std::min(1.0f, coverageAt(coverage, x, y) * static_cast<float>(view.maskGain));
                float& pixel = row[static_cast<std::size_t>(x)];
                switch (view.maskView) {
                    case MaskView::none:
                    case MaskView::stitch:
                    case MaskView::change: break;
                    case MaskView::tint:
                        pixel += (colour[c] - pixel) * covered * static_cast<float>(view.tintOpacity);
                        break;
                    case MaskView::plate: pixel = covered; break;
                    case MaskView::cutOut: pixel = cutOutGrey + (pixel - cutOutGrey) * covered; break;
                }
            }
        }
    }
}

}  // namespace dimhem::render
