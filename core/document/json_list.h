// Lists of objects in a document, and what they are called where something in them is wrong.
#pragma once

#include <nlohmann/json.hpp>

#include "core/base/error.h"

namespace dimhem::document {

// A member that is a list of objects, as many as a document may hold; missing: an empty one.
base::Result<const nlohmann::json*> readList(const nlohmann::json& object, std::string_view name);

// "part 2 (Brush)": its number, counted from 1, and what a person knows it by.
std::string placeOf(const char* what, std::size_t index, const nlohmann::json& object, const char* nameMember);

}  // namespace dimhem::document
