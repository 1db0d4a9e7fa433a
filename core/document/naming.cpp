#include "core/document/naming.h"

#include <algorithm>
#include <cctype>
#include <unordered_set>

#include "core/document/edits.h"

namespace dimhem::document {

namespace {

std::string placeOf(const mask::Mask& mask) {
    if (!mask.parts.empty()) return mask.parts.front()->name;
    return mask.startsEverywhere ? "Whole photo" : "";
}

std::string senseOf(const AdjustmentUse& use) {
    if (use.kind->sense) return std::string(use.kind->sense(use.settings));
    std::string label(use.kind->label);
    label.front() = static_cast<char>(std::tolower(static_cast<unsigned char>(label.front())));
    return label;
}

// The name itself, or with a number after it.
bool isNamed(const std::string& name, const std::string& wanted) {
    if (!name.starts_with(wanted)) return false;
    const std::string rest = name.substr(wanted.size());
    return rest.empty() || (rest.size() > 1 && rest.front() == ' ' &&
                            std::all_of(rest.begin() + 1, rest.end(), [](unsigned char c) { return std::isdigit(c); }));
}

}  // namespace

std::string automaticName(const Correction& correction) {
    const auto acts = std::ranges::find_if(correction.adjustments, [](const AdjustmentUse& use) {
        return use.enabled && !adjust::isNeutral(*use.kind, use.settings);
    });
    if (acts == correction.adjustments.end()) return {};
    std::string place = placeOf(correction.mask), sense = senseOf(*acts);
    if (!place.empty()) return place + " " + sense;
    sense.front() = static_cast<char>(std::toupper(static_cast<unsigned char>(sense.front())));
    return sense;
}

DocumentPtr withNamesFollowing(const DocumentPtr& document, const Document& before) {
    DocumentPtr next = document;
    const std::unordered_set<CorrectionPtr> known(before.corrections.begin(), before.corrections.end());
    for (const CorrectionPtr& correction : document->corrections) {
        if (correction->nameGiven || known.contains(correction)) continue;
        const std::string wanted = automaticName(*correction);
        if (wanted.empty() || isNamed(correction->name, wanted)) continue;
        const std::string name = freeName(*next, wanted);
        next = withCorrection(*next, correction->id, [&](Correction& c) { c.name = name; });
    }
    return next;
}

}  // namespace dimhem::document
