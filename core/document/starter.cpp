#include "core/document/starter.h"

#include <algorithm>
#include <array>

#include "core/document/json_correction.h"
#include "core/document/json_read.h"
#include "core/document/json_text.h"
#include "core/json/fields.h"
#include "core/mask/brush.h"

namespace dimhem::document {

namespace {

using base::Result;
using nlohmann::json;

constexpr std::string_view starterFormat = "dim-hem-starter";
constexpr base::ParamSpec sizeSpec = {.id = "size",
                                      .label = "Size",
                                      .unit = "%",
                                      .min = 0.01,
                                      .max = 100,
                                      .neutral = 5,
                                      .step = 0.1,
                                      .decimals = 1,
                                      .tip = "Of the longer side of the photo."};

double longerSide(base::Size photo) {
    return std::max({photo.width, photo.height, 1});
}

json brushToJson(const Starter& starter) {
    json out{{"size", starter.brushSizePct}};
    for (const mask::BrushParam& param : mask::brushParams()) {
        if (param.value != &mask::BrushSettings::sizePx)
            out[std::string(param.spec.id)] = (*starter.brush).*param.value;
    }
    out["holds"] = starter.brush->holds;
    const mask::BringKind brings = starter.brush->brings.kind;
    if (brings != mask::BringKind::nothing) out["brings"] = mask::infoOf(brings).id;
    return out;
}

Result<void> readBrush(const json& object, Starter& starter) {
    const auto found = object.find("brush");
    if (found == object.end()) return {};
    if (!found->is_object()) return fields::wrongField("brush", "an object");
    starter.brush = mask::BrushSettings{};
    DIMHEM_READ(size, fields::readParam(*found, sizeSpec));
    starter.brushSizePct = size;
    for (const mask::BrushParam& param : mask::brushParams()) {
        if (param.value == &mask::BrushSettings::sizePx || !found->contains(param.spec.id)) continue;
        DIMHEM_READ(value, fields::readParam(*found, param.spec));
        (*starter.brush).*param.value = value;
    }
    DIMHEM_READ(holds, fields::readBool(*found, "holds", false));
    starter.brush->holds = holds;
    const std::string nothing(mask::infoOf(mask::BringKind::nothing).id);
    DIMHEM_READ(brings, fields::readText(*found, "brings", nothing));
    const auto kind = std::ranges::find(mask::bringKinds(), brings, &mask::BringInfo::id);
    if (kind == mask::bringKinds().end()) return fields::wrongField("brings", "what a brush can bring");
    starter.brush->brings.kind = kind->kind;
    return {};
}

constexpr base::Size anyPhoto{1000, 1000};  // for what is drawn anew in any case

// What of a mask can begin another: what is drawn, to be drawn anew; ranges as they are.
mask::ShapePtr forAnotherPhoto(const mask::ShapePtr& shape, base::Size photo) {
    const mask::ShapeKind& kind = shape->kind();
    if (kind.anew) return kind.anew(*shape, photo);
    return kind.isRange ? shape : nullptr;
}

bool isPainted(const mask::Part& part) {
    return &part.shape->kind() == &mask::Brush::kindInfo;
}

}  // namespace

Starter starterOf(const Correction& correction, const mask::BrushSettings& brush, base::Size photo) {
    Starter starter;
    starter.name = correction.name;
    Correction kept = correction;
    for (AdjustmentUse& use : kept.adjustments) {
        use.settings = adjust::forAnotherPhoto(*use.kind, use.settings);
        use.measuredUnder.reset();
    }
    kept.mask.parts.clear();
    bool painted = false;
    for (const mask::PartPtr& part : correction.mask.parts) {
        mask::Part copy = *part;
        copy.shape = forAnotherPhoto(part->shape, anyPhoto);
        if (!copy.shape) continue;
        painted = painted || isPainted(copy);
        kept.mask.parts.push_back(std::make_shared<const mask::Part>(std::move(copy)));
    }
    if (painted) {
        starter.brush = brush;
        starter.brushSizePct = 100 * brush.sizePx / longerSide(photo);
    }
    starter.correction = std::make_shared<const Correction>(std::move(kept));
    return starter;
}

Correction begunFor(const Starter& starter, base::Size photo) {
    Correction begun = *starter.correction;
    for (mask::PartPtr& part : begun.mask.parts) {
        if (!part->shape->kind().anew) continue;
        mask::Part drawn = *part;
        drawn.shape = part->shape->kind().anew(*part->shape, photo);
        part = std::make_shared<const mask::Part>(std::move(drawn));
    }
    return begun;
}

Added withStarter(const Document& document, const Starter& starter, std::size_t index, base::Size photo) {
    const Added added = withNewCorrection(document, index);
    if (added.id == 0) return added;
    Document numbered = *added.document;
    const Correction& fresh = *findCorrection(numbered, added.id);
    Correction begun = begunFor(starter, photo);
    begun.id = fresh.id;
    begun.threadColour = fresh.threadColour;
    begun.threadColourChosen = false;
    begun.counterpartOf = begun.bracket = 0;
    begun.enabled = true;
    begun.nameGiven = true;
    begun.name = findCorrection(document, std::string_view(starter.name)) ? fresh.name : starter.name;
    for (mask::PartPtr& part : begun.mask.parts) {
        mask::Part copy = *part;
        copy.id = numbered.ids->next();
        part = std::make_shared<const mask::Part>(std::move(copy));
    }
    for (AdjustmentUse& use : begun.adjustments) use.id = numbered.ids->next();
    return {withCorrection(numbered, added.id, [&](Correction& c) { c = std::move(begun); }), added.id};
}

mask::PartId firstPart(const Correction& begun) {
    const auto& parts = begun.mask.parts;
    const auto drawn =
        std::ranges::find_if(parts, [](const mask::PartPtr& part) { return part->shape->kind().anew != nullptr; });
    if (drawn != parts.end()) return (*drawn)->id;
    return parts.empty() ? 0 : parts.back()->id;
}

std::optional<mask::BrushSettings> brushFor(const Starter& starter, base::Size photo) {
    if (!starter.brush) return std::nullopt;
    mask::BrushSettings brush = *starter.brush;
    const auto params = mask::brushParams();
    const auto size = std::find_if(params.begin(), params.end(),
                                   [](const mask::BrushParam& p) { return p.value == &mask::BrushSettings::sizePx; });
    brush.sizePx = base::clamped(size->spec, starter.brushSizePct / 100 * longerSide(photo));
    return brush;
}

std::string toJsonText(const Starter& starter) {
    json correction = correctionToJson(*starter.correction);
    for (const char* ofTheDocument :
         {"id", "name", "name-given", "enabled", "thread", "thread-chosen", "counterpart-of", "bracket"})
        correction.erase(ofTheDocument);
    json root{{"format", starterFormat}, {"version", starterVersion}, {"name", starter.name},
              {"about", starter.about},  {"first", starter.first},    {"correction", std::move(correction)}};
    if (starter.brush) root["brush"] = brushToJson(starter);
    return root.dump(1) + "\n";
}

namespace {

Result<Starter> readStarter(std::string_view text) {
    DIMHEM_READ(root, parseJson(text, "starter"));
    if (!root.is_object() || root.value("format", json()) != starterFormat)
        return base::fail(base::ErrorCode::unknownFormat, "format", "This is not a Dim Hem starter.");
    const auto version = root.find("version");
    if (version == root.end() || !version->is_number_integer()) return fields::wrongField("version", "a whole number");
    if (version->get<std::int64_t>() < 1) return fields::wrongField("version", "1 or above");
    if (version->get<std::int64_t>() > starterVersion) {
        return base::fail(base::ErrorCode::newerVersion, "version",
                          "This starter was written by a newer version of Dim Hem.");
    }
    Starter starter;
    DIMHEM_READ(name, fields::readText(root, "name", ""));
    if (name.empty()) return fields::wrongField("name", "the starter's name");
    DIMHEM_READ(about, fields::readText(root, "about", ""));
    starter.name = name;
    starter.about = about;
    DIMHEM_READ(first, fields::readText(root, "first", ""));
    starter.first = first;
    if (auto brush = readBrush(root, starter); !brush) return tl::unexpected(brush.error());
    const auto correction = root.find("correction");
    if (correction == root.end() || !correction->is_object()) return fields::wrongField("correction", "an object");
    if (correction->contains("id")) return fields::wrongField("correction", "without an id");
    IdSource ids;
    DIMHEM_READ(read, readCorrection(*correction, 0, ids));
    starter.correction = read;
    return starter;
}

}  // namespace

Result<Starter> starterFromJsonText(std::string_view text) {
    auto starter = readStarter(text);
    if (!starter && starter.error().code == base::ErrorCode::invalidValue)
        return tl::unexpected(fields::inPlace("In the starter", starter.error()));
    return starter;
}

}  // namespace dimhem::document
