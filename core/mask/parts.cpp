#include "core/mask/parts.h"

#include <algorithm>

#include "core/kernel/coverage_rows.h"
#include "core/mask/combine.h"
#include "core/mask/gathered.h"
#include "core/mask/solved_zone.h"

namespace dimhem::mask {

namespace {

// What a part does to the mask before it.
struct Joined {
    Combine how;
    bool isSolved;  // in the place of what was before, as far as `share` says
    double share;
    Staged<Coverage> coverage;
};
void addTo(base::KeyBuilder& key, const Joined& part) {
    key.add(part.how).add(part.isSolved).add(part.share).add(part.coverage.key());
}

constexpr auto joined = [](const CoveragePtr& before, const std::vector<Joined>& parts, base::Size size) {
    CoveragePtr out = before;
    for (const Joined& part : parts) {
        if (part.isSolved) {
            out = replaced(out, part.coverage.value(), part.share, size);
        } else if (!isSettled(*out, part.how)) {
            out = combined(out, part.coverage.value(), part.how, size);
        }
    }
    return out;
};

bool isZone(const PartPtr& part) {
    return part->shape->isZone();
}

Joined joinedWith(const Mask& mask, std::size_t index, const Area& area, Context& context) {
    const Part& part = *mask.parts[index];
    if (!part.shape->isZone()) return {part.combine, false, 1, partOver(part, area, context)};
    const auto before = [&mask, index, &context](const Area& there) {
        return firstPartsOver(mask, index, there, context);
    };
    return {part.combine, true, part.opacityPct / 100, solvedOver(*part.shape, before, area, context)};
}

// Of the first so many parts those up to the last zone, or before it where it ends them: what these make is asked for
// by others as well.
std::size_t begunFrom(const Mask& mask, std::size_t parts) {
    std::size_t last = parts;
    while (last > 0 && !isZone(mask.parts[last - 1])) --last;
    return last == parts && parts > 0 ? parts - 1 : last;
}

Staged<Coverage> firstPartsAnew(const Mask& mask, std::size_t parts, const Area& area, Context& context) {
    const std::size_t begun = begunFrom(mask, parts);
    const Staged<Coverage> before = begun > 0 ? inStore(context, firstParts(mask, begun, area, context))
                                              : uniformCoverage(mask.startsEverywhere ? kernel::fullCoverage : 0);
    std::vector<Joined> all;
    for (std::size_t i = begun; i < parts; ++i) {
        const Part& part = *mask.parts[i];
        const bool acts = part.enabled && !(part.shape->isZone() && part.shape->uniformOn(area) == std::uint16_t{0});
        if (acts) all.push_back(joinedWith(mask, i, area, context));
    }
    return staged<Coverage>("parts", joined, before, std::move(all), area.rect.size());
}

Staged<Coverage> shapeOver(const Shape& shape, const Area& area, Context& context) {
    const auto uniform = shape.uniformOn(area);
    return uniform ? uniformCoverage(*uniform) : inStore(context, shape.over(area, context));
}

}  // namespace

// A zone is solved from what the parts before it make about it, which may be solved from what those before make: each
// is asked for by many.
Staged<Coverage> firstParts(const Mask& mask, std::size_t parts, const Area& area, Context& context) {
    const auto end = mask.parts.begin() + static_cast<std::ptrdiff_t>(parts);
    if (std::none_of(mask.parts.begin(), end, isZone)) return firstPartsAnew(mask, parts, area, context);
    return stage::asked(context, keyOf(area).add("first parts").add(parts).key(),
                        [&mask, parts, area, &context] { return firstPartsAnew(mask, parts, area, context); });
}

// Asked for anew by each zone and each of its blocks.
Staged<image::Plane<float>> firstPartsOver(const Mask& mask, std::size_t parts, const Area& area, Context& context) {
    return stage::asked(context, keyOf(area).add("first parts over").add(parts).key(), [&mask, parts, area, &context] {
        const auto over = [&](const Area& tile) { return inStore(context, firstParts(mask, parts, tile, context)); };
        return gatheredValues(context.photoSize(), area, image::defaultTilePx, over);
    });
}

std::optional<std::uint16_t> uniformOn(const Part& part, const Area& area) {
    const auto shape = part.shape->uniformOn(area);
    if (!shape) return std::nullopt;
    const std::uint16_t entering = prepared(constantCoverage(*shape), part.flipped, opacityOf(part), {})->value();
    if (!part.limit || entering == 0) return entering;
    const auto within = part.limit->uniformOn(area);
    return within ? std::optional(kernel::coverageProduct(entering, *within)) : std::nullopt;
}

Staged<Coverage> partOver(const Part& part, const Area& area, Context& context) {
    if (const auto uniform = uniformOn(part, area)) return uniformCoverage(*uniform);
    const auto entering = staged<Coverage>(
        "part",
        [](const CoveragePtr& shape, bool flipped, std::uint16_t opacity, base::Size size) {
            return prepared(shape, flipped, opacity, size);
        },
        shapeOver(*part.shape, area, context), part.flipped, opacityOf(part), area.rect.size());
    if (!part.limit) return entering;
    return staged<Coverage>(
        "part within a range",
        [](const CoveragePtr& part, const CoveragePtr& range, base::Size size) {
            return combined(part, range, Combine::overlap, size);
        },
        entering, shapeOver(*part.limit, area, context), area.rect.size());
}

}  // namespace dimhem::mask
