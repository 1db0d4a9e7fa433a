// The noise of a whole photo, or of what a mask covers of it.
#pragma once

#include "core/adjust/noise_level.h"
#include "core/render/renderer.h"

namespace dimhem::task {

// Of the photo as it was read, on level 0: of windows spread evenly over it, so that a large photo takes no longer.
adjust::NoiseLevel photoNoise(const render::PhotoSource& photo, const base::CancelToken& cancel = {});

}  // namespace dimhem::task
