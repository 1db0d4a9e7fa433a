// Made documents: chains of adjustments, and masks of many kinds and sizes.
#pragma once

#include <array>
#include <string>
#include <utility>

#include "core/document/edits.h"
#include "core/mask/stroke.h"
#include "core/render/frame.h"

namespace dimhem::bench {

using Chain = std::array<std::pair<const adjust::AdjustmentKind*, adjust::Settings>, 8>;

// Light (exposure and contrast) and white balance by turns.
Chain lightAndWhiteBalance();
// Exposure, white balance, a curve, a hue band, levels, saturation, a luminance curve, a tint.
Chain mixedChain();

// Typical settings: every number a fifth of the way up; curves of four points, two bands of hues.
adjust::Settings movedSettings(const adjust::AdjustmentKind& kind);

// The first `count` of the chain, over and over, each covering the given part of the picture with a soft border.
document::DocumentPtr correctionsOver(double part, const Chain& chain, base::Size photo, int count = 8);

// One correction, exposure, through one part of a mask.
document::DocumentPtr withMask(mask::ShapePtr shape, const mask::Refine& refine = {});

// Short strokes all over the photo.
std::vector<mask::StrokePtr> manyStrokes(int count, base::Size photo, bool holds = false);

mask::BrushSettings brushOf(double radiusPx);

// The view of a window of 1280 x 853 at a level about the middle of the photo.
render::FrameRequest viewOf(const document::DocumentPtr& document, base::Size photo, int level, document::Id selected);
// The level that shows most of the photo in that window.
int fitLevel(base::Size photo);

void renderView(const render::Renderer& renderer, const render::FrameRequest& request);

}  // namespace dimhem::bench
