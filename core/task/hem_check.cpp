#include "core/task/hem_check.h"

#include <algorithm>
#include <cmath>

#include "core/check/figures.h"
#include "core/document/edits.h"
#include "core/image/tiles.h"
#include "core/kernel/coverage_rows.h"
#include "core/mask/brush.h"
#include "core/mask/mask.h"
#include "core/mask/seen_guide.h"

namespace dimhem::task {

namespace {

constexpr double mostPixels = 6.2e6;
constexpr int blockPx = 256;
constexpr int leastStretchPx = 30;

// Of what it is kept to, where that ends elsewhere than at an edge.
mask::Ends endsOf(const mask::Part& part) {
    const mask::Ends limited = part.limit ? part.limit->kind().ends : mask::Ends::atAnEdge;
    return limited != mask::Ends::atAnEdge ? limited : part.shape->kind().ends;
}

bool isGradual(const mask::Part& part) {
    return endsOf(part) == mask::Ends::gradually;
}

// What is measured across is thinner than what an edge is looked for in.
bool isLeftOut(const mask::Part& part) {
    return endsOf(part) != mask::Ends::atAnEdge;
}

// What is looked at: the correction's mask, without gradients and wires where other parts beside them end at edges.
struct Looked {
    document::DocumentPtr document;
    std::vector<std::string> ofParts;
    bool isGradual = false, takes = false;  // takes: the parts only take away
};

Looked lookedAt(const document::DocumentPtr& document, const document::Correction& correction) {
    const auto enabled = [](const mask::PartPtr& part) { return part->enabled; };
    const auto& parts = correction.mask.parts;
    const auto any = [&](const auto& which) {
        return std::ranges::any_of(parts, [&](const mask::PartPtr& p) { return enabled(p) && which(*p); });
    };
    if (!any(isLeftOut)) return {document, {}};
    Looked looked{document, {}};
    looked.isGradual = !any([](const mask::Part& p) { return !isGradual(p); });
    if (looked.isGradual || !any([](const mask::Part& p) { return !isLeftOut(p); })) return looked;
    looked.document = document::withCorrection(*document, correction.id, [&](document::Correction& c) {
        std::erase_if(c.mask.parts, [&](const auto& p) { return !enabled(p) || isLeftOut(*p); });
        for (const mask::PartPtr& part : c.mask.parts) looked.ofParts.push_back(part->name);
        looked.takes = c.mask.parts.front()->combine == mask::Combine::subtract;
        if (c.mask.parts.front()->combine != mask::Combine::add) c.mask.startsEverywhere = true;
    });
    return looked;
}

// The document with the correction's mask solved wherever its edge is finer than a contour.
document::DocumentPtr solvedAlongItsEdge(const document::Document& document, document::Id correction) {
    return document::withNewPart(document, correction, mask::Brush::fineDetail.makeFor({}), mask::Combine::add)
        .document;
}

// The mask over the whole level, tile by tile as the view has it.
image::Plane<float> wholeMask(const render::Renderer& renderer, const render::Sequence& sequence,
                              document::Id correction, int level, const base::Workers& workers,
                              const base::CancelToken& cancel) {
    const image::TileGrid grid(image::levelSize(renderer.photo().size(), level), image::defaultTilePx);
    image::Plane<float> out(image::levelSize(renderer.photo().size(), level));
    base::parallelForAll(grid.count(), workers, cancel, [&](std::size_t i) {
        const base::Rect rect = grid.tile(static_cast<int>(i) % grid.columns(), static_cast<int>(i) / grid.columns());
        const mask::CoveragePtr coverage = renderer.coverage(sequence, correction, {rect, level});
        const image::Plane<float> values = mask::floatsOf(*coverage, rect.size());
        for (int y = 0; y < rect.height(); ++y)
            std::copy_n(values.row(y).data(), rect.width(), out.row(rect.y0 + y).data() + rect.x0);
    });
    return out;
}

// A part of the mask; beyond the photo its edge goes on.
image::Plane<float> partOf(const image::Plane<float>& mask, const base::Rect& rect) {
    image::Plane<float> out(rect.size());
    for (int y = 0; y < rect.height(); ++y) {
        const float* from = mask.row(std::clamp(rect.y0 + y, 0, mask.size().height - 1)).data();
        for (int x = 0; x < rect.width(); ++x) out.row(y)[x] = from[std::clamp(rect.x0 + x, 0, mask.size().width - 1)];
    }
    return out;
}

bool hasEdge(const image::Plane<float>& part) {
    const bool first = part.row(0)[0] > 0.5f;
    for (int y = 0; y < part.size().height; ++y) {
        for (const float v : part.row(y)) {
            if ((v > 0.5f) != first) return true;
        }
    }
    return false;
}

base::ContentKey keyOf(const image::Plane<float>& part) {
    base::KeyBuilder key;
    for (int y = 0; y < part.size().height; ++y)
        key.add(base::keyOfBytes(part.row(y).data(), part.row(y).size_bytes()));
    return key.key();
}

constexpr auto hemBlock = [](const mask::PhotoRead& photo, const image::Plane<float>& part,
                             const image::Plane<float>& solved, const mask::Area& wide) {
    return check::hemOf(mask::guideOver(wide, photo), part, solved, mask::noiseAt(wide.level, photo));
};

std::shared_ptr<const check::HemBlock> checkedBlock(const image::Plane<float>& mask, const image::Plane<float>& solved,
                                                    const base::Rect& rect, int level, mask::Context& context) {
    const mask::Area wide = image::grown({rect, level}, check::hemMarginPx);
    const image::Plane<float> part = partOf(mask, wide.rect);
    if (!hasEdge(part)) return nullptr;
    const image::Plane<float> solvedPart = partOf(solved, wide.rect);
    return stage::kept(context,
                       stage::staged<check::HemBlock>("hem", hemBlock, context.photo(), stage::keyed(keyOf(part), part),
                                                      stage::keyed(keyOf(solvedPart), solvedPart), wide))
        .value();
}

void scaleToPhoto(check::Finding& finding, int level) {
    const int scale = 1 << level;
    finding.bounds = {finding.bounds.x0 * scale, finding.bounds.y0 * scale, finding.bounds.x1 * scale,
                      finding.bounds.y1 * scale};
    for (base::Point& p : finding.outline) p = p * scale;
    finding.roughPx *= scale;
    if (finding.isFigure) finding.pixels *= scale * scale;
}

struct Figures {
    std::vector<check::Finding> list;
    std::size_t bytes() const { return list.size() * sizeof(check::Finding); }
};

constexpr auto figuresOver = [](const mask::PhotoRead& photo, const image::Plane<float>& mask,
                                const mask::Area& whole) {
    const double noise = mask::noiseAt(whole.level, photo);
    const edge::Guide guide = edge::denoised(mask::guideOver(whole, photo), noise);
    return Figures{check::figuresIn(mask, guide, noise)};
};

// All that adds to the mask is a gradient: what it is laid for can be told from it.
bool addsOnlyGradients(const mask::Mask& mask) {
    if (mask.startsEverywhere || mask.inverted) return false;
    const auto adds = [](const mask::PartPtr& p) { return p->enabled && p->combine == mask::Combine::add; };
    return std::ranges::any_of(mask.parts, adds) &&
           std::ranges::all_of(mask.parts, [&](const mask::PartPtr& p) { return !adds(p) || isGradual(*p); });
}

// Of the whole mask, with all its parts: what was left out of it before does not stand in its way.
void addFigures(HemReport& report, const render::Renderer& renderer, const document::DocumentPtr& document,
                document::Id correction, const base::Workers& workers, const base::CancelToken& cancel) {
    if (!addsOnlyGradients(document::findCorrection(*document, correction)->mask)) return;
    constexpr double mostPixels = 0.26e6;
    const render::Sequence sequence(document, {}, cancel);
    const int level = image::levelOfAtMost(renderer.photo().size(), mostPixels);
    const auto covered = wholeMask(renderer, sequence, correction, level, workers, cancel);
    const auto context = renderer.maskContext(sequence, correction);
    const auto found = stage::kept(*context, stage::staged<Figures>("figures", figuresOver, context->photo(),
                                                                    stage::keyed(keyOf(covered), covered),
                                                                    image::wholeAt(renderer.photo().size(), level)))
                           .value();
    for (check::Finding finding : found->list) {
        scaleToPhoto(finding, level);
        report.findings.push_back(std::move(finding));
    }
}

double sumOf(const image::Plane<float>& plane) {
    double sum = 0;
    for (int y = 0; y < plane.size().height; ++y) {
        for (const float v : plane.row(y)) sum += double{v};
    }
    return sum;
}

// Gaps and specks first, then the stretches that are not one of them, each the largest first.
void findAll(HemReport& report, const image::Plane<float>& mask, mask::Context& context, const base::Workers& workers,
             const base::CancelToken& cancel) {
    using Kind = check::FindingKind;
    constexpr Kind kinds[] = {Kind::gap, Kind::speck, Kind::spill, Kind::shortfall};
    std::vector<check::Finding> found[4];
    base::parallelForAll(4, workers, cancel, [&](std::size_t i) {
        const auto guideOf = [&](const base::Rect& rect) {
            return mask::guideOver({rect, report.level}, context.photo());
        };
        found[i] = i < 2 ? check::spots(kinds[i], mask, guideOf)
                         : check::stretches(kinds[i], report.difference, leastStretchPx);
    });
    const auto isSpot = [&](const check::Finding& stretch) {
        return std::any_of(found, found + 2, [&](const std::vector<check::Finding>& spots) {
            return std::any_of(spots.begin(), spots.end(), [&](const check::Finding& spot) {
                return base::intersected(spot.bounds, stretch.bounds) == stretch.bounds;
            });
        });
    };
    for (const std::size_t i : {2, 3}) std::erase_if(found[i], isSpot);
    report.gaps = static_cast<int>(found[0].size());
    report.specks = static_cast<int>(found[1].size());
    for (const std::size_t first : {0, 2}) {
        std::vector<check::Finding> both = std::move(found[first]);
        std::move(found[first + 1].begin(), found[first + 1].end(), std::back_inserter(both));
        check::largestFirst(both);
        for (check::Finding& finding : both) {
            scaleToPhoto(finding, report.level);
            report.findings.push_back(std::move(finding));
        }
    }
}

}  // namespace

std::optional<HemReport> hemCheck(const render::Renderer& renderer, const document::DocumentPtr& document,
                                  document::Id correction, const base::Workers& workers,
                                  const base::CancelToken& cancel) {
    const document::Correction* found = document::findCorrection(*document, correction);
    if (!found) return std::nullopt;
    HemReport report;
    report.paints = document::paints(*found);
    if (report.paints) return report;
    const Looked looked = lookedAt(document, *found);
    report.isGradual = looked.isGradual;
    report.ofParts = looked.ofParts;
    report.takes = looked.takes;
    if (report.isGradual) {
        addFigures(report, renderer, document, correction, workers, cancel);
        return report;
    }
    const render::Sequence sequence(looked.document, {}, cancel);
    report.level = image::levelOfAtMost(renderer.photo().size(), mostPixels);
    const auto covered = wholeMask(renderer, sequence, correction, report.level, workers, cancel);
    const render::Sequence solvedSequence(solvedAlongItsEdge(*looked.document, correction), {}, cancel);
    const auto solved = wholeMask(renderer, solvedSequence, correction, report.level, workers, cancel);

    const image::TileGrid blocks(covered.size(), blockPx);
    const std::size_t count = blocks.count();
    std::vector<std::shared_ptr<const check::HemBlock>> checked(count);
    const auto context = renderer.maskContext(sequence, correction);
    const auto rectOf = [&](std::size_t i) {
        return blocks.tile(static_cast<int>(i) % blocks.columns(), static_cast<int>(i) / blocks.columns());
    };
    base::parallelForAll(count, workers, cancel, [&](std::size_t i) {
        checked[i] = checkedBlock(covered, solved, rectOf(i), report.level, *context);
    });

    report.difference = image::Plane<std::int8_t>(covered.size());
    double spill = 0, shortfall = 0, edge = 0, unmeasured = 0;
    for (std::size_t i = 0; i < count; ++i) {
        const base::Rect rect = rectOf(i);
        for (int y = 0; y < rect.height(); ++y) {
            std::int8_t* to = report.difference.row(rect.y0 + y).data() + rect.x0;
            if (checked[i]) {
                std::copy_n(checked[i]->difference.row(y).data(), rect.width(), to);
            } else {
                std::fill_n(to, rect.width(), std::int8_t{0});
            }
        }
        if (!checked[i]) continue;
        spill += checked[i]->spill;
        shortfall += checked[i]->shortfall;
        edge += checked[i]->edge;
        unmeasured += checked[i]->unmeasured;
    }
    const double pixels = static_cast<double>(covered.size().width) * covered.size().height;
    const double whole =
        looked.takes ? pixels - sumOf(covered) + spill - shortfall : sumOf(covered) - spill + shortfall;
    report.measured = edge > 0 && whole > 0;
    if (!report.measured) return report;
    report.spillPct = 100 * spill / whole;
    report.shortPct = 100 * shortfall / whole;
    report.unmeasuredPct = 100 * unmeasured / edge;

    findAll(report, covered, *context, workers, cancel);
    addFigures(report, renderer, document, correction, workers, cancel);
    return report;
}

}  // namespace dimhem::task
