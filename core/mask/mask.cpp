#include "core/mask/mask.h"

#include <functional>
#include <numeric>

#include "core/edge/snap.h"
#include "core/image/tiles.h"
#include "core/kernel/coverage_rows.h"
#include "core/mask/kept_once.h"
#include "core/mask/seen_guide.h"
#include "core/mask/solved_zone.h"

namespace dimhem::mask {

namespace {

std::uint16_t opacityOf(const Part& part) {
    return static_cast<std::uint16_t>(part.opacityPct / 100 * kernel::fullCoverage + 0.5);
}

CoveragePtr constant(std::uint16_t value) {
    static const CoveragePtr none = std::make_shared<Coverage>(std::uint16_t{0}),
                             full = std::make_shared<Coverage>(kernel::fullCoverage);
    if (value == 0) return none;
    return value == kernel::fullCoverage ? full : std::make_shared<Coverage>(value);
}

std::uint16_t combined(std::uint16_t mask, std::uint16_t part, Combine combine) {
    switch (combine) {
        case Combine::add: return kernel::coverageAdd(mask, part);
        case Combine::subtract: return kernel::coverageSubtract(mask, part);
        case Combine::overlap: return kernel::coverageProduct(mask, part);
    }
    return mask;
}

// The mask itself where the part cannot change it, so that unchanged memory stays shared.
bool changesNothing(const Coverage& mask, const Coverage& part, Combine combine) {
    if (combine == Combine::overlap) {
        return mask.isEmpty() || (part.isConstant() && part.value() == kernel::fullCoverage);
    }
    if (part.isEmpty()) return true;
    return combine == Combine::add ? mask.isConstant() && mask.value() == kernel::fullCoverage : mask.isEmpty();
}

CoveragePtr combine(const CoveragePtr& mask, const CoveragePtr& part, Combine how, base::Size size) {
    if (changesNothing(*mask, *part, how)) return mask;
    if (mask->isConstant() && part->isConstant()) return constant(combined(mask->value(), part->value(), how));
    image::Plane<std::uint16_t> out = mask->copy(size);
    const image::Plane<std::uint16_t> other = part->isConstant() ? part->copy(size) : image::Plane<std::uint16_t>();
    const auto row = how == Combine::add        ? kernel::addRow
                     : how == Combine::subtract ? kernel::subtractRow
                                                : kernel::overlapRow;
    for (int y = 0; y < size.height; ++y) {
        row(out.row(y).data(), part->isConstant() ? other.row(y).data() : part->row(y),
            static_cast<std::size_t>(size.width));
    }
    return std::make_shared<Coverage>(std::move(out));
}

CoveragePtr shapeCoverage(const Shape& shape, const Area& area, Context& context) {
    if (const auto uniform = shape.uniformOn(area)) return constant(*uniform);
    const base::ContentKey key = shape.keyOn(area, context);
    if (CoveragePtr known = context.find(key)) return known;
    CoveragePtr made = shape.render(area, context);
    context.keep(key, made);
    return made;
}

CoveragePtr prepared(const CoveragePtr& shape, bool flipped, std::uint16_t opacity, base::Size size) {
    if (!flipped && opacity == kernel::fullCoverage) return shape;
    if (shape->isConstant()) {
        std::uint16_t value = shape->value();
        kernel::preparePartRow(&value, flipped, opacity, 1);
        return constant(value);
    }
    image::Plane<std::uint16_t> plane = shape->copy(size);
    for (int y = 0; y < size.height; ++y) {
        kernel::preparePartRow(plane.row(y).data(), flipped, opacity, static_cast<std::size_t>(size.width));
    }
    return std::make_shared<Coverage>(std::move(plane));
}

}  // namespace

namespace {

base::ContentKey keyOfFirst(const Mask& mask, std::size_t parts, const Area& area, Context& context);
image::Plane<float> gatheredFirst(const Mask& mask, std::size_t parts, const Area& area, Context& context);

// What the first so many parts of a mask make, for a zone to be solved from.
MaskBefore beforePart(const Mask& mask, std::size_t parts, Context& context) {
    return {[&mask, parts, &context](const Area& area) {
                base::KeyBuilder key;
                forEachTile(area, image::defaultTilePx,
                            [&](const Area& tile) { key.add(keyOfFirst(mask, parts, tile, context)); });
                return key.key();
            },
            [&mask, parts, &context](const Area& area) { return gatheredFirst(mask, parts, area, context); }};
}

base::ContentKey keyOfFirstAnew(const Mask& mask, std::size_t parts, const Area& area, Context& context) {
    base::KeyBuilder builder = keyOf(area);
    builder.add(mask.startsEverywhere);
    for (std::size_t i = 0; i < parts; ++i) {
        const Part& part = *mask.parts[i];
        if (!part.enabled) continue;
        builder.add(part.combine).add(part.flipped).add(opacityOf(part));
        if (part.shape->isZone()) {
            builder.add(solvedKey(*part.shape, beforePart(mask, i, context), area, context));
        } else {
            builder.add(part.shape->keyOn(area, context));
        }
    }
    return builder.key();
}

// A zone is solved from what the parts before it make about it, which may be solved from what those before make: each
// is asked for by many.
base::ContentKey keyOfFirst(const Mask& mask, std::size_t parts, const Area& area, Context& context) {
    const auto first = mask.parts.begin(), end = first + static_cast<std::ptrdiff_t>(parts);
    if (std::none_of(first, end, [](const PartPtr& part) { return part->shape->isZone(); }))
        return keyOfFirstAnew(mask, parts, area, context);
    const base::ContentKey question = keyOf(area).add("first parts").add(parts).key();
    if (const auto known = context.rememberedKey(question)) return *known;
    const base::ContentKey key = keyOfFirstAnew(mask, parts, area, context);
    context.rememberKey(question, key);
    return key;
}

base::ContentKey combinedKey(const Mask& mask, const Area& area, Context& context) {
    return base::KeyBuilder()
        .add(isNeutral(mask.refine) && mask.inverted)
        .add(keyOfFirst(mask, mask.parts.size(), area, context))
        .key();
}

// The solved mask in the place of the one before, as far as the part's opacity says.
CoveragePtr withZone(const Mask& mask, std::size_t index, const CoveragePtr& before, const Area& area,
                     Context& context) {
    const Part& part = *mask.parts[index];
    if (part.shape->uniformOn(area) == std::uint16_t{0}) return before;
    const CoveragePtr solved = solvedOver(*part.shape, beforePart(mask, index, context), area, context);
    if (part.opacityPct == 100) return solved;
    const base::Size size = area.rect.size();
    image::Plane<float> out = floatsOf(*before, size);
    const image::Plane<float> other = floatsOf(*solved, size);
    const auto share = static_cast<float>(part.opacityPct / 100);
    for (int y = 0; y < size.height; ++y) {
        std::transform(out.row(y).begin(), out.row(y).end(), other.row(y).begin(), out.row(y).begin(),
                       [=](float was, float is) { return was + share * (is - was); });
    }
    return coverageOf(out);
}

CoveragePtr firstParts(const Mask& mask, std::size_t parts, const Area& area, Context& context) {
    CoveragePtr out = constant(mask.startsEverywhere ? kernel::fullCoverage : 0);
    for (std::size_t i = 0; i < parts; ++i) {
        const Part& part = *mask.parts[i];
        if (!part.enabled) continue;
        out = part.shape->isZone() ? withZone(mask, i, out, area, context)
                                   : combine(out, renderPart(part, area, context), part.combine, area.rect.size());
    }
    return out;
}

CoveragePtr combinedParts(const Mask& mask, const Area& area, Context& context) {
    return firstParts(mask, mask.parts.size(), area, context);
}

void copyInto(image::Plane<float>& out, const base::Rect& outRect, const Coverage& from, const base::Rect& fromRect) {
    const base::Rect both = base::intersected(fromRect, outRect);
    for (int y = both.y0; y < both.y1; ++y) {
        float* to = out.row(y - outRect.y0).data() + (both.x0 - outRect.x0);
        for (int x = both.x0; x < both.x1; ++x) {
            const std::uint16_t v = from.isConstant() ? from.value() : from.row(y - fromRect.y0)[x - fromRect.x0];
            *to++ = static_cast<float>(v) / kernel::fullCoverage;
        }
    }
}

// The parts combined over an area of any size, put together from whole tiles, which are found again by its neighbours.
image::Plane<float> gathered(const Mask& mask, const Area& area, Context& context) {
    image::Plane<float> out(area.rect.size());
    forEachTile(area, image::defaultTilePx, [&](const Area& tile) {
        const base::ContentKey key = base::KeyBuilder().add("unrefined").add(combinedKey(mask, tile, context)).key();
        CoveragePtr coverage = context.find(key);
        if (!coverage) {
            coverage = combinedParts(mask, tile, context);
            context.keep(key, coverage);
        }
        copyInto(out, area.rect, *coverage, tile.rect);
    });
    return out;
}

image::Plane<float> gatheredFirst(const Mask& mask, std::size_t parts, const Area& area, Context& context) {
    image::Plane<float> out(area.rect.size());
    forEachTile(area, image::defaultTilePx, [&](const Area& tile) {
        const base::ContentKey key =
            base::KeyBuilder().add("first parts").add(keyOfFirst(mask, parts, tile, context)).key();
        CoveragePtr coverage = context.find(key);
        if (!coverage) {
            coverage = firstParts(mask, parts, tile, context);
            context.keep(key, coverage);
        }
        copyInto(out, area.rect, *coverage, tile.rect);
    });
    return out;
}

constexpr int snapBlockPx = 256;

// How far an edge may move, in pixels of the level.
double snapBand(const Refine& refine, const Area& area) {
    return std::max(2.0, (1.6 * refine.edgeSnapPx + 3) / area.scale());
}

Area snapArea(const Refine& refine, const Area& block) {
    const int reach = edge::snapReach(snapBand(refine, block));
    return {{block.rect.x0 - reach, block.rect.y0 - reach, block.rect.x1 + reach, block.rect.y1 + reach}, block.level};
}

void addRefine(base::KeyBuilder& key, const Refine& refine) {
    for (const RefineParam& param : refineParams()) key.add(refine.*param.value);
}

base::ContentKey snappedKey(const Mask& mask, const Area& block, Context& context) {
    const Area wide = snapArea(mask.refine, block);
    base::KeyBuilder key = keyOf(block);
    addRefine(key, mask.refine);
    key.add("edge snap").add(context.pictureKey(Seen::photo, wide));
    forEachTile(planRefine(beforeSnap(mask.refine), wide).area, image::defaultTilePx,
                [&](const Area& tile) { key.add(combinedKey(mask, tile, context)); });
    return key.key();
}

CoveragePtr snappedBlock(const Mask& mask, const Area& block, Context& context) {
    return keptOnce<Coverage>(
        context, snappedKey(mask, block, context),
        [&]() -> CoveragePtr {
            const Area wide = snapArea(mask.refine, block);
            const Refine before = beforeSnap(mask.refine);
            const BlurPlan plan = planRefine(before, wide);
            const CoveragePtr shaped = refined(before, gathered(mask, plan.area, context), plan, wide);
            if (shaped->isConstant()) return shaped;
            const image::Plane<float> start = floatsOf(*shaped, wide.rect.size());
            const image::Plane<float> snapped =
                edge::snapped(guideOver(wide, context), start, snapBand(mask.refine, block),
                              noiseAt(block.level, context), 1.2 * mask.refine.edgeSnapPx / block.scale() + 1);
            const auto strength = static_cast<float>(mask.refine.edgeSnapPct / 100);
            image::Plane<float> out(block.rect.size());
            const int dx = block.rect.x0 - wide.rect.x0, dy = block.rect.y0 - wide.rect.y0;
            for (int y = 0; y < out.size().height; ++y) {
                for (int x = 0; x < out.size().width; ++x) {
                    const float from = start.row(y + dy)[x + dx];
                    out.row(y)[x] = from + strength * (snapped.row(y + dy)[x + dx] - from);
                }
            }
            return coverageOf(out);
        },
        [](const Coverage& coverage) { return coverage.bytes(); });
}

image::Plane<float> gatheredSnapped(const Mask& mask, const Area& area, Context& context) {
    image::Plane<float> out(area.rect.size());
    forEachTile(area, snapBlockPx,
                [&](const Area& block) { copyInto(out, area.rect, *snappedBlock(mask, block, context), block.rect); });
    return out;
}

// Refining looks far around; the further, the larger the blocks it is worked out in, so that the surroundings do not
// outweigh the block. 0: the area itself will do.
int refineBlockPx(const Refine& refine, const Area& area) {
    const int margin =
        (area.rect.x0 >> (planRefine(refine, area).area.level - area.level)) - planRefine(refine, area).area.rect.x0;
    return margin < 64 ? 0 : margin < 128 ? 512 : 1024;
}

CoveragePtr refinedMask(const Mask& mask, const Area& area, Context& context);

CoveragePtr refinedFromBlocks(const Mask& mask, const Area& area, int blockPx, Context& context) {
    image::Plane<std::uint16_t> out(area.rect.size());
    forEachTile(area, blockPx, [&](const Area& block) {
        const base::ContentKey key = base::KeyBuilder().add("refined block").add(keyOn(mask, block, context)).key();
        const auto coverage = madeOnce<Coverage>(
            context, key, [&] { return refinedMask(mask, block, context); },
            [](const Coverage& made) { return made.bytes(); });
        const base::Rect both = base::intersected(block.rect, area.rect);
        for (int y = both.y0; y < both.y1; ++y) {
            std::uint16_t* to = out.row(y - area.rect.y0).data() + (both.x0 - area.rect.x0);
            if (coverage->isConstant()) {
                std::fill_n(to, both.width(), coverage->value());
            } else {
                std::copy_n(coverage->row(y - block.rect.y0) + (both.x0 - block.rect.x0), both.width(), to);
            }
        }
    });
    return std::make_shared<Coverage>(std::move(out));
}

CoveragePtr refinedMask(const Mask& mask, const Area& area, Context& context) {
    const bool snaps = mask.refine.edgeSnapPx > 0;
    const Refine refine = snaps ? afterSnap(mask.refine) : mask.refine;
    const BlurPlan plan = planRefine(refine, area);
    return refined(refine, snaps ? gatheredSnapped(mask, plan.area, context) : gathered(mask, plan.area, context), plan,
                   area);
}

}  // namespace

// The mask over an area, where its parts tell at once; else null.
static CoveragePtr uniformOn(const Mask& mask, const Area& area) {
    if (!isNeutral(mask.refine)) return nullptr;
    CoveragePtr out = constant(mask.startsEverywhere ? kernel::fullCoverage : 0);
    for (const PartPtr& part : mask.parts) {
        if (!part->enabled) continue;
        const auto uniform = part->shape->uniformOn(area);
        if (!uniform || (part->shape->isZone() && *uniform != 0)) return nullptr;
        if (part->shape->isZone()) continue;
        out = combine(out, prepared(constant(*uniform), part->flipped, opacityOf(*part), {}), part->combine, {});
    }
    return prepared(out, mask.inverted, kernel::fullCoverage, {});
}

std::size_t weightOf(const Mask& mask) {
    return std::transform_reduce(mask.parts.begin(), mask.parts.end(), std::size_t{0}, std::plus<>(),
                                 [](const PartPtr& part) { return part->shape->weight(); });
}

const Part* findPart(const Mask& mask, PartId id) {
    for (const PartPtr& part : mask.parts) {
        if (part->id == id) return part.get();
    }
    return nullptr;
}

CoveragePtr renderPart(const Part& part, const Area& area, Context& context) {
    return prepared(shapeCoverage(*part.shape, area, context), part.flipped, opacityOf(part), area.rect.size());
}

base::ContentKey keyOn(const Mask& mask, const Area& area, Context& context) {
    if (isNeutral(mask.refine)) return combinedKey(mask, area, context);
    base::KeyBuilder key = keyOf(area);
    key.add("refined").add(mask.inverted);
    addRefine(key, mask.refine);
    if (mask.refine.edgeSnapPx > 0) {
        forEachTile(planRefine(afterSnap(mask.refine), area).area, snapBlockPx,
                    [&](const Area& block) { key.add(snappedKey(mask, block, context)); });
    } else {
        forEachTile(planRefine(mask.refine, area).area, image::defaultTilePx,
                    [&](const Area& tile) { key.add(combinedKey(mask, tile, context)); });
    }
    return key.key();
}

CoveragePtr render(const Mask& mask, const Area& area, Context& context) {
    if (CoveragePtr uniform = uniformOn(mask, area)) return uniform;
    const base::ContentKey key = keyOn(mask, area, context);
    if (CoveragePtr known = context.find(key)) return known;
    CoveragePtr out;
    if (isNeutral(mask.refine)) {
        out = combinedParts(mask, area, context);
    } else {
        const int block = mask.refine.edgeSnapPx > 0 ? 0 : refineBlockPx(mask.refine, area);
        const bool large = area.rect.width() >= block && area.rect.height() >= block;
        out = large ? refinedMask(mask, area, context) : refinedFromBlocks(mask, area, block, context);
    }
    out = prepared(out, mask.inverted, kernel::fullCoverage, area.rect.size());
    context.keep(key, out);
    return out;
}

std::string_view idOf(Combine combine) {
    switch (combine) {
        case Combine::add: return "add";
        case Combine::subtract: return "subtract";
        case Combine::overlap: return "overlap";
    }
    return {};
}

std::optional<Combine> combineOf(std::string_view id) {
    for (const Combine combine : {Combine::add, Combine::subtract, Combine::overlap}) {
        if (idOf(combine) == id) return combine;
    }
    return std::nullopt;
}

}  // namespace dimhem::mask
