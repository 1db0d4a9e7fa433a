// Hue bands: hue, saturation and lightness of some hues only.
//
// On encoded values held to 0..1 (what lies beyond is carried past unchanged). A band is four points on the hue circle,
// in degrees (CSS Color Module Level 4, HSL): weight 1 between the inner two, raised cosine to none at the outer two.
//   weight of a pixel   band(hue) x fade(chroma): greys have no hue, so that raised cosine from 0 to 10 % chroma
//                       (max - min channel) leads them out
//   hue                 turned by the sum of weight x degrees, and by weight x bend/100 x what it is off from the hue
//                       it is bent towards (less and less of that from 90 degrees on, none at its opposite)
//   saturation          HSL saturation times 1 + the sum of weight x value/100, at least 0
//   lightness           l moves by the sum of weight x value/100, towards 1 where it is above 0, else towards 0, as
//   part
//                       of the way left
// With "hold light" the luminance Y is brought back after turning and saturating, before the lightness is moved.
// A pixel no band touches keeps its bits.
#pragma once

#include "core/adjust/adjustment.h"

namespace dimhem::adjust {

extern const AdjustmentKind hueBands;

// The columns of the table of bands.
enum HueBandColumn {
    bandPoint0,
    bandPoint1,
    bandPoint2,
    bandPoint3,
    bandHue,
    bandSaturation,
    bandLightness,
    bandTowards,
    bandBend,
    bandColumns
};

}  // namespace dimhem::adjust
