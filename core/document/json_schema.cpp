#include "core/document/json_schema.h"

#include "core/adjust/registry.h"
#include "core/colour/thread_colours.h"
#include "core/document/json_format.h"
#include "core/document/json_judging.h"
#include "core/kernel/blend_rows.h"
#include "core/mask/colour_range.h"
#include "core/mask/luminosity_range.h"
#include "core/mask/outline.h"
#include "core/mask/radial_gradient.h"
#include "core/mask/region.h"
#include "core/mask/registry.h"
#include "core/mask/stroke.h"
#include "core/mask/veil_density.h"
#include "core/mask/wire.h"

namespace dimhem::document {

namespace {

using Schema = nlohmann::ordered_json;

Schema numberOf(double min, double max) {
    return {{"type", "number"}, {"minimum", min}, {"maximum", max}};
}

Schema schemaOf(const base::ParamSpec& spec) {
    Schema out = spec.toggle ? Schema{{"type", "boolean"}} : numberOf(spec.min, spec.max);
    out["default"] = spec.toggle ? Schema(spec.neutral != 0) : Schema(spec.neutral);
    out["description"] = std::string(spec.tip);
    return out;
}

Schema flag(bool usual) {
    return {{"type", "boolean"}, {"default", usual}};
}

Schema text() {
    return {{"type", "string"}};
}

template <class Words>
Schema oneOf(const Words& words) {
    Schema list = Schema::array();
    for (const auto& word : words) list.push_back(std::string(word));
    return {{"enum", list}};
}

Schema listOf(Schema items, std::size_t least, std::size_t most) {
    return {{"type", "array"}, {"items", std::move(items)}, {"minItems", least}, {"maxItems", most}};
}

Schema object(Schema properties, Schema required) {
    return {{"type", "object"},
            {"properties", std::move(properties)},
            {"required", std::move(required)},
            {"additionalProperties", false}};
}

constexpr std::size_t manyItems = 10'000;

Schema place() {
    return listOf(numberOf(-farPx, farPx), 2, 2);
}

Schema bringsSchema() {
    const Schema rank{{"type", "integer"}, {"minimum", 0}, {"maximum", mask::mostRank}, {"default", 0}};
    Schema kinds = Schema::array();
    for (const mask::BringInfo& info : mask::bringKinds()) kinds.push_back(info.id);
    return object({{"kind", {{"enum", std::move(kinds)}}},
                   {"colour", listOf(numberOf(0, 1), 3, 3)},
                   {"offset", place()},
                   {"rank", rank},
                   {"turn", schemaOf(mask::turnSpec)},
                   {"scale", schemaOf(mask::scaleSpec)}},
                  {"kind"});
}

Schema strokeSchema() {
    Schema properties;
    for (const mask::BrushParam& param : mask::brushParams())
        properties[std::string(param.spec.id)] = schemaOf(param.spec);
    properties["removes"] = flag(false);
    properties["holds"] = flag(false);
    properties["brings"] = bringsSchema();
    const Schema pressed{{"type", "array"},
                         {"prefixItems", {numberOf(-farPx, farPx), numberOf(-farPx, farPx), numberOf(0, 1)}},
                         {"minItems", 2},
                         {"maxItems", 3}};
    properties["points"] = {{"type", "array"}, {"items", pressed}, {"minItems", 1}, {"maxItems", 200'000}};
    return object(std::move(properties), {"points"});
}

Schema fourRising(double min, double max) {
    return listOf(numberOf(min, max), 4, 4);
}

// The members a kind of part has of its own, and those it needs.
struct Own {
    Schema properties = Schema::object(), required = Schema::array();
};

Own ownOfColourRange() {
    Own own;
    const Schema lab = listOf({{"type", "number"}}, 3, 3);
    own.properties = {{"by", oneOf(std::initializer_list<const char*>{"picks", "hue"})},
                      {"picks", listOf(object({{"at", place()}, {"lab", lab}}, {"at", "lab"}), 0, mask::mostPicks)},
                      {"hues", fourRising(-360, 720)},
                      {"connected", flag(false)},
                      {"measured", oneOf(std::initializer_list<const char*>{"photo", "arriving"})}};
    for (const mask::ColourRangeParam& param : mask::colourRangeParams())
        own.properties[std::string(param.spec.id)] = schemaOf(param.spec);
    return own;
}

Own ownOf(std::string_view kind) {
    using Words = std::initializer_list<const char*>;
    const Schema strokes{{"type", "array"}, {"items", strokeSchema()}};
    if (kind == "brush") return {{{"strokes", strokes}}, Schema::array()};
    if (kind == "fine-detail") return {{{"strokes", strokes}, {"along-edge", flag(false)}}, Schema::array()};
    if (kind == "linear-gradient")
        return {{{"full", place()}, {"none", place()}, {"profile", oneOf(Words{"smooth", "linear"})}},
                {"full", "none"}};
    if (kind == "radial-gradient") {
        const Schema axis{{"type", "number"}, {"exclusiveMinimum", 0}, {"maximum", 200'000}};
        return {{{"centre", place()},
                 {"half-width", axis},
                 {"half-height", axis},
                 {"angle", {{"type", "number"}}},
                 {"feather", schemaOf(mask::ovalFeatherSpec)}},
                {"centre", "half-width", "half-height"}};
    }
    if (kind == "colour-range") return ownOfColourRange();
    if (kind == "luminosity-range") {
        return {{{"tones", fourRising(0, 100)},
                 {"smooth", schemaOf(mask::rangeSmoothSpec)},
                 {"measured", oneOf(Words{"photo", "arriving"})}},
                {"tones"}};
    }
    if (kind == "haze-depth") {
        return {{{"haze", fourRising(0, 100)},
                 {"smooth", schemaOf(mask::rangeSmoothSpec)},
                 {"measured", oneOf(Words{"photo", "arriving"})}},
                {"haze"}};
    }
    if (kind == "veil-density") {
        const Schema light = listOf(numberOf(0, 100), 3, 3);
        return {{{"dense", light},
                 {"clear", light},
                 {"smooth", schemaOf(mask::densitySmoothSpec)},
                 {"clear-below", schemaOf(mask::clearBelowSpec)},
                 {"measured", oneOf(Words{"photo", "arriving"})}},
                Schema::array()};
    }
    if (kind == "outline") {
        Schema points = listOf(place(), 0, mask::mostOutlinePoints);
        points["not"] = {{"minItems", 1}, {"maxItems", 2}};
        return {{{"points", points},
                 {"feather", schemaOf(mask::outlineFeatherSpec)},
                 {"snap", schemaOf(mask::outlineSnapSpec)},
                 {"curved", flag(false)},
                 {"corners", listOf({{"type", "integer"}, {"minimum", 0}}, 0, mask::mostOutlinePoints)}},
                {"points"}};
    }
    if (kind == "region") {
        const Schema drag =
            object({{"points", listOf(place(), 1, mask::mostDragPoints)}, {"removes", flag(false)}}, {"points"});
        return {{{"drags", listOf(drag, 0, mask::mostDrags)},
                 {"reach", schemaOf(mask::regionReachSpec)},
                 {"apart", flag(false)}},
                {"drags"}};
    }
    if (kind == "wire") {
        const Schema line =
            object({{"points", listOf(place(), 1, mask::mostWirePoints)}, {"within", schemaOf(mask::wireWithinSpec)}},
                   {"points"});
        return {{{"lines", listOf(line, 0, mask::mostWires)}, {"width", schemaOf(mask::wireWidthSpec)}}, {"lines"}};
    }
    if (kind == "matte") {
        Schema file = text();
        file["minLength"] = 1;
        return {{{"source", oneOf(Words{"alpha", "file"})}, {"file", file}, {"file-encoded", file}}, {"source"}};
    }
    return {{{"from", {{"type", "integer"}}}}, {"from"}};
}

Schema partSchema() {
    Schema kinds = Schema::array();
    for (const mask::ShapeKind* kind : mask::shapeKinds()) {
        Own own = ownOf(kind->id);
        own.properties["kind"] = {{"const", std::string(kind->id)}};
        own.properties["name"] = text();
        own.properties["combine"] = oneOf(std::initializer_list<const char*>{"add", "subtract", "overlap"});
        own.properties["flipped"] = flag(false);
        own.properties["enabled"] = flag(true);
        own.properties["opacity"] = schemaOf(mask::opacitySpec);
        own.required.push_back("kind");
        Schema part = object(std::move(own.properties), std::move(own.required));
        if (kind->id == "matte") {
            part["if"] = {{"properties", {{"source", {{"const", "file"}}}}}};
            part["then"] = {{"anyOf", {{{"required", {"file"}}}, {{"required", {"file-encoded"}}}}}};
        }
        kinds.push_back(std::move(part));
    }
    return {{"oneOf", kinds}};
}

Schema adjustmentSchema() {
    Schema kinds = Schema::array();
    for (const adjust::AdjustmentKind* kind : adjust::adjustmentKinds()) {
        Schema properties{{"kind", {{"const", std::string(kind->id)}}}, {"enabled", flag(true)}};
        for (const base::ParamSpec& spec : kind->params) properties[std::string(spec.id)] = schemaOf(spec);
        for (const adjust::TableSpec& table : kind->tables) {
            Schema columns = Schema::array();
            for (const base::ParamSpec& column : table.columns) columns.push_back(numberOf(column.min, column.max));
            const Schema row{{"type", "array"},
                             {"prefixItems", columns},
                             {"minItems", table.columns.size() - table.leftOut},
                             {"maxItems", table.columns.size()}};
            properties[std::string(table.id)] = listOf(row, table.leastRows, table.mostRows);
        }
        kinds.push_back(object(std::move(properties), {"kind"}));
    }
    return {{"oneOf", kinds}};
}

Schema maskSchema() {
    Schema refine;
    for (const mask::RefineParam& param : mask::refineParams())
        refine[std::string(param.spec.id)] = schemaOf(param.spec);
    return object({{"starts", oneOf(std::initializer_list<const char*>{"nowhere", "everywhere"})},
                   {"inverted", flag(false)},
                   {"parts", listOf({{"$ref", "#/$defs/part"}}, 0, manyItems)},
                   {"refine", object(std::move(refine), Schema::array())}},
                  Schema::array());
}

Schema correctionSchema() {
    Schema blends = Schema::array(), laws = Schema::array(), threads = Schema::array();
    for (const kernel::MixingLawInfo& info : kernel::mixingLaws()) laws.push_back(std::string(info.id));
    for (const kernel::BlendModeInfo& info : kernel::blendModes())
        blends.push_back(std::string(kernel::idOf(info.mode)));
    for (const auto& thread : colour::threadColours) threads.push_back(std::string(thread.id));
    return object({{"id", {{"type", "integer"}, {"minimum", 1}}},
                   {"name", text()},
                   {"enabled", flag(true)},
                   {"strength", schemaOf(strengthSpec)},
                   {"blend", {{"enum", blends}}},
                   {"mixing", {{"enum", laws}}},
                   {"clean-edge", flag(false)},
                   {"thread", {{"enum", threads}}},
                   {"thread-chosen", flag(true)},
                   {"mask", {{"$ref", "#/$defs/mask"}}},
                   {"adjustments", listOf({{"$ref", "#/$defs/adjustment"}}, 0, manyItems)}},
                  Schema::array());
}

Schema backdropSchema() {
    Schema path = text();
    path["minLength"] = 1;
    Schema backdrop = object({{"colour", listOf(numberOf(0, 1), 3, 3)}, {"picture", path}, {"picture-encoded", path}},
                             Schema::array());
    backdrop["minProperties"] = backdrop["maxProperties"] = 1;
    return backdrop;
}

Schema probeSchema() {
    Schema sizes = Schema::array();
    for (const int size : probeSizes) sizes.push_back(size);
    Schema probe = object({{"at", place()},
                           {"size", {{"enum", sizes}, {"default", 5}}},
                           {"area", listOf(numberOf(-farPx, farPx), 4, 4)},
                           {"neutral", flag(false)}},
                          Schema::array());
    probe["oneOf"] = {{{"required", {"at"}}}, {{"required", {"area"}}}};
    return probe;
}

Schema dismissedSchema() {
    Schema kinds = Schema::array();
    for (const NoteKind kind : noteKinds()) kinds.push_back(std::string(idOf(kind)));
    const Schema id{{"type", "integer"}, {"minimum", 0}};
    return object({{"note", {{"enum", kinds}}}, {"correction", id}, {"other", id}}, {"note", "correction"});
}

Schema stateSchema() {
    return object({{"name", text()}, {"corrections", listOf(correctionSchema(), 0, manyItems)}}, {"corrections"});
}

Schema photoSchema() {
    Schema photo = object({{"path", text()},
                           {"path-encoded", text()},
                           {"packed", flag(false)},
                           {"sha256", text()},
                           {"size", listOf({{"type", "integer"}}, 2, 2)}},
                          Schema::array());
    const Schema linked{{"required", {"path"}}, {"properties", {{"path", {{"minLength", 1}}}}}};
    const Schema packed{{"required", {"packed"}}, {"properties", {{"packed", {{"const", true}}}}}};
    const Schema encoded{{"required", {"path-encoded"}}, {"properties", {{"path-encoded", {{"minLength", 1}}}}}};
    photo["anyOf"] = {linked, encoded, packed};
    return photo;
}

}  // namespace

Schema documentSchema() {
    Schema schema{{"$schema", "https://json-schema.org/draft/2020-12/schema"},
                  {"title", "Dim Hem document"},
                  {"description", "What stands in document.json; docs/document-format.md explains it."}};
    schema.update(object({{"$schema", text()},
                          {"format", {{"const", "dim-hem-document"}}},
                          {"version", {{"type", "integer"}, {"minimum", 1}, {"maximum", formatVersion}}},
                          {"photo", photoSchema()},
                          {"backdrop", backdropSchema()},
                          {"corrections", listOf(correctionSchema(), 0, manyItems)},
                          {"probes", listOf(probeSchema(), 0, mostProbes)},
                          {"states", listOf(stateSchema(), 0, mostStates)},
                          {"dismissed", listOf(dismissedSchema(), 0, mostDismissed)}},
                         {"format", "version", "photo", "corrections"}));
    schema["$defs"] = {{"mask", maskSchema()}, {"part", partSchema()}, {"adjustment", adjustmentSchema()}};
    return schema;
}

}  // namespace dimhem::document
