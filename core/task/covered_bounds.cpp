#include "core/task/covered_bounds.h"

#include <algorithm>

#include "core/document/edits.h"
#include "core/kernel/coverage_rows.h"
#include "core/task/masked_pictures.h"

namespace dimhem::task {

namespace {

constexpr std::uint16_t leastCovered = kernel::fullCoverage / 20;

// The part alone makes the mask: a zone has nothing to be solved there, so the mask as it is stands for it.
document::DocumentPtr withPartAlone(const document::DocumentPtr& document, document::Id correction, mask::PartId part) {
    const document::Correction* found = document::findCorrection(*document, correction);
    const mask::Part* alone = found ? mask::findPart(found->mask, part) : nullptr;
    if (!alone || alone->shape->isZone()) return document;
    return document::withCorrection(*document, correction, [&](document::Correction& c) {
        mask::Part shown = *alone;
        shown.combine = mask::Combine::add;
        shown.enabled = true;
        c.mask = {};
        c.mask.parts.push_back(std::make_shared<const mask::Part>(std::move(shown)));
    });
}

}  // namespace

std::optional<base::Rect> coveredBounds(const render::Renderer& renderer, const document::DocumentPtr& document,
                                        document::Id correction, mask::PartId part, const base::CancelToken& cancel) {
    const mask::Area area = lookAt(renderer);
    const mask::CoveragePtr coverage =
        renderer.coverage(render::Sequence(withPartAlone(document, correction, part), {}, cancel), correction, area);
    if (coverage->isConstant())
        return coverage->value() < leastCovered ? std::nullopt : std::optional(base::rectOf(renderer.photo().size()));
    base::Rect covered;
    for (int y = 0; y < area.rect.height(); ++y) {
        const std::uint16_t* row = coverage->row(y);
        for (int x = 0; x < area.rect.width(); ++x) {
            if (row[x] >= leastCovered) covered = base::united(covered, {x, y, x + 1, y + 1});
        }
    }
    if (covered.empty()) return std::nullopt;
    const int scale = 1 << area.level;
    return base::intersected({covered.x0 * scale, covered.y0 * scale, covered.x1 * scale, covered.y1 * scale},
                             base::rectOf(renderer.photo().size()));
}

}  // namespace dimhem::task
