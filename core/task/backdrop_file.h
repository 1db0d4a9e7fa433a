// Reading the picture of a backdrop.
#pragma once

#include <filesystem>

#include "core/base/error.h"
#include "core/document/backdrop.h"
#include "core/io/format.h"

namespace dimhem::task {

// The picture in a file, for standing behind a photo; its path becomes absolute.
base::Result<document::BackdropPicture> readBackdrop(const std::filesystem::path& path,
                                                     const io::Reading& reading = {});

}  // namespace dimhem::task
