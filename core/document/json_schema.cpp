#include "core/document/json_schema.h"

#include "core/adjust/registry.h"
#include "core/colour/thread_colours.h"
#include "core/document/json_format.h"
#include "core/document/json_judging.h"
#include "core/json/fields.h"
#include "core/json/schema.h"
#include "core/kernel/blend_rows.h"
#include "core/mask/registry.h"

namespace dimhem::document {

namespace {

using fields::farPx;
using schema::flag;
using schema::listOf;
using schema::numberOf;
using schema::object;
using schema::oneOf;
using schema::place;
using schema::Schema;
using schema::text;

constexpr std::size_t manyItems = 10'000;

Schema partSchema() {
    Schema kinds = Schema::array();
    for (const mask::ShapeKind* kind : mask::shapeKinds()) {
        schema::Members own = kind->schema();
        own.properties["kind"] = {{"const", std::string(kind->id)}};
        own.properties["name"] = text();
        own.properties["combine"] = oneOf({"add", "subtract", "overlap"});
        own.properties["flipped"] = flag(false);
        own.properties["enabled"] = flag(true);
        own.properties["opacity"] = schema::of(mask::opacitySpec);
        if (!kind->makeFor({})->isZone()) own.properties["limit"] = {{"$ref", "#/$defs/limit"}};
        own.required.push_back("kind");
        Schema part = object(std::move(own.properties), std::move(own.required));
        part.update(own.rules);
        kinds.push_back(std::move(part));
    }
    return {{"oneOf", kinds}};
}

// A range that a part is kept to.
Schema limitSchema() {
    Schema kinds = Schema::array();
    for (const mask::ShapeKind* kind : mask::shapeKinds()) {
        if (!kind->isRange) continue;
        schema::Members own = kind->schema();
        own.properties["kind"] = {{"const", std::string(kind->id)}};
        own.required.push_back("kind");
        Schema limit = object(std::move(own.properties), std::move(own.required));
        limit.update(own.rules);
        kinds.push_back(std::move(limit));
    }
    return {{"oneOf", kinds}};
}

Schema adjustmentSchema() {
    Schema kinds = Schema::array();
    for (const adjust::AdjustmentKind* kind : adjust::adjustmentKinds()) {
        Schema properties{{"kind", {{"const", std::string(kind->id)}}}, {"enabled", flag(true)}};
        for (const base::ParamSpec& spec : kind->params) properties[std::string(spec.id)] = schema::of(spec);
        if (kind->measure) properties["measured-under"] = listOf(numberOf(-farPx, farPx), 7, 7);
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
        refine[std::string(param.spec.id)] = schema::of(param.spec);
    return object({{"starts", oneOf({"nowhere", "everywhere"})},
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
                   {"name-given", flag(true)},
                   {"enabled", flag(true)},
                   {"strength", schema::of(strengthSpec)},
                   {"blend", {{"enum", blends}}},
                   {"mixing", {{"enum", laws}}},
                   {"clean-edge", flag(false)},
                   {"thread", {{"enum", threads}}},
                   {"thread-chosen", flag(true)},
                   {"bracket", {{"type", "integer"}, {"minimum", 1}}},
                   {"counterpart-of", {{"type", "integer"}, {"minimum", 1}}},
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

Schema bracketSchema() {
    return object({{"id", {{"type", "integer"}, {"minimum", 1}}},
                   {"enabled", flag(true)},
                   {"strength", schema::of(bracketStrengthSpec)}},
                  {"id"});
}

Schema stateSchema() {
    return object({{"name", text()},
                   {"corrections", listOf(correctionSchema(), 0, manyItems)},
                   {"brackets", listOf(bracketSchema(), 0, manyItems)}},
                  {"corrections"});
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
                          {"brackets", listOf(bracketSchema(), 0, manyItems)},
                          {"probes", listOf(probeSchema(), 0, mostProbes)},
                          {"states", listOf(stateSchema(), 0, mostStates)},
                          {"dismissed", listOf(dismissedSchema(), 0, mostDismissed)}},
                         {"format", "version", "photo", "corrections"}));
    schema["$defs"] = {
        {"mask", maskSchema()}, {"part", partSchema()}, {"limit", limitSchema()}, {"adjustment", adjustmentSchema()}};
    return schema;
}

}  // namespace dimhem::document
