#include "core/mask/solved_zone.h"

#include <algorithm>
#include <optional>
#include <vector>

#include "core/edge/found_band.h"
#include "core/edge/solved_matte.h"
#include "core/kernel/srgb_rows.h"
#include "core/mask/brush.h"
#include "core/mask/seen_guide.h"

namespace dimhem::mask {

namespace {

constexpr int blockPx = 192, overlapPx = 32, samplesPx = 128;
constexpr float leastZone = 0.5f;

using Flags = image::Plane<std::uint8_t>;
using Values = image::Plane<float>;

// Without the stroke in hand: solving does not keep up with it.
std::shared_ptr<const Shape> settled(const Shape& zone) {
    const auto* painted = dynamic_cast<const Brush*>(&zone);
    const bool goesOn = painted && !painted->strokes().empty() && !painted->strokes().back()->isFinished();
    if (goesOn) return painted->withoutLast();
    return {std::shared_ptr<const Shape>(), &zone};
}

// What is found along the edge, over the whole photo at one level.
constexpr auto alongEdge = [](const PhotoRead& photo, const Values& before, const Area& whole) {
    return edge::foundBand(kernel::decoded(photo.picture(whole)), before, noiseAt(whole.level, photo));
};

Flags bandOver(const Flags& band, int bandLevel, const Area& area) {
    const auto on = [&](int v) {
        return area.level >= bandLevel ? v * (1 << (area.level - bandLevel))
                                       : base::floorDiv(v, 1 << (bandLevel - area.level));
    };
    Flags flags = image::filled(area.rect.size(), std::uint8_t{0});
    for (int y = 0; y < flags.size().height; ++y) {
        for (int x = 0; x < flags.size().width; ++x) {
            const int px = on(area.rect.x0 + x), py = on(area.rect.y0 + y);
            if (base::rectOf(band.size()).contains(px, py)) flags.row(y)[x] = band.view().at(px, py);
        }
    }
    return flags;
}

Flags above(const Coverage& coverage, base::Size size) {
    const Values painted = floatsOf(coverage, size);
    Flags flags(size);
    for (int y = 0; y < size.height; ++y)
        std::ranges::transform(painted.row(y), flags.row(y).begin(),
                               [](float c) -> std::uint8_t { return c >= leastZone; });
    return flags;
}

constexpr auto painted = [](const Coverage& coverage, base::Size size) { return above(coverage, size); };

constexpr auto withBand = [](const Coverage& coverage, const Coverage& taken, const Flags& band, int bandLevel,
                             const Area& area) {
    Flags unknown = above(coverage, area.rect.size());
    const Flags found = bandOver(band, bandLevel, area), without = above(taken, area.rect.size());
    for (int y = 0; y < unknown.size().height; ++y) {
        for (int x = 0; x < unknown.size().width; ++x) {
            if (found.row(y)[x] && !without.row(y)[x]) unknown.row(y)[x] = 1;
        }
    }
    return unknown;
};

// Where the mask is not known.
class Zone {
public:
    Zone(const Shape& shape, const MaskBefore& before, Context& context) : shape_(settled(shape)), context_(context) {
        const auto* brush = dynamic_cast<const Brush*>(shape_.get());
        if (!brush || !brush->looksAlongEdge()) return;
        constexpr double mostPixels = 1e6;
        const Area whole = image::wholeAt(context.photoSize(), image::levelOfAtMost(context.photoSize(), mostPixels));
        bandLevel_ = whole.level;
        band_ = stage::keptForGood(
            context, staged<Flags>("band along the edge", alongEdge, context.photo(), before(whole), whole));
        taken_ = brush->takenAway();
    }

    // Told without looking at the picture: whether it may reach the area.
    bool mayTouch(const Area& area) const { return band_ || shape_->uniformOn(area) != std::uint16_t{0}; }

    Staged<Flags> over(const Area& area) const {
        const Staged<Coverage> coverage = shape_->over(area, context_).owning(shape_);
        if (!band_) return staged<Flags>("painted zone", painted, coverage, area.rect.size());
        return staged<Flags>("zone", withBand, coverage,
                             taken_ ? taken_->over(area, context_).owning(taken_) : uniformCoverage(0), *band_,
                             bandLevel_, area);
    }

private:
    std::shared_ptr<const Shape> shape_, taken_;
    Context& context_;
    std::optional<Staged<Flags>> band_;
    int bandLevel_ = 0;
};

bool isAnywhere(const Flags& flags) {
    for (int y = 0; y < flags.size().height; ++y) {
        if (std::ranges::count(flags.row(y), std::uint8_t{0}) < flags.size().width) return true;
    }
    return false;
}

constexpr auto solved = [](const PhotoRead& photo, const Values& before, const Flags& unknown, const Area& wide) {
    const base::Rect all = base::rectOf(wide.rect.size()), core = base::grown(all, -(overlapPx + samplesPx));
    const base::Point at{static_cast<double>(wide.rect.x0), static_cast<double>(wide.rect.y0)};
    const Values values = edge::solvedMatte(kernel::decoded(photo.picture(wide)), at, before, unknown,
                                            base::grown(core, overlapPx), {.noise = noiseAt(wide.level, photo)});
    return coverageOf(image::cropped(values, core));
};

// A block of the lattice that the zone may touch: whether it does is known once it is looked at.
struct Block {
    Area area;
    Staged<Flags> unknown;
    Staged<Coverage> solved;
};
void addTo(base::KeyBuilder& key, const Block& block) {
    addTo(key, block.area);
    key.add(block.unknown.key()).add(block.solved.key());
}

constexpr auto withBlocks = [](const Values& before, const std::vector<Block>& blocks, const Area& area) {
    Values out = image::copied(before);
    for (const Block& block : blocks) {
        if (!isAnywhere(*block.unknown.value())) continue;
        image::copyShared(floatsOf(*block.solved.value(), block.area.rect.size()), block.area.rect, out, area.rect);
    }
    return coverageOf(out);
};

}  // namespace

Staged<Coverage> solvedOver(const Shape& shape, const MaskBefore& before, const Area& area, Context& context) {
    const Zone zone(shape, before, context);
    std::vector<Block> blocks;
    forEachTile(area, blockPx, [&](const Area& block) {
        if (!zone.mayTouch(block)) return;
        const Area wide = image::grown(block, overlapPx + samplesPx);
        blocks.push_back({block, zone.over(block),
                          stage::keptForGood(context, staged<Coverage>("solved zone", solved, context.photo(),
                                                                       before(wide), zone.over(wide), wide))});
    });
    return staged<Coverage>("solved", withBlocks, before(area), std::move(blocks), area);
}

}  // namespace dimhem::mask
