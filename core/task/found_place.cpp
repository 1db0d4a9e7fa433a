#include "core/task/found_place.h"

#include <gnu/libc-version.h>

#include <cstdlib>

#include "code_id.h"

namespace dimhem::task {

namespace fs = std::filesystem;

namespace {

fs::path cacheFolder() {
    const char* cache = std::getenv("XDG_CACHE_HOME");
    if (cache && fs::path(cache).is_absolute()) return cache;
    const char* home = std::getenv("HOME");
    return home && fs::path(home).is_absolute() ? fs::path(home) / ".cache" : fs::path();
}

}  // namespace

std::shared_ptr<io::FoundFolder> foundFolder() {
    const fs::path cache = cacheFolder();
    if (cache.empty()) return nullptr;
    // The same code finds something else where logarithms and powers are others.
    const std::string code = std::string(DIMHEM_CODE_ID) + " with libc " + ::gnu_get_libc_version();
    return std::make_shared<io::FoundFolder>(cache / "dimhem" / "found", code, standardFoundBytes);
}

}  // namespace dimhem::task
