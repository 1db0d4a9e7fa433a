// The colours that mark a correction wherever it appears.
//
// Okabe and Ito, "Color Universal Design", 2008: eight colours that stay apart for people with colour-blindness. Their
// black is replaced by white, since the interface is dark. The palette's values are from memory.
#pragma once

#include <array>
#include <cstdint>
#include <string_view>

namespace dimhem::colour {

struct ThreadColour {
    std::string_view id;  // as written in documents
    std::string_view label;
    std::uint8_t red, green, blue;
};

inline constexpr std::array<ThreadColour, 8> threadColours = {{
    {"sky-blue", "Sky blue", 86, 180, 233},
    {"orange", "Orange", 230, 159, 0},
    {"green", "Bluish green", 0, 158, 115},
    {"yellow", "Yellow", 240, 228, 66},
    {"purple", "Reddish purple", 204, 121, 167},
    {"vermilion", "Vermilion", 213, 94, 0},
    {"blue", "Blue", 0, 114, 178},
    {"white", "White", 245, 245, 245},
}};

}  // namespace dimhem::colour
