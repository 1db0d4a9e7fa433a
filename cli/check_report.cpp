#include "cli/check_report.h"

#include <algorithm>
#include <iomanip>
#include <nlohmann/json.hpp>
#include <sstream>

#include "core/colour/ciede2000.h"
#include "core/task/hem_check.h"
#include "core/task/masked_colours.h"
#include "core/task/notes.h"

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

std::string nameOf(const check::Finding& finding) {
    if (finding.isFigure) return "figure";
    switch (finding.kind) {
        case check::FindingKind::spill: return "spill";
        case check::FindingKind::shortfall: return "short";
        case check::FindingKind::gap: return "gap";
        case check::FindingKind::speck: return "speck";
    }
    return {};
}

ordered_json placesOf(const task::HemReport& report) {
    ordered_json places = ordered_json::array();
    for (const check::Finding& finding : report.findings) {
        const base::Rect& b = finding.bounds;
        places.push_back({{"kind", nameOf(finding)}, {"pixels", finding.pixels}, {"place", {b.x0, b.y0, b.x1, b.y1}}});
    }
    return places;
}

std::string figuresIn(const task::HemReport& report) {
    const auto count = std::ranges::count_if(report.findings, &check::Finding::isFigure);
    if (count == 0) return {};
    return count == 1 ? "; a figure stands in the gradient's way"
                      : "; " + std::to_string(count) + " figures stand in the gradient's way";
}

ordered_json jsonOf(const document::Correction& correction, const task::HemReport& report) {
    ordered_json out{{"correction", correction.name}};
    const std::string why = whyNot(report);
    if (!why.empty()) out["not-measured"] = why;
    if (!report.findings.empty()) out["places"] = placesOf(report);
    if (!report.measured) return out;
    if (!report.ofParts.empty()) out["of-parts"] = report.ofParts;
    if (why.empty()) {
        out["spill"] = report.spillPct;
        out["short"] = report.shortPct;
    }
    out["unmeasured"] = report.unmeasuredPct;
    out["gaps"] = report.gaps;
    out["specks"] = report.specks;
    if (report.findings.empty()) out["places"] = ordered_json::array();
    return out;
}

std::string textOf(const document::Correction& correction, const task::HemReport& report) {
    std::ostringstream out;
    out << std::fixed << std::setprecision(2) << correction.name << ": ";
    if (const std::string why = whyNot(report); !why.empty()) {
        out << why << figuresIn(report) << "\n";
        return out.str();
    }
    out << "spill " << report.spillPct << " %, short " << report.shortPct << " %, gaps " << report.gaps << ", specks "
        << report.specks;
    if (report.unmeasuredPct >= 0.5)
        out << ", " << std::setprecision(0) << report.unmeasuredPct << " % of the edge not measured";
    for (std::size_t i = 0; i < report.ofParts.size(); ++i) out << (i == 0 ? "; of: " : ", ") << report.ofParts[i];
    out << figuresIn(report) << "\n";
    return out.str();
}

ordered_json jsonOf(const task::Colours& colours) {
    const auto share = [&](check::Fault fault) { return colours.faultPct[static_cast<std::size_t>(fault)]; };
    return {{"lab", colours.lab.mean},
            {"spread", colours.lab.spread},
            {"chroma", colours.chroma},
            {"clipped", share(check::Fault::clipped)},
            {"blocked", share(check::Fault::blocked)},
            {"outside", share(check::Fault::outside)}};
}

ordered_json jsonOf(const task::MaskedColours& colours) {
    const auto lab = [](const task::Colours& c) { return colour::Lab{c.lab.mean[0], c.lab.mean[1], c.lab.mean[2]}; };
    const auto newly = [&](check::Fault fault) { return colours.newlyPct[static_cast<std::size_t>(fault)]; };
    return {{"before", jsonOf(colours.before)},
            {"after", jsonOf(colours.after)},
            {"difference", colour::ciede2000(lab(colours.before), lab(colours.after))},
            {"newly-clipped", newly(check::Fault::clipped)},
            {"newly-blocked", newly(check::Fault::blocked)},
            {"newly-outside", newly(check::Fault::outside)}};
}

ordered_json jsonOf(const task::Note& note, const document::Document& document, std::optional<double> easePct) {
    ordered_json out{{"note", document::idOf(note.kind)}, {"amount", note.amount}};
    if (const document::Correction* other = document::findCorrection(document, note.other)) out["with"] = other->name;
    if (note.before != 0) out["before"] = note.before;
    const base::Rect& p = note.place;
    if (!p.empty()) out["place"] = {p.x0, p.y0, p.x1, p.y1};
    if (easePct) out["ease"] = *easePct;
    return out;
}

// Of one correction: those that stand against another too.
ordered_json notesJson(const render::Renderer& renderer, const document::DocumentPtr& document, document::Id correction,
                       const std::vector<task::Note>& notes, const base::CancelToken& stopped) {
    ordered_json list = ordered_json::array();
    for (const task::Note& note : notes) {
        if (note.correction == correction)
            list.push_back(jsonOf(note, *document, task::easeOf(renderer, document, note, stopped)));
    }
    return list;
}

}  // namespace

base::Result<std::string> checkReport(const task::Opened& opened, std::optional<document::Id> only, bool asJson,
                                      const base::CancelToken& stopped) {
    const render::Renderer renderer = task::rendererOf(opened);
    ordered_json all = ordered_json::array();
    std::string text;
    std::vector<task::Note> notes;
    if (asJson && only) notes = task::notesOf(renderer, opened.document, *only, stopped);
    if (asJson && !only) notes = task::notesOf(renderer, opened.document, stopped);
    for (const auto& correction : opened.document->corrections) {
        if (only && correction->id != *only) continue;
        const auto report = task::hemCheck(renderer, opened.document, correction->id, {}, stopped);
        if (!report) return base::fail(base::ErrorCode::cancelled, "", "The check was stopped.");
        if (asJson) {
            ordered_json of = jsonOf(*correction, *report);
            if (const auto colours = task::maskedColours(renderer, opened.document, correction->id, stopped))
                of["colours"] = jsonOf(*colours);
            of["notes"] = notesJson(renderer, opened.document, correction->id, notes, stopped);
            all.push_back(std::move(of));
        } else {
            text += textOf(*correction, *report);
        }
    }
    if (asJson) return all.dump(1) + "\n";
    return text.empty() ? "There is no correction to check.\n" : text;
}

}  // namespace dimhem::cli
