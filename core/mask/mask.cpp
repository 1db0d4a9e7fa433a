#include "core/mask/mask.h"

#include <functional>
#include <numeric>

#include "core/kernel/coverage_rows.h"
#include "core/mask/combine.h"
#include "core/mask/parts.h"
#include "core/mask/refined_mask.h"

namespace dimhem::mask {

namespace {

// Where its parts tell at once.
std::optional<std::uint16_t> uniformOn(const Mask& mask, const Area& area) {
    if (!isNeutral(mask.refine)) return std::nullopt;
    CoveragePtr out = constantCoverage(mask.startsEverywhere ? kernel::fullCoverage : 0);
    for (const PartPtr& part : mask.parts) {
        if (!part->enabled) continue;
        if (part->shape->isZone()) {
            if (part->shape->uniformOn(area) != std::uint16_t{0}) return std::nullopt;
            continue;
        }
        const auto uniform = uniformOn(*part, area);
        if (!uniform) return std::nullopt;
        out = combined(out, constantCoverage(*uniform), part->combine, {});
    }
    return prepared(out, mask.inverted, kernel::fullCoverage, {})->value();
}

constexpr auto turnedInsideOut = [](const CoveragePtr& coverage, base::Size size) {
    return prepared(coverage, true, kernel::fullCoverage, size);
};

}  // namespace

std::size_t weightOf(const Part& part) {
    return part.shape->weight() + (part.limit ? part.limit->weight() : 0);
}

std::size_t weightOf(const Mask& mask) {
    return std::transform_reduce(mask.parts.begin(), mask.parts.end(), std::size_t{0}, std::plus<>(),
                                 [](const PartPtr& part) { return weightOf(*part); });
}

bool looksAtArriving(const Part& part) {
    return part.shape->looksAtArriving() || (part.limit && part.limit->looksAtArriving());
}

const Part* findPart(const Mask& mask, PartId id) {
    for (const PartPtr& part : mask.parts) {
        if (part->id == id) return part.get();
    }
    return nullptr;
}

Staged<Coverage> over(const Mask& mask, const Area& area, Context& context) {
    if (const auto uniform = uniformOn(mask, area)) return uniformCoverage(*uniform);
    const Staged<Coverage> coverage =
        isNeutral(mask.refine) ? firstParts(mask, mask.parts.size(), area, context) : refinedMask(mask, area, context);
    return inStore(
        context, mask.inverted ? staged<Coverage>("inverted", turnedInsideOut, coverage, area.rect.size()) : coverage);
}

}  // namespace dimhem::mask
