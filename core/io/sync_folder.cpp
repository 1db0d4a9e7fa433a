#include "core/io/sync_folder.h"

#include <fcntl.h>
#include <unistd.h>

namespace dimhem::io {

void syncFolder(const std::filesystem::path& folder) {
    const int fd = ::open(folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC);
    if (fd < 0) return;
    ::fsync(fd);
    ::close(fd);
}

}  // namespace dimhem::io
