// Which files whoever writes something made from a document must leave alone.
#pragma once

#include "core/io/write_guard.h"
#include "core/task/open.h"

namespace dimhem::task {

// The photo, the picture of the backdrop, those of mattes, and the document itself.
io::WriteRules exportRules(const Opened& opened, const document::Document& version, bool replaceReadOnly);

// The same but for the document, which saving replaces.
io::WriteRules saveRules(const Opened& opened, const document::Document& version, bool replaceReadOnly);

}  // namespace dimhem::task
