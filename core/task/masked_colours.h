// What colours lie under the mask of a correction, before it acts and after; and in a rectangle of the picture.
//
// Read at a level of at most 250 000 pixels, every pixel weighed by the coverage of the mask and the photo's own
// alpha.
#pragma once

#include <array>
#include <optional>
#include <vector>

#include "core/adjust/match_area.h"
#include "core/base/cancel.h"
#include "core/colour/types.h"
#include "core/render/renderer.h"

namespace dimhem::task {

struct Colours {
    adjust::ColourSpread lab;                     // mean and spread in CIELAB
    std::vector<double> tones;                    // how many have each tone: 100 bins of the encoded luminance 0..1
    std::array<std::vector<double>, 3> channels;  // of red, green and blue, encoded 0..1
    double clippedPct = 0;                        // of which a channel is at 1 or above, or all are at 0 or below
};

struct MaskedColours {
    Colours before, after;
};

// Nothing where the mask covers no pixel, or on cancelling.
std::optional<MaskedColours> maskedColours(const render::Renderer& renderer, const document::DocumentPtr& document,
                                           document::Id correction, const base::CancelToken& cancel = {});

// Of a rectangle of the photo; nothing where it lies outside.
std::optional<adjust::ColourSpread> coloursIn(const render::Renderer& renderer, const render::Sequence& sequence,
                                              const base::Rect& photoRect);

// The hue (adjust::screenHueOf) that strong colours of the photo have most, in degrees; what lies under its
// transparency counts too. Nothing where there is no strong colour.
std::optional<double> commonScreenHue(const render::Renderer& renderer);

}  // namespace dimhem::task
