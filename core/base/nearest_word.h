// What a mistyped word was probably meant to be.
#pragma once

#include <span>
#include <string_view>

namespace dimhem::base {

// The known word that fewest letters changed, added or left out lead to (Levenshtein 1966), where those are at most
// half of what was typed, or one that begins with it; empty where none is near.
std::string_view nearestWord(std::string_view typed, std::span<const std::string_view> known);

}  // namespace dimhem::base
