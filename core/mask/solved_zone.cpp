#include "core/mask/solved_zone.h"

#include <algorithm>
#include <optional>
#include <vector>

#include "core/edge/found_band.h"
#include "core/edge/solved_matte.h"
#include "core/kernel/coverage_rows.h"
#include "core/kernel/srgb_rows.h"
#include "core/mask/brush.h"
#include "core/mask/kept_once.h"
#include "core/mask/seen_guide.h"

namespace dimhem::mask {

namespace {

constexpr int blockPx = 192, overlapPx = 32, samplesPx = 128;
constexpr float leastZone = 0.5f;

Area wideOf(const Area& block) {
    return {base::grown(block.rect, overlapPx + samplesPx), block.level};
}

// Without the stroke in hand: solving does not keep up with it.
std::shared_ptr<const Shape> settled(const Shape& zone) {
    const auto* painted = dynamic_cast<const Brush*>(&zone);
    const bool goesOn = painted && !painted->strokes().empty() && !painted->strokes().back()->isFinished();
    if (goesOn) return painted->withoutLast();
    return {std::shared_ptr<const Shape>(), &zone};
}

using Flags = image::Plane<std::uint8_t>;

// What is found along the edge, over the whole photo at one level. Its key is told at once, itself once it is asked
// for.
class AlongEdge {
public:
    AlongEdge(const MaskBefore& before, Context& context) : before_(before), context_(context) {
        constexpr double mostPixels = 1e6;
        level_ = image::levelOfAtMost(context.photoSize(), mostPixels);
        key_ = keyOf(whole())
                   .add("band along the edge")
                   .add(before.key(whole()))
                   .add(context.pictureKey(Seen::photo, whole()))
                   .key();
    }
    const base::ContentKey& key() const { return key_; }

    Flags over(const Area& area) const {
        const std::shared_ptr<const Flags> band = found();
        const auto on = [&](int v) {
            return area.level >= level_ ? v * (1 << (area.level - level_))
                                        : base::floorDiv(v, 1 << (level_ - area.level));
        };
        Flags flags = image::filled(area.rect.size(), std::uint8_t{0});
        for (int y = 0; y < flags.size().height; ++y) {
            for (int x = 0; x < flags.size().width; ++x) {
                const int px = on(area.rect.x0 + x), py = on(area.rect.y0 + y);
                if (base::rectOf(band->size()).contains(px, py)) flags.row(y)[x] = band->view().at(px, py);
            }
        }
        return flags;
    }

private:
    Area whole() const { return {base::rectOf(image::levelSize(context_.photoSize(), level_)), level_}; }
    std::shared_ptr<const Flags> found() const {
        return keptOnce<Flags>(
            context_, key_,
            [&] {
                image::EncodedPlanes picture(whole().rect.size());
                context_.readPicture(Seen::photo, whole(), picture);
                return std::make_shared<Flags>(edge::foundBand(kernel::decoded(std::move(picture)),
                                                               before_.read(whole()), noiseAt(level_, context_)));
            },
            [](const Flags& band) { return band.bytes(); });
    }

    const MaskBefore& before_;
    Context& context_;
    int level_ = 0;
    base::ContentKey key_;
};

// Where the mask is not known.
class Zone {
public:
    Zone(const Shape& shape, const MaskBefore& before, Context& context) : shape_(settled(shape)), context_(context) {
        const auto* brush = dynamic_cast<const Brush*>(shape_.get());
        if (!brush || !brush->looksAlongEdge()) return;
        along_.emplace(before, context);
        taken_ = brush->takenAway();
    }

    // Told without looking at the picture: whether it may reach the area.
    bool mayTouch(const Area& area) const { return along_ || shape_->uniformOn(area) != std::uint16_t{0}; }
    base::ContentKey keyOn(const Area& area) const {
        base::KeyBuilder key;
        key.add(shape_->keyOn(area, context_));
        if (along_) key.add(along_->key());
        return key.key();
    }
    Flags over(const Area& area) const {
        Flags unknown = above(*shape_, area);
        if (!along_) return unknown;
        const Flags found = along_->over(area);
        const Flags taken = taken_ ? above(*taken_, area) : image::filled(area.rect.size(), std::uint8_t{0});
        for (int y = 0; y < unknown.size().height; ++y) {
            for (int x = 0; x < unknown.size().width; ++x) {
                if (found.row(y)[x] && !taken.row(y)[x]) unknown.row(y)[x] = 1;
            }
        }
        return unknown;
    }

private:
    Flags above(const Shape& shape, const Area& area) const {
        const image::Plane<float> painted = floatsOf(*shape.render(area, context_), area.rect.size());
        Flags flags(area.rect.size());
        for (int y = 0; y < flags.size().height; ++y)
            std::ranges::transform(painted.row(y), flags.row(y).begin(),
                                   [](float c) -> std::uint8_t { return c >= leastZone; });
        return flags;
    }

    std::shared_ptr<const Shape> shape_, taken_;
    Context& context_;
    std::optional<AlongEdge> along_;
};

bool isAnywhere(const Flags& flags) {
    for (int y = 0; y < flags.size().height; ++y) {
        if (std::ranges::count(flags.row(y), std::uint8_t{0}) < flags.size().width) return true;
    }
    return false;
}

base::ContentKey blockKey(const Zone& zone, const MaskBefore& before, const Area& block, Context& context) {
    const Area wide = wideOf(block);
    return keyOf(block)
        .add("solved zone")
        .add(zone.keyOn(wide))
        .add(before.key(wide))
        .add(context.pictureKey(Seen::photo, wide))
        .key();
}

std::shared_ptr<const Coverage> solvedBlock(const Zone& zone, const MaskBefore& before, const Area& block,
                                            Context& context) {
    return keptOnce<Coverage>(
        context, blockKey(zone, before, block, context),
        [&]() -> CoveragePtr {
            const Area wide = wideOf(block);
            image::EncodedPlanes picture(wide.rect.size());
            context.readPicture(Seen::photo, wide, picture);
            const base::Rect core{overlapPx + samplesPx, overlapPx + samplesPx,
                                  overlapPx + samplesPx + block.rect.width(),
                                  overlapPx + samplesPx + block.rect.height()};
            const base::Point at{static_cast<double>(wide.rect.x0), static_cast<double>(wide.rect.y0)};
            const image::Plane<float> solved =
                edge::solvedMatte(kernel::decoded(std::move(picture)), at, before.read(wide), zone.over(wide),
                                  base::grown(core, overlapPx), {.noise = noiseAt(block.level, context)});
            return coverageOf(image::cropped(solved, core));
        },
        [](const Coverage& coverage) { return coverage.bytes(); });
}

}  // namespace

base::ContentKey solvedKey(const Shape& shape, const MaskBefore& before, const Area& area, Context& context) {
    const Zone zone(shape, before, context);
    base::KeyBuilder key;
    key.add(before.key(area));
    forEachTile(area, blockPx, [&](const Area& block) {
        if (zone.mayTouch(block)) key.add(blockKey(zone, before, block, context));
    });
    return key.key();
}

CoveragePtr solvedOver(const Shape& shape, const MaskBefore& before, const Area& area, Context& context) {
    const Zone zone(shape, before, context);
    image::Plane<float> out = before.read(area);
    forEachTile(area, blockPx, [&](const Area& block) {
        if (!zone.mayTouch(block) || !isAnywhere(zone.over(block))) return;
        const auto solved = solvedBlock(zone, before, block, context);
        image::copyShared(floatsOf(*solved, block.rect.size()), block.rect, out, area.rect);
    });
    return coverageOf(out);
}

}  // namespace dimhem::mask
