// What is shown of a document: the picture, or something about it.
#pragma once

#include "core/mask/mask.h"
#include "core/render/sequence.h"
#include "core/render/shine.h"

namespace dimhem::render {

enum class MaskView {
    none,
    tint,    // the mask's coverage in its thread colour over the picture
    plate,   // the coverage itself: black none, white full
    stitch,  // as none: the contours are drawn over it by whoever shows it
    cutOut,  // the masked area of the picture alone, on grey
    change,  // what the correction changes, amplified, about mid grey
};

struct View {
    Comparison comparison;
    MaskView maskView = MaskView::none;
    document::Id selected = 0;  // the correction whose mask is shown, and below which the picture is worth keeping
    mask::PartId part = 0;      // one part of its mask instead of the whole
    double tintOpacity = 0.6;
    double changeGain = 4;              // 1..16
    double maskGain = 1;                // how often the coverage is counted, so that faint spill is seen
    document::Id pushedAdjustment = 0;  // of the selected correction: its effect pushFactor times; 0: none
    Shine shine{};                      // over whatever else is shown
    friend bool operator==(const View&, const View&) = default;
};

}  // namespace dimhem::render
