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
#include "core/render/written_colours.h"
#include "core/task/masked_pictures.h"

namespace dimhem::task {

struct Colours {
    adjust::ColourSpread lab;                      // mean and spread in CIELAB
    std::vector<double> tones;                     // how many have each tone: 100 bins of the encoded luminance 0..1
    std::vector<double> lightness;                 // 100 bins of L* 0..100
    std::array<std::vector<double>, 3> channels;   // of red, green and blue, encoded 0..1
    double chroma = 0;                             // the mean chroma; of a cast that differs from place to place too
    std::array<double, check::faults> faultPct{};  // what is lost of it, by check::Fault
};

struct MaskedColours {
    Colours before, after;
    std::array<double, check::faults> newlyPct{};  // lost after and not before, by what is lost after
};

// Nothing where the mask covers no pixel, or on cancelling.
std::optional<MaskedColours> maskedColours(const render::Renderer& renderer, const document::DocumentPtr& document,
                                           document::Id correction, const base::CancelToken& cancel = {});
MaskedColours coloursOf(const MaskedPictures& pictures, const render::WrittenColours& written);

// Of the whole picture, the photo before and all corrections after; its alpha counts.
std::optional<MaskedColours> wholeColours(const render::Renderer& renderer, const document::DocumentPtr& document,
                                          const base::CancelToken& cancel = {});

// Of a rectangle of the photo; nothing where it lies outside.
std::optional<adjust::ColourSpread> coloursIn(const render::Renderer& renderer, const render::Sequence& sequence,
                                              const base::Rect& photoRect);

// The hue (adjust::screenHueOf) that strong colours of the photo have most, in degrees; what lies under its
// transparency counts too. Nothing where there is no strong colour.
std::optional<double> commonScreenHue(const render::Renderer& renderer);

}  // namespace dimhem::task
