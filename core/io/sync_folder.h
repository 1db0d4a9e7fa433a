// So that the name of a file outlasts a power cut as its content does.
#pragma once

#include <filesystem>

namespace dimhem::io {

// A folder that cannot be opened cannot be synced either: nothing is said, the file itself is on the disk.
void syncFolder(const std::filesystem::path& folder);

}  // namespace dimhem::io
