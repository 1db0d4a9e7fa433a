// The picture before a correction and after it, and how much of each pixel lies under its mask, at a level small enough
// to be looked at whole in a moment.
#pragma once

#include <optional>

#include "core/base/cancel.h"
#include "core/render/renderer.h"

namespace dimhem::task {

// The level of the whole photo with at most a quarter of a million pixels.
mask::Area lookAt(const render::Renderer& renderer);

struct MaskedPictures {
    mask::Area area;
    image::EncodedPlanes before, after;  // as it arrives at the correction, and as it leaves it
    image::Plane<float> weights;         // the mask's coverage times the photo's own alpha, 0..1
};

// Nothing where the mask covers nothing that can be seen.
std::optional<MaskedPictures> maskedPictures(const render::Renderer& renderer, const document::DocumentPtr& document,
                                             document::Id correction, const base::CancelToken& cancel = {});

// The whole photo before, and all corrections after; weighed by its alpha. Nothing where all of it is transparent.
std::optional<MaskedPictures> wholePictures(const render::Renderer& renderer, const document::DocumentPtr& document,
                                            const base::CancelToken& cancel = {});

// The photo's own alpha, 1 where it has none.
image::Plane<float> opacityOf(const render::Renderer& renderer, const mask::Area& area);

}  // namespace dimhem::task
