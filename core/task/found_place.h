// Where masks that took long to find are kept from one session to the next (io/found_folder.h).
#pragma once

#include <memory>

#include "core/io/found_folder.h"

namespace dimhem::task {

inline constexpr std::uint64_t standardFoundBytes = std::uint64_t{512} << 20;

// In $XDG_CACHE_HOME/dimhem/found, or ~/.cache/dimhem/found (XDG Base Directory Specification 0.8), for this very code.
// Null where there is neither.
std::shared_ptr<io::FoundFolder> foundFolder();

}  // namespace dimhem::task
