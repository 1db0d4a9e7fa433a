#include "core/render/renderer.h"

#include <algorithm>

#include "core/check/thread_colour.h"
#include "core/kernel/coverage_rows.h"
#include "core/kernel/display_rows.h"
#include "core/render/weave.h"

namespace dimhem::render {

struct Renderer::Touch {
    const Sequence::Step* step;
    mask::CoveragePtr coverage;
    base::ContentKey after;  // of the picture once this step is done
};

namespace {

kernel::RgbRow rowOf(image::RgbPlanes& planes, int y, int x = 0) {
    return {planes.red.row(y).data() + x, planes.green.row(y).data() + x, planes.blue.row(y).data() + x};
}

// The pixels [first, last) of a row that the coverage is above zero on; empty where there are none.
struct Span {
    int first, last;
};

Span coveredSpan(const mask::Coverage& coverage, int y, int width) {
    if (coverage.isConstant()) return coverage.isEmpty() ? Span{0, 0} : Span{0, width};
    const std::uint16_t* row = coverage.row(y);
    int first = 0, last = width;
    while (first < last && row[first] == 0) ++first;
    while (last > first && row[last - 1] == 0) --last;
    return {first, last};
}

// One step over one row: the adjustments on a copy of the covered span, mixed back through the mask.
void applyRow(const Sequence::Step& step, const mask::Coverage& coverage, int y, kernel::RgbRow row, int width,
              image::RgbPlanes& scratch) {
    const Span span = coveredSpan(coverage, y, width);
    if (span.first >= span.last) return;
    const auto count = static_cast<std::size_t>(span.last - span.first);
    const kernel::RgbRow from{row.red + span.first, row.green + span.first, row.blue + span.first};
    const kernel::RgbRow copy = rowOf(scratch, 0);
    std::copy_n(from.red, count, copy.red);
    std::copy_n(from.green, count, copy.green);
    std::copy_n(from.blue, count, copy.blue);
    for (const auto& operation : step.operations) operation->row(copy, count);
    const float constant = coverage.isConstant() ? static_cast<float>(coverage.value()) / kernel::fullCoverage : 1.0f;
    kernel::mixRow(from, {copy.red, copy.green, copy.blue},
                   coverage.isConstant() ? nullptr : coverage.row(y) + span.first, step.strength * constant, count);
}

image::RgbPlanes copyOf(const image::RgbPlanes& from) {
    image::RgbPlanes out(from.size());
    const auto copy = [](const image::Plane<float>& a, image::Plane<float>& b) {
        for (int y = 0; y < a.size().height; ++y) std::copy_n(a.row(y).data(), a.size().width, b.row(y).data());
    };
    copy(from.red, out.red);
    copy(from.green, out.green);
    copy(from.blue, out.blue);
    return out;
}

float coverageAt(const mask::Coverage& coverage, int x, int y) {
    const std::uint16_t value = coverage.isConstant() ? coverage.value() : coverage.row(y)[x];
    return static_cast<float>(value) / kernel::fullCoverage;
}

base::KeyBuilder keyOfView(const View& view, const document::Correction& correction) {
    base::KeyBuilder key;
    key.add(view.maskView).add(view.part);
    if (view.maskView == MaskView::tint) key.add(view.tintOpacity).add(correction.threadColour);
    return key;
}

}  // namespace

base::ContentKey Renderer::photoKey(const mask::Area& area) const {
    return mask::keyOf(area).add(photo_->key()).key();
}

std::vector<Renderer::Touch> Renderer::touches(const Sequence& sequence, const mask::Area& area) const {
    std::vector<Touch> out;
    base::ContentKey key = photoKey(area);
    for (const Sequence::Step& step : sequence.steps()) {
        mask::CoveragePtr coverage = mask::render(step.correction->mask, area, *cache_);
        if (coverage->isEmpty()) continue;
        key = base::KeyBuilder().add(key).add(step.key).add(mask::keyOn(step.correction->mask, area)).key();
        out.push_back({&step, std::move(coverage), key});
    }
    return out;
}

void Renderer::compose(std::span<const Touch> touches, const mask::Area& area, image::RgbPlanes& picture) const {
    const int width = area.rect.width();
    image::RgbPlanes scratch({width, 1});
    for (int y = 0; y < area.rect.height(); ++y) {
        for (const Touch& touch : touches) applyRow(*touch.step, *touch.coverage, y, rowOf(picture, y), width, scratch);
    }
}

bool Renderer::picture(const Sequence& sequence, const mask::Area& area, image::RgbPlanes& out,
                       document::Id keepBelow) const {
    const std::vector<Touch> all = touches(sequence, area);
    const auto edited =
        std::find_if(all.begin(), all.end(), [=](const Touch& t) { return t.step->correction->id == keepBelow; });
    std::span<const Touch> rest(all);
    if (edited != all.end() && edited != all.begin()) {
        const auto below = static_cast<std::size_t>(edited - all.begin());
        const base::ContentKey key = all[below - 1].after;
        std::shared_ptr<const image::RgbPlanes> kept = cache_->findPicture(key);
        if (!kept) {
            auto made = std::make_shared<image::RgbPlanes>(area.rect.size());
            photo_->read(area.rect, area.level, *made);
            compose(rest.first(below), area, *made);
            cache_->keepPicture(key, made);
            kept = std::move(made);
        }
        out = copyOf(*kept);
        rest = rest.subspan(below);
    } else {
        photo_->read(area.rect, area.level, out);
    }
    compose(rest, area, out);
    return !all.empty();
}

mask::CoveragePtr Renderer::coverage(const document::Correction& correction, const mask::Area& area) const {
    return mask::render(correction.mask, area, *cache_);
}

std::shared_ptr<const DisplayTile> Renderer::display(const Sequence& sequence, const View& view,
                                                     const mask::Area& area) const {
    const document::Correction* selected = document::findCorrection(sequence.document(), view.selected);
    const bool showsMask = selected && view.maskView != MaskView::none;
    const std::vector<Touch> all = touches(sequence, area);
    mask::CoveragePtr coverage;
    base::KeyBuilder key;
    key.add(all.empty() ? photoKey(area) : all.back().after);
    if (showsMask) {
        const mask::Part* part = mask::findPart(selected->mask, view.part);
        coverage = part ? mask::renderPart(*part, area, *cache_) : this->coverage(*selected, area);
        key.add(keyOfView(view, *selected).key()).add(mask::keyOn(selected->mask, area));
    }
    if (auto known = cache_->findDisplay(key.key())) return known;

    image::RgbPlanes picture(area.rect.size());
    if (!showsMask || view.maskView != MaskView::plate) this->picture(sequence, area, picture, view.selected);
    if (photo_->photo().samples.hasAlpha()) layOverWeave(*photo_, area, picture);
    if (showsMask) overlayMask(view, *selected, *coverage, picture);
    auto tile = std::make_shared<DisplayTile>(area.rect.size());
    for (int y = 0; y < area.rect.height(); ++y) {
        const kernel::RgbRow row = rowOf(picture, y);
        kernel::displayRow({row.red, row.green, row.blue}, tile->row(y).data(),
                           static_cast<std::size_t>(area.rect.width()));
    }
    cache_->keepDisplay(key.key(), tile);
    return tile;
}

void Renderer::overlayMask(const View& view, const document::Correction& correction, const mask::Coverage& coverage,
                           image::RgbPlanes& picture) const {
    const check::ThreadColour& thread = check::threadColours[static_cast<std::size_t>(correction.threadColour)];
    const float colour[3] = {static_cast<float>(thread.red) / 255, static_cast<float>(thread.green) / 255,
                             static_cast<float>(thread.blue) / 255};
    constexpr float cutOutGrey = 0.32f;
    image::Plane<float>* planes[3] = {&picture.red, &picture.green, &picture.blue};
    for (int y = 0; y < picture.size().height; ++y) {
        for (int c = 0; c < 3; ++c) {
            const auto row = planes[c]->row(y);
            for (int x = 0; x < picture.size().width; ++x) {
                const float covered = coverageAt(coverage, x, y);
                float& pixel = row[static_cast<std::size_t>(x)];
                switch (view.maskView) {
                    case MaskView::none: break;
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
