#include "core/task/mend.h"

#include "core/mask/outline.h"

namespace dimhem::task {

namespace {

std::string nameOf(const check::Finding& finding) {
    if (finding.isFigure) return "Figure left out";
    switch (finding.kind) {
        case check::FindingKind::gap: return "Filled gap";
        case check::FindingKind::speck: return "Dropped speck";
        case check::FindingKind::spill: return "Spill taken back";
        case check::FindingKind::shortfall: return "Pulled to the edge";
    }
    return {};
}

// Every so manieth of them, where a document could not hold all.
std::vector<base::Point> thinned(const std::vector<base::Point>& line) {
    const std::size_t every = (line.size() + mask::mostOutlinePoints - 1) / mask::mostOutlinePoints;
    std::vector<base::Point> out;
    for (std::size_t i = 0; i < line.size(); i += every) out.push_back(line[i]);
    return out;
}

}  // namespace

bool canBeMended(const HemReport& report, const check::Finding& finding) {
    const bool takesAway = finding.kind == check::FindingKind::spill || finding.kind == check::FindingKind::speck;
    return finding.isFigure || report.ofParts.empty() || (report.takes && takesAway);
}

document::Added withMended(const document::Document& document, document::Id correction, const check::Finding& finding) {
    const document::Correction* found = document::findCorrection(document, correction);
    if (!found || finding.outline.size() < 3) return {std::make_shared<const document::Document>(document), 0};
    const bool covers = finding.kind == check::FindingKind::gap || finding.kind == check::FindingKind::shortfall;
    const double snapPx = std::min(finding.roughPx, mask::outlineSnapSpec.max);
    // In an inverted mask what the parts add is taken from what it covers.
    const bool adds = covers != found->mask.inverted;
    const document::Added added = document::withNewPart(
        document, correction, std::make_shared<mask::Outline>(thinned(finding.outline), 0, snapPx),
        adds ? mask::Combine::add : mask::Combine::subtract);
    return {document::withPart(*added.document, correction, added.id,
                               [&](mask::Part& part) { part.name = nameOf(finding); }),
            added.id};
}

}  // namespace dimhem::task
