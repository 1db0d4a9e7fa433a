// Reading the members of a JSON object with one clear sentence for each way they can be wrong.
#pragma once

#include <nlohmann/json.hpp>
#include <span>
#include <string_view>
#include <vector>

#include "core/base/error.h"
#include "core/base/param.h"
#include "core/base/rect.h"

namespace dimhem::fields {

inline constexpr double farPx = 1e6;  // no place of a document lies farther from the photo's corner

// A finite number; `fallback` where the member is missing and a fallback is given.
base::Result<double> readNumber(const nlohmann::json& object, std::string_view name, const double* fallback = nullptr);

// A number within the spec's range, or true or false (as 1 or 0) for a switch; missing: its neutral value.
base::Result<double> readParam(const nlohmann::json& object, const base::ParamSpec& spec);

// [x, y], each within a million pixels of the origin.
base::Result<base::Point> readPoint(const nlohmann::json& value, std::string_view name);

// A list of places as the member `name`, no longer than `most`, and how it is written.
base::Result<std::vector<base::Point>> readPlaces(const nlohmann::json& object, std::string_view name,
                                                  std::size_t least, std::size_t most);
nlohmann::json listOf(std::span<const base::Point> places);

base::Result<std::string> readText(const nlohmann::json& object, std::string_view name, std::string_view fallback);
base::Result<bool> readBool(const nlohmann::json& object, std::string_view name, bool fallback);

// The path of a file as the member `name` where it is UTF-8, as JSON must be; else, percent-encoded, as `name`-encoded.
void writePath(nlohmann::json& object, std::string_view name, const std::string& path);
base::Result<std::string> readPath(const nlohmann::json& object, std::string_view name);  // missing: empty

// "NAME" must be WANTED. Where it stands is put before it on the way up, by inPlace().
tl::unexpected<base::Error> wrongField(std::string_view name, std::string_view wanted);

// The error with the place it lies in before it: "part 2 (Brush), "size" must be ...".
base::Error inPlace(const std::string& place, const base::Error& error);

}  // namespace dimhem::fields
