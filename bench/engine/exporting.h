// Documents to a JPEG file of quality 92.
#pragma once

#include "core/document/document.h"

namespace dimhem::bench {

void exportOnce(base::Size photo, const document::DocumentPtr& document);

}  // namespace dimhem::bench
