#include "core/mask/across_levels.h"

#include <algorithm>
#include <cmath>

#include "core/edge/band_cut.h"
#include "core/edge/keep_near.h"
#include "core/edge/matte.h"
#include "core/kernel/bilinear.h"
#include "core/kernel/coverage_rows.h"
#include "core/mask/beyond_photo.h"
#include "core/mask/seen_guide.h"

namespace dimhem::mask {

namespace {

constexpr int blockPx = 256;
constexpr double finerBandPx = 4;  // on each finer level
constexpr double leastBandPx = 4;

// What is wanted of a block: its matte, or only which side of the edge each pixel is on, to go on from.
enum class Wanted { matte, sides };

// What is found, as far as a rectangle of its level: nothing beyond it is looked at.
class FoundWithin {
public:
    FoundWithin(FoundPtr found, const base::Rect& rect) : found_(std::move(found)), rect_(rect) {}
    base::ContentKey key() const {
        return base::KeyBuilder().add(found_->level).add(found_->firstBandPx).add(found_->over(rect_).key()).key();
    }
    const FoundPtr& value() const { return found_; }

private:
    FoundPtr found_;
    base::Rect rect_;
};

Staged<Coverage> blockOf(const FoundPtr& found, const Area& block, Wanted wanted, const PhotoRead& photo);

// From blocks of the area's own level, which is at most that of the found matte.
image::Plane<float> fromBlocks(const FoundPtr& found, const Area& area, Wanted wanted, const PhotoRead& photo) {
    image::Plane<float> out(area.rect.size());
    image::forEachTile(area.rect, blockPx, [&](const base::Rect& block) {
        const CoveragePtr coverage = blockOf(found, {block, area.level}, wanted, photo).value();
        const base::Rect both = base::intersected(block, area.rect);
        for (int y = both.y0; y < both.y1; ++y) {
            float* to = out.row(y - area.rect.y0).data() + (both.x0 - area.rect.x0);
            for (int x = both.x0; x < both.x1; ++x) {
                const std::uint16_t v =
                    coverage->isConstant() ? coverage->value() : coverage->row(y - block.y0)[x - block.x0];
                *to++ = static_cast<float>(v) / kernel::fullCoverage;
            }
        }
    });
    return out;
}

// How far off an edge may be on a level, and how much about a block is looked at for it.
double bandOn(const Found& found, int level) {
    return level == found.level ? found.firstBandPx : finerBandPx;
}

int marginOn(const Found& found, int level) {
    return static_cast<int>(std::ceil(3 * std::max(bandOn(found, level), leastBandPx))) + 20;
}

// What is read of the next coarser level to fill an area from it.
Area coarserOf(const Area& area) {
    const base::Rect& r = area.rect;
    return {{base::floorDiv(r.x0, 2) - 1, base::floorDiv(r.y0, 2) - 1, base::floorDiv(r.x1, 2) + 2,
             base::floorDiv(r.y1, 2) + 2},
            area.level + 1};
}

// What is read of the found matte for an area of its own level or a finer one.
base::Rect readFor(const Found& found, Area area) {
    for (;;) {
        const base::Rect& r = area.rect;
        const base::Rect blocks{base::floorDiv(r.x0, blockPx), base::floorDiv(r.y0, blockPx),
                                base::floorDiv(r.x1 - 1, blockPx) + 1, base::floorDiv(r.y1 - 1, blockPx) + 1};
        area.rect = base::grown({blocks.x0 * blockPx, blocks.y0 * blockPx, blocks.x1 * blockPx, blocks.y1 * blockPx},
                                marginOn(found, area.level));
        if (area.level >= found.level) return area.rect;
        area = coarserOf(area);
    }
}

// The pixels of the found level that make up an area of a coarser one.
Area onFoundLevel(const Found& found, const Area& area) {
    const int times = 1 << (area.level - found.level);
    const base::Rect& r = area.rect;
    return {{r.x0 * times, r.y0 * times, r.x1 * times, r.y1 * times}, found.level};
}

image::Plane<float> fromCoarser(const FoundPtr& found, const Area& area, const PhotoRead& photo) {
    const Area coarser = coarserOf(area);
    const image::Plane<float> from = fromBlocks(found, coarser, Wanted::sides, photo);
    image::Plane<float> out(area.rect.size());
    for (int y = 0; y < out.size().height; ++y) {
        const double v = (area.rect.y0 + y + 0.5) / 2 - coarser.rect.y0;
        for (int x = 0; x < out.size().width; ++x) {
            const double u = (area.rect.x0 + x + 0.5) / 2 - coarser.rect.x0;
            out.row(y)[x] = static_cast<float>(kernel::bilinear(from, u, v));
        }
    }
    return out;
}

std::optional<float> sameEverywhere(const edge::Sides& sides) {
    const edge::Side first = sides.row(0)[0];
    for (int y = 0; y < sides.size().height; ++y) {
        for (const edge::Side side : sides.row(y)) {
            if (side != first) return std::nullopt;
        }
    }
    return first == edge::Side::inside ? 1.0f : 0.0f;
}

image::Plane<float> onesOf(const edge::Sides& sides) {
    image::Plane<float> out(sides.size());
    for (int y = 0; y < sides.size().height; ++y) {
        std::transform(sides.row(y).begin(), sides.row(y).end(), out.row(y).begin(),
                       [](edge::Side side) { return side == edge::Side::inside ? 1.0f : 0.0f; });
    }
    return out;
}

constexpr auto solvedAcross = [](const FoundPtr& found, const PhotoRead& photo, const Area& block,
                                 Wanted wanted) -> CoveragePtr {
    const double band = bandOn(*found, block.level);
    const int margin = marginOn(*found, block.level);
    const Area wide{base::grown(block.rect, margin), block.level};
    const auto sidesThere = [&] {
        return block.level == found->level ? edge::sidesOf(*found->over(wide.rect).value())
                                           : edge::sidesOf(fromCoarser(found, wide, photo));
    };
    edge::Sides sides = sidesThere();
    edge::Sides filled = image::copied(sides);
    edge::fillUnknown(filled);
    if (const auto same = sameEverywhere(filled))
        return std::make_shared<Coverage>(static_cast<std::uint16_t>(*same * kernel::fullCoverage));
    const edge::Guide guide = guideOver(wide, photo);
    const double noise = noiseAt(block.level, photo);
    if (band > 0) edge::cutBand(guide, band, noise, sides);
    if (band > leastBandPx) edge::cutBand(guide, std::max(leastBandPx, band / 2), noise, sides);
    edge::fillUnknown(sides);
    edge::keepNear(filled, 2 * std::max(leastBandPx, band), sides);
    const base::Rect own{margin, margin, margin + block.rect.width(), margin + block.rect.height()};
    return coverageOf(
        image::cropped(wanted == Wanted::matte ? edge::matteOf(guide, sides).coverage : onesOf(sides), own));
};

Staged<Coverage> blockOf(const FoundPtr& found, const Area& block, Wanted wanted, const PhotoRead& photo) {
    return stage::keptForGood(
        photo.store(), staged<Coverage>("across levels", solvedAcross, FoundWithin(found, readFor(*found, block)),
                                        photo, block, wanted));
}

// The mean over the pixels of the found level that make up one of the area's.
CoveragePtr averaged(const FoundPtr& found, const Area& area, const PhotoRead& photo) {
    const int times = 1 << (area.level - found->level);
    const base::Rect& r = area.rect;
    const image::Plane<float> fine = fromBlocks(found, onFoundLevel(*found, area), Wanted::matte, photo);
    image::Plane<float> out(r.size());
    for (int y = 0; y < r.height(); ++y) {
        for (int x = 0; x < r.width(); ++x) {
            float sum = 0;
            for (int j = 0; j < times; ++j) {
                const float* row = fine.row(y * times + j).data() + x * times;
                for (int i = 0; i < times; ++i) sum += row[i];
            }
            out.row(y)[x] = sum / static_cast<float>(times * times);
        }
    }
    return coverageOf(out);
}

}  // namespace

Staged<Coverage> acrossLevels(FoundPtr found, const Area& area, const PhotoRead& photo) {
    const Area inside = onPhoto(photo.size(), area);
    if (inside.rect != area.rect) {
        return staged<Coverage>(
            "gone on",
            [](const CoveragePtr& there, const base::Rect& inside, const base::Rect& area) {
                if (there->isConstant()) return there;
                return coverageOf(extended(floatsOf(*there, inside.size()), inside, area));
            },
            acrossLevels(std::move(found), inside, photo), inside.rect, area.rect);
    }
    const FoundWithin within(found, readFor(*found, area.level > found->level ? onFoundLevel(*found, area) : area));
    return staged<Coverage>(
        "of blocks across levels",
        [](const FoundPtr& found, const PhotoRead& photo, const Area& area) {
            if (area.level > found->level) return averaged(found, area, photo);
            return coverageOf(fromBlocks(found, area, Wanted::matte, photo));
        },
        within, photo, area);
}

}  // namespace dimhem::mask
