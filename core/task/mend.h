// Putting right what the hem check found: one more outline part at the top of the correction's mask. A gap or a short
// stretch is added to what the mask covers, a speck, a stretch of spill or a figure in a gradient's way taken from it.
// A figure's outline is snapped to its edge. An outline has no more points than a document can hold.
#pragma once

#include "core/document/edits.h"
#include "core/task/hem_check.h"

namespace dimhem::task {

// Whether a finding can be mended so: what the checked parts only take away, or a gradient beside them, has a strength
// of its own there, which nothing that adds would know.
bool canBeMended(const HemReport& report, const check::Finding& finding);

// `finding` in pixels of the photo, as in a HemReport.
document::Added withMended(const document::Document& document, document::Id correction, const check::Finding& finding);

}  // namespace dimhem::task
