#include "core/json/fields.h"

#include <cmath>
#include <sstream>

#include "core/base/utf8.h"

namespace dimhem::fields {

using nlohmann::json;

tl::unexpected<base::Error> wrongField(std::string_view name, std::string_view wanted) {
    return base::fail(base::ErrorCode::invalidValue, std::string(name),
                      "\"" + std::string(name) + "\" must be " + std::string(wanted) + ".");
}

base::Error inPlace(const std::string& place, const base::Error& error) {
    return {error.code, error.where, place + ", " + error.message};
}

base::Result<double> readNumber(const json& object, std::string_view name, const double* fallback) {
    const auto found = object.find(name);
    if (found == object.end()) return fallback ? base::Result<double>(*fallback) : wrongField(name, "a number");
    if (!found->is_number()) return wrongField(name, "a number");
    const double value = found->get<double>();
    if (!std::isfinite(value)) return wrongField(name, "a finite number");
    return value;
}

base::Result<double> readParam(const json& object, const base::ParamSpec& spec) {
    if (spec.toggle) {
        const auto on = readBool(object, spec.id, spec.neutral != 0);
        return on ? base::Result<double>(*on ? 1.0 : 0.0) : tl::unexpected(on.error());
    }
    const auto value = readNumber(object, spec.id, &spec.neutral);
    if (!value || base::inRange(spec, *value)) return value;
    std::ostringstream range;
    range << "between " << spec.min << " and " << spec.max;
    return wrongField(spec.id, range.str());
}

base::Result<base::Point> readPoint(const json& value, std::string_view name) {
    if (!value.is_array() || value.size() != 2 || !value[0].is_number() || !value[1].is_number()) {
        return wrongField(name, "a place, as [x, y]");
    }
    const base::Point point{value[0].get<double>(), value[1].get<double>()};
    if (!(std::abs(point.x) <= farPx && std::abs(point.y) <= farPx)) {
        return wrongField(name, "within a million pixels of the photo's corner");
    }
    return point;
}

base::Result<std::vector<base::Point>> readPlaces(const json& object, std::string_view name, std::size_t least,
                                                  std::size_t most) {
    const auto list = object.find(name);
    if (list == object.end() || !list->is_array() || list->size() < least || list->size() > most) {
        const std::string from = least == 0 ? "at most " : std::to_string(least) + " to ";
        return wrongField(name, "a list of " + from + std::to_string(most) + " places");
    }
    std::vector<base::Point> places;
    for (const auto& item : *list) {
        const auto point = readPoint(item, name);
        if (!point) return tl::unexpected(point.error());
        places.push_back(*point);
    }
    return places;
}

json listOf(std::span<const base::Point> places) {
    json list = json::array();
    for (const base::Point& place : places) list.push_back({place.x, place.y});
    return list;
}

base::Result<std::string> readText(const json& object, std::string_view name, std::string_view fallback) {
    const auto found = object.find(name);
    if (found == object.end()) return std::string(fallback);
    if (!found->is_string()) return wrongField(name, "a text");
    return found->get<std::string>();
}

void writePath(nlohmann::json& object, std::string_view name, const std::string& path) {
    if (base::isUtf8(path)) {
        object[std::string(name)] = path;
    } else {
        object[std::string(name) + "-encoded"] = base::percentEncoded(path);
    }
}

base::Result<std::string> readPath(const nlohmann::json& object, std::string_view name) {
    const std::string encodedName = std::string(name) + "-encoded";
    const auto encoded = readText(object, encodedName, "");
    if (!encoded) return encoded;
    return encoded->empty() ? readText(object, name, "") : base::percentDecoded(*encoded);
}

base::Result<bool> readBool(const json& object, std::string_view name, bool fallback) {
    const auto found = object.find(name);
    if (found == object.end()) return fallback;
    if (!found->is_boolean()) return wrongField(name, "true or false");
    return found->get<bool>();
}

}  // namespace dimhem::fields
