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

base::ContentKey Renderer::photoKey(const mask::Area& area) const {
    return mask::keyOf(area).add(photo_->key()).key();
}

Renderer::Touch Renderer::touch(const Sequence& sequence, std::size_t index, const mask::Area& area,
                                const base::ContentKey& below, Keys keys) const {
    base::throwIfCancelled(sequence.cancel());
    const Sequence::Step& step = sequence.steps()[index];
    const auto context = maskContext(sequence, step.correction->id);
    mask::CoveragePtr coverage = mask::render(step.correction->mask, area, *context);
    if (coverage->isEmpty()) return {&step, std::move(coverage), below};
    if (keys == Keys::none) return {&step, std::move(coverage), {}};
    base::KeyBuilder next;
    next.add(below).add(step.key).add(mask::keyOn(step.correction->mask, area, *context));
    for (std::size_t i = 0; i < step.operations.size(); ++i) {
        if (adjust::hasModel(step.operations[i])) next.add(modelKey(sequence, index, i, area));
    }
    if (cleansEdge(step, *coverage)) next.add(ownColoursKey(step.correction->mask, area, *context));
    return {&step, std::move(coverage), next.key()};
}

std::vector<Renderer::Touch> Renderer::touches(const Sequence& sequence, const mask::Area& area, Keys keys) const {
    std::vector<Touch> out;
    base::ContentKey key = keys == Keys::built ? photoKey(area) : base::ContentKey{};
    for (std::size_t i = 0; i < sequence.steps().size(); ++i) {
        Touch found = touch(sequence, i, area, key, keys);
        if (found.coverage->isEmpty()) continue;
        key = found.after;
        out.push_back(std::move(found));
    }
    return out;
}

