// Whole files, read into memory.
#pragma once

#include <cstdint>
#include <filesystem>
#include <span>
#include <string>
#include <vector>

#include "core/base/error.h"

namespace dimhem::io {

base::Result<std::vector<std::uint8_t>> readFile(const std::filesystem::path& path);

// SHA-256 (FIPS 180-4) in lower-case hexadecimal, as `sha256sum` prints it.
std::string sha256(std::span<const std::uint8_t> bytes);

}  // namespace dimhem::io
