// What the window measures by a press, for scripts: the settings of one adjustment taken from the photo.
#pragma once

#include <optional>

#include "core/base/error.h"
#include "core/render/renderer.h"

namespace dimhem::task {

struct MeasuredPlace {
    std::optional<base::Rect> place{};  // of the photo; none: what lies under the mask
    double leave = 0;                   // 0..1 of a cast that becomes neutral
};

// A version of the document in which the adjustment has measured: a balance makes the place neutral, match to area
// takes the place for its reference and the mask for its own, others measure as they do when they are added, in the
// place alone where there is one. In one sentence what is lacking.
base::Result<document::DocumentPtr> withMeasured(const render::Renderer& renderer,
                                                 const document::DocumentPtr& document, document::Id correction,
                                                 document::Id adjustment, const MeasuredPlace& from,
                                                 const base::CancelToken& cancel = {});

}  // namespace dimhem::task
