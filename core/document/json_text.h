// JSON from text, with an error that says where the text goes wrong.
#pragma once

#include <nlohmann/json.hpp>
#include <string_view>

#include "core/base/error.h"

namespace dimhem::document {

// What a text may hold, so that a small file cannot ask for much memory: values (a number, a list), and lists in lists.
inline constexpr std::size_t mostJsonValues = 10'000'000;
inline constexpr int mostJsonNesting = 64;

// `what` it is the text of: "document". The error's code is `damaged`; its sentence names the line.
base::Result<nlohmann::json> parseJson(std::string_view text, std::string_view what);

}  // namespace dimhem::document
