#include "core/task/state_folder.h"

#include <cstdlib>
#include <iomanip>
#include <sstream>

#include "core/base/content_key.h"

namespace dimhem::task {

namespace fs = std::filesystem;

fs::path stateFolder() {
    const char* state = std::getenv("XDG_STATE_HOME");
    if (state && fs::path(state).is_absolute()) return fs::path(state) / "dimhem";
    const char* home = std::getenv("HOME");
    return fs::path(home && *home ? home : "/tmp") / ".local" / "state" / "dimhem";
}

fs::path journalFolder(const fs::path& state) {
    return state / "journals";
}

fs::path lockFileFor(const fs::path& state, const fs::path& document) {
    std::error_code ignored;
    const std::string place = fs::weakly_canonical(document, ignored).string();
    std::ostringstream name;
    name << std::hex << std::setfill('0') << std::setw(16) << base::keyOfBytes(place.data(), place.size()).low;
    return state / "locks" / (name.str() + ".lock");
}

}  // namespace dimhem::task
