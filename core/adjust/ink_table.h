// Ink table: cyan, magenta, yellow and black given to or taken from nine families of colours.
//
// On encoded values held to 0..1 (what lies beyond is carried past unchanged). The inks of a pixel are 1 - red,
// 1 - green and 1 - blue. A pixel belongs to the families by
//   c = max - min channel       its chroma; 1 - c is what of it is grey
//   six hues                    c x (1 - distance of the hue to the family's / 60 degrees), where that is above 0
//   whites, neutrals, blacks    (1 - c) x t^2, (1 - c) x 2 t (1 - t), (1 - c) x (1 - t)^2; t = (max + min) / 2
// All nine sum to one. With a = the sum of belonging x value / 100 for an ink, black counting for all three:
//   relative   ink = ink (1 + a)       by what is there: a white stays white
//   absolute   ink = ink + a
// held to 0..1. The families' weights are our own.
#pragma once

#include "core/adjust/adjustment.h"

namespace dimhem::adjust {

extern const AdjustmentKind inkTable;

inline constexpr std::size_t inkFamilies = 9, inkCount = 4;
// The parameter of a family (reds, yellows, greens, cyans, blues, magentas, whites, neutrals, blacks) and an ink (cyan,
// magenta, yellow, black).
inline constexpr std::size_t inkParam(std::size_t family, std::size_t ink) {
    return family * inkCount + ink;
}
std::string_view inkFamilyLabel(std::size_t family);
std::string_view inkLabel(std::size_t ink);

}  // namespace dimhem::adjust
