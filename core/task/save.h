// Saving a document: its small picture made, its link to the photo set right, and all of it written at once.
#pragma once

#include <filesystem>

#include "core/render/renderer.h"
#include "core/task/open.h"

namespace dimhem::task {

// Writes a version of what was opened. The photo is linked by a path relative to the document, or packed into it: where
// it was packed before, or where `pack` asks for it.
base::Result<void> save(const Opened& opened, const document::DocumentPtr& version, const std::filesystem::path& path,
                        bool pack = false);

}  // namespace dimhem::task
