#include "cli/check_report.h"

#include <iomanip>
#include <nlohmann/json.hpp>
#include <sstream>

#include "core/task/hem_check.h"

namespace dimhem::cli {

namespace {

using nlohmann::ordered_json;

// Why there are no figures; empty where there are.
std::string whyNot(const task::HemReport& report) {
    if (report.paints) return "it fills or paints";
    if (report.isGradual) return "a gradient has no edge to check";
    if (!report.measured) return "no edge to measure";
    if (report.unmeasuredPct > task::mostUnmeasuredPct) return "the edge is too fine or too soft to measure";
    return {};
}

std::string nameOf(check::FindingKind kind) {
    switch (kind) {
        case check::FindingKind::spill: return "spill";
        case check::FindingKind::shortfall: return "short";
        case check::FindingKind::gap: return "gap";
        case check::FindingKind::speck: return "speck";
    }
    return {};
}

ordered_json jsonOf(const document::Correction& correction, const task::HemReport& report) {
    ordered_json out{{"correction", correction.name}};
    const std::string why = whyNot(report);
    if (!why.empty()) out["not-measured"] = why;
    if (!report.measured) return out;
    if (!report.ofParts.empty()) out["of-parts"] = report.ofParts;
    if (why.empty()) {
        out["spill"] = report.spillPct;
        out["short"] = report.shortPct;
    }
    out["unmeasured"] = report.unmeasuredPct;
    out["gaps"] = report.gaps;
    out["specks"] = report.specks;
    ordered_json places = ordered_json::array();
    for (const check::Finding& finding : report.findings) {
        const base::Rect& b = finding.bounds;
        places.push_back(
            {{"kind", nameOf(finding.kind)}, {"pixels", finding.pixels}, {"place", {b.x0, b.y0, b.x1, b.y1}}});
    }
    out["places"] = places;
    return out;
}

std::string textOf(const document::Correction& correction, const task::HemReport& report) {
    std::ostringstream out;
    out << std::fixed << std::setprecision(2) << correction.name << ": ";
    if (const std::string why = whyNot(report); !why.empty()) {
        out << why << "\n";
        return out.str();
    }
    out << "spill " << report.spillPct << " %, short " << report.shortPct << " %, gaps " << report.gaps << ", specks "
        << report.specks;
    if (report.unmeasuredPct >= 0.5)
        out << ", " << std::setprecision(0) << report.unmeasuredPct << " % of the edge not measured";
    for (std::size_t i = 0; i < report.ofParts.size(); ++i) out << (i == 0 ? "; of: " : ", ") << report.ofParts[i];
    out << "\n";
    return out.str();
}

}  // namespace

base::Result<std::string> checkReport(const task::Opened& opened, std::optional<document::Id> only, bool asJson,
                                      const base::CancelToken& stopped) {
    const render::Renderer renderer(opened.photo, std::make_shared<render::TileCache>());
    ordered_json all = ordered_json::array();
    std::string text;
    for (const auto& correction : opened.document->corrections) {
        if (only && correction->id != *only) continue;
        const auto report = task::hemCheck(renderer, opened.document, correction->id, {}, stopped);
        if (!report) return tl::unexpected(base::Error{base::ErrorCode::cancelled, "The check was stopped."});
        if (asJson) {
            all.push_back(jsonOf(*correction, *report));
        } else {
            text += textOf(*correction, *report);
        }
    }
    if (asJson) return all.dump(1) + "\n";
    return text.empty() ? "There is no correction to check.\n" : text;
}

}  // namespace dimhem::cli
