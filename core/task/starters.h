// The starters in a folder: one JSON file each.
#pragma once

#include <filesystem>
#include <vector>

#include "core/document/starter.h"
#include "core/io/write_guard.h"

namespace dimhem::task {

struct StarterFile {
    std::filesystem::path path;
    document::Starter starter;
};

base::Result<document::Starter> readStarter(const std::filesystem::path& path);

// Those that can be read, by name; a missing folder holds none. What cannot be read is left out.
std::vector<StarterFile> startersIn(const std::filesystem::path& folder);

// Writes it as a new file of the folder, which is made where it is missing; gives the file's path.
base::Result<std::filesystem::path> addStarter(const std::filesystem::path& folder, const document::Starter& starter);

base::Result<void> writeStarter(const std::filesystem::path& path, const document::Starter& starter,
                                const io::WriteRules& rules);
base::Result<void> removeStarter(const std::filesystem::path& path);

}  // namespace dimhem::task
