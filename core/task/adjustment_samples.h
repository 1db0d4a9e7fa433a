// Small pictures of what each kind of adjustment would do to a photo, under the mask of a correction.
#pragma once

#include "core/base/cancel.h"
#include "core/render/renderer.h"

namespace dimhem::task {

// The document with such an adjustment more in the correction, set so that it shows at a glance
// (AdjustmentKind::sample). Null where it shows nothing by itself: it has to be measured, or marked, first.
document::DocumentPtr withSample(const document::Document& document, document::Id correction,
                                 const adjust::AdjustmentKind& kind);

}  // namespace dimhem::task