void Renderer::compose(const Sequence& sequence, std::span<const Touch> touches, const mask::Area& area,
                       StagePicture& picture) const {
    std::vector<Acting> acting;
    for (const Touch& touch : touches) {
        const auto index = static_cast<std::size_t>(touch.step - sequence.steps().data());
        Acting next{touch.step, touch.coverage, nullptr,
                    modelsOver(sequence, index, touch.step->operations.size(), area),
                    replaces(*touch.step, *touch.coverage)};
        if (cleansEdge(*touch.step, *touch.coverage)) {
            const document::Correction& correction = *touch.step->correction;
            const auto context = maskContext(sequence, correction.id);
            next.own = ownColours(correction.mask, area, *context);
        }
        acting.push_back(std::move(next));
    }
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

image::TileGrid Renderer::gridOf(int level) const {
    return {image::levelSize(photo_->size(), level), image::defaultTilePx};
}

bool Renderer::isTile(const mask::Area& area) const {
    const image::TileGrid grid = gridOf(area.level);
    const base::Rect places = grid.touched(area.rect);
    return places.width() == 1 && places.height() == 1 && grid.tile(places.x0, places.y0) == area.rect;
}

bool Renderer::picture(const Sequence& sequence, const mask::Area& area, image::EncodedPlanes& out,
                       document::Id keepBelow) const {
    base::countLongWork();
    const TileCache::Hold hold = this->hold();
    if (isTile(area))
        return pictureOf(sequence, touches(sequence, area, keepBelow ? Keys::built : Keys::none), area, out, keepBelow);
    bool touched = false;
    gridOf(area.level).forEach(area.rect, [&](const base::Rect& tile) {
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
    const std::vector<Touch> all = touches(sequence, area, Keys::none);
    if (all.empty()) return std::nullopt;
    out = image::EncodedPlanes(area.rect.size());
    pictureOf(sequence, all, area, out, 0);
    return out;
}

// Of a tile.
bool Renderer::pictureOf(const Sequence& sequence, std::span<const Touch> all, const mask::Area& area,
                         image::EncodedPlanes& out, document::Id keepBelow) const {
    const auto edited =
        std::find_if(all.begin(), all.end(), [=](const Touch& t) { return t.step->correction->id == keepBelow; });
    std::span<const Touch> rest = all;
    StagePicture picture(std::move(out));
    if (edited != all.end() && edited != all.begin()) {
        const auto below = static_cast<std::size_t>(edited - all.begin());
        const base::ContentKey key = all[below - 1].after;
        std::shared_ptr<const StagePicture> kept = cache_->findPicture(key);
        if (!kept) {
            auto made = std::make_shared<StagePicture>(area.rect.size());
            photo_->read(area.rect, area.level, made->planes);
            compose(sequence, rest.first(below), area, *made);
            cache_->keepPicture(key, made);
            kept = std::move(made);
        }
        picture.copyFrom(*kept);
        rest = rest.subspan(below);
    } else {
        photo_->read(area.rect, area.level, picture.planes);
    }
    compose(sequence, rest, area, picture);
    picture.encode();
    out = std::move(picture.planes);
    return !all.empty();
}

mask::CoveragePtr Renderer::coverage(const Sequence& sequence, document::Id correction, const mask::Area& area) const {
    base::countLongWork();
    base::throwIfCancelled(sequence.cancel());
    const TileCache::Hold hold = this->hold();
    const document::Correction* found = document::findCorrection(sequence.document(), correction);
    if (!found) return std::make_shared<mask::Coverage>(std::uint16_t{0});
    const auto context = maskContext(sequence, correction);
    return mask::render(found->mask, area, *context);
}

std::shared_ptr<const DisplayTile> Renderer::display(const Sequence& sequence, const View& view,
                                                     const mask::Area& area) const {
    base::countLongWork();
    const TileCache::Hold hold = this->hold();
    const document::Correction* selected = document::findCorrection(sequence.document(), view.selected);
    const bool showsMask = selected && view.maskView != MaskView::none && view.maskView != MaskView::stitch;
    const std::vector<Touch> all = touches(sequence, area, Keys::built);
    mask::CoveragePtr coverage;
    base::KeyBuilder key;
    key.add(all.empty() ? photoKey(area) : all.back().after);
    key.add(sequence.needsDither());  // of any correction, though it touches other tiles
    if (photo_->photo().samples.hasAlpha()) key.add(keyOf(sequence.document().backdrop));
    if (showsMask) {
        const mask::Part* part = mask::findPart(selected->mask, view.part);
        const auto context = maskContext(sequence, selected->id);
        coverage = part ? mask::renderPart(*part, area, *context) : mask::render(selected->mask, area, *context);
        key.add(keyOfView(view, *selected).key()).add(mask::keyOn(selected->mask, area, *context));
        if (part) key.add(part->flipped).add(part->opacityPct).add(part->shape->keyOn(area, *context));
        if (view.maskView == MaskView::change) key.add(pictureKey(sequence.without(view.selected), area));
    }
    const Sequence* unpushed = view.pushedAdjustment ? &sequence.withoutAdjustment(view.pushedAdjustment) : nullptr;
    if (unpushed) key.add("pushed").add(pictureKey(*unpushed, area));
    if (view.shine.of != Shine::Of::nothing) {
        key.add(view.shine.of).add(view.shine.channel).add(view.shine.from).add(view.shine.to).add(view.shine.byAll);
        if (view.shine.underMask && selected)
            key.add(mask::keyOn(selected->mask, area, *maskContext(sequence, selected->id)));
        if (view.shine.of == Shine::Of::lost) key.add(pictureKey(beforeLoss(sequence, view), area));
    }
    if (auto known = cache_->findDisplay(key.key())) return known;

    image::EncodedPlanes picture(area.rect.size());
    if (!showsMask || view.maskView != MaskView::plate) {
        if (isTile(area)) {
            pictureOf(sequence, all, area, picture, view.selected);
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
        overlayMask(view, *selected, *coverage, picture);
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
        [&]() -> mask::CoverageStore::Made {
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
    const std::vector<Touch> all = touches(sequence, area, Keys::built);
    return all.empty() ? photoKey(area) : all.back().after;
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
