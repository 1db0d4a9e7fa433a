// Putting right what the hem check found: one more outline part at the top of the correction's mask. A gap or a short
// stretch is added to what the mask covers, a speck or a stretch of spill taken from it.
#pragma once

#include "core/check/hem.h"
#include "core/document/edits.h"

namespace dimhem::task {

// `finding` in pixels of the photo, as in a HemReport.
document::Added withMended(const document::Document& document, document::Id correction, const check::Finding& finding);

}  // namespace dimhem::task
