#include "core/json/schema.h"

#include "core/json/fields.h"

namespace dimhem::schema {

Schema numberOf(double min, double max) {
    return {{"type", "number"}, {"minimum", min}, {"maximum", max}};
}

Schema of(const base::ParamSpec& spec) {
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

Schema listOf(Schema items, std::size_t least, std::size_t most) {
    return {{"type", "array"}, {"items", std::move(items)}, {"minItems", least}, {"maxItems", most}};
}

Schema object(Schema properties, Schema required) {
    return {{"type", "object"},
            {"properties", std::move(properties)},
            {"required", std::move(required)},
            {"additionalProperties", false}};
}

Schema place() {
    return listOf(numberOf(-fields::farPx, fields::farPx), 2, 2);
}

Schema fourRising(double min, double max) {
    return listOf(numberOf(min, max), 4, 4);
}

}  // namespace dimhem::schema
