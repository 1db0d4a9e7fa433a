// How much noise and haze lie under the mask of a correction, before it acts and after.
#pragma once

#include <optional>

#include "core/base/cancel.h"
#include "core/render/renderer.h"

namespace dimhem::task {

struct NoiseAndHaze {
    double luminance = 0,
           colour = 0;              // sigma on the photo's own level, levels of 255; of colour the noisier difference
    std::optional<double> hazePct;  // the mean share of the light that is haze; none: it was not asked for
};

struct MaskedNoise {
    NoiseAndHaze before, after;
    std::optional<double>
        beside;  // of luminance, beside the mask; none: the correction lays nothing down that should be like it
};

// Of places spread evenly over the mask, so that a large one takes no longer. Haze, by the air light that is found
// before, is looked for where the correction has an adjustment for it. Nothing where the mask covers too little.
std::optional<MaskedNoise> maskedNoise(const render::Renderer& renderer, const document::DocumentPtr& document,
                                       document::Id correction, const base::CancelToken& cancel = {});

}  // namespace dimhem::task
