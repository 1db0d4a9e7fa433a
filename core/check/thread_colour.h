// The colours that mark a correction wherever it appears, and which of them suits a mask.
//
// Okabe and Ito, "Color Universal Design", 2008: eight colours that stay apart for people with colour-blindness. Their
// black is replaced by white, since the interface is dark. The palette's values are from memory, to be confirmed.
#pragma once

#include <array>
#include <cstdint>
#include <span>
#include <string_view>

#include "core/colour/types.h"

namespace dimhem::check {

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

// A colour of the photo and how much of the mask lies on it.
struct Sample {
    colour::Lab lab;
    double weight;
};

// The mean CIEDE2000 difference between a thread colour and what lies under the mask; 0 without any weight.
double contrast(const ThreadColour& thread, std::span<const Sample> under);

// The index of the thread colour that contrasts most with what lies under the mask, among those not `taken`
// by other corrections (all of them where all are taken). `current` is kept unless another one is clearly better
// (more than 1.4 times the contrast), so that it does not flicker while the mask grows.
int chooseThreadColour(std::span<const Sample> under, std::span<const int> taken, int current);

}  // namespace dimhem::check
