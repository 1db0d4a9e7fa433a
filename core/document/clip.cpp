#include "core/document/clip.h"

#include "core/adjust/registry.h"
#include "core/document/json_adjustment.h"
#include "core/document/json_correction.h"
#include "core/document/json_list.h"
#include "core/document/json_mask.h"
#include "core/document/json_read.h"
#include "core/document/json_text.h"
#include "core/json/fields.h"
#include "core/mask/borrowed_mask.h"
#include "core/mask/registry.h"

namespace dimhem::document {

namespace {

using base::Result;
using nlohmann::json;
using What = Clip::What;

constexpr const char* ofEffects[] = {"adjustments", "blend", "mixing", "clean-edge", "strength"};

json toJson(const Clip& clip) {
    json out = json::array();
    switch (clip.what) {
        case What::adjustments:
            for (const AdjustmentUse& use : clip.of.adjustments) out.push_back(adjustmentToJson(use));
            break;
        case What::parts:
            for (const mask::PartPtr& part : clip.of.mask.parts) out.push_back(partToJson(*part));
            break;
        case What::mask: out = {{"mask", maskToJson(clip.of.mask)}}; break;
        case What::effect: {
            const json whole = correctionToJson(clip.of);
            out = json::object();
            for (const char* member : ofEffects) out[member] = whole[member];
            break;
        }
        case What::correction:
            out = correctionToJson(clip.of);
            for (const char* ofTheDocument : {"id", "thread", "thread-chosen", "counterpart-of", "bracket"})
                out.erase(ofTheDocument);
    }
    return out;
}

base::Error notAClip() {
    return {base::ErrorCode::unknownFormat, "kind",
            "This text is no adjustment, effect, mask, part of a mask or correction."};
}

// The kind of an object is an adjustment's or a shape's.
Result<Clip> readPieces(const json& list, IdSource& ids) {
    Clip clip;
    const json& first = list.front();
    const auto kind = first.is_object() ? first.find("kind") : first.end();
    if (!first.is_object() || kind == first.end() || !kind->is_string()) return tl::unexpected(notAClip());
    const bool areParts = mask::findShapeKind(kind->get<std::string>());
    if (!areParts && !adjust::findAdjustmentKind(kind->get<std::string>())) return tl::unexpected(notAClip());
    if (!areParts) {
        clip.what = What::adjustments;
        DIMHEM_READ(adjustments, readAdjustments({{"adjustments", list}}, ids));
        clip.of.adjustments = std::move(adjustments);
        return clip;
    }
    clip.what = What::parts;
    DIMHEM_READ(mask, readMask({{"parts", list}}, ids));
    clip.of.mask = std::move(mask);
    return clip;
}

Result<Clip> readWhole(json object, IdSource& ids) {
    const bool hasEffect = object.contains("adjustments"), hasMask = object.contains("mask");
    if (!hasEffect && !hasMask) return tl::unexpected(notAClip());
    for (const char* ofTheDocument : {"id", "counterpart-of", "bracket"}) object.erase(ofTheDocument);
    Clip clip;
    clip.what = !hasMask ? What::effect : !hasEffect ? What::mask : What::correction;
    DIMHEM_READ(correction, readCorrection(object, 0, ids));
    clip.of = *correction;
    return clip;
}

Result<Clip> readClip(std::string_view text) {
    DIMHEM_READ(root, parseJson(text, "copy"));
    IdSource ids;
    if (root.is_array()) return root.empty() ? Result<Clip>(tl::unexpected(notAClip())) : readPieces(root, ids);
    if (!root.is_object()) return tl::unexpected(notAClip());
    if (root.contains("kind")) return readPieces(json::array({root}), ids);
    return readWhole(root, ids);
}

}  // namespace

std::string toJsonText(const Clip& clip) {
    return toJson(clip).dump(1) + "\n";
}

Result<Clip> clipFromJsonText(std::string_view text) {
    auto clip = readClip(text);
    if (!clip && clip.error().code == base::ErrorCode::invalidValue)
        return tl::unexpected(fields::inPlace("In this text", clip.error()));
    return clip;
}

Clip forAnotherPhoto(Clip clip) {
    for (AdjustmentUse& use : clip.of.adjustments) {
        use.settings = adjust::forAnotherPhoto(*use.kind, use.settings);
        use.measuredUnder.reset();
    }
    return clip;
}

Clip forAnotherDocument(Clip clip) {
    for (mask::PartPtr& part : clip.of.mask.parts) {
        if (!dynamic_cast<const mask::BorrowedMask*>(part->shape.get())) continue;
        mask::Part alone = *part;
        alone.shape = std::make_shared<mask::BorrowedMask>(0);
        part = std::make_shared<const mask::Part>(std::move(alone));
    }
    return clip;
}

namespace {

std::vector<AdjustmentUse> numbered(std::vector<AdjustmentUse> adjustments, IdSource& ids) {
    for (AdjustmentUse& use : adjustments) use.id = ids.next();
    return adjustments;
}

Added withWhole(const Document& document, Id after, const Correction& whole) {
    const int at = indexOf(document, after);
    const Added added =
        withNewCorrection(document, at < 0 ? document.corrections.size() : static_cast<std::size_t>(at) + 1);
    if (added.id == 0) return added;
    const DocumentPtr named = withCorrection(*added.document, added.id, [&](Correction& c) {
        c.name = freeName(document, whole.name);
        c.nameGiven = whole.nameGiven;
        c.enabled = whole.enabled;
        c.strengthPct = whole.strengthPct;
        c.blend = whole.blend;
        c.mixing = whole.mixing;
        c.cleanEdge = whole.cleanEdge;
        c.adjustments = numbered(whole.adjustments, *document.ids);
    });
    return {withMaskOf(*named, added.id, whole.mask), added.id};
}

}  // namespace

Added withClip(const Document& document, Id correction, const Clip& clip) {
    if (clip.what == What::correction) return withWhole(document, correction, clip.of);
    const Added none{std::make_shared<const Document>(document), 0};
    const Correction* to = findCorrection(document, correction);
    if (!to) return none;
    switch (clip.what) {
        case What::mask: return {withMaskOf(document, correction, clip.of.mask), correction};
        case What::parts: {
            Added out{none.document, correction};
            for (const mask::PartPtr& part : clip.of.mask.parts) {
                const Added added = withPartOf(*out.document, correction, *part);
                if (added.id == 0) return none;
                out.document = added.document;
            }
            return out;
        }
        case What::effect:
            return {withCorrection(document, correction,
                                   [&](Correction& c) {
                                       c.adjustments = numbered(clip.of.adjustments, *document.ids);
                                       c.strengthPct = clip.of.strengthPct;
                                       c.blend = clip.of.blend;
                                       c.mixing = clip.of.mixing;
                                       c.cleanEdge = clip.of.cleanEdge;
                                   }),
                    correction};
        case What::adjustments: {
            if (to->adjustments.size() + clip.of.adjustments.size() > mostItems) return none;
            return {withCorrection(document, correction,
                                   [&](Correction& c) {
                                       for (AdjustmentUse& use : numbered(clip.of.adjustments, *document.ids))
                                           c.adjustments.push_back(std::move(use));
                                   }),
                    correction};
        }
        case What::correction: break;
    }
    return none;
}

}  // namespace dimhem::document
