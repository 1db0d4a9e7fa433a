// The one guard that every writer goes through: what must never be written over, and what may be replaced.
//
// Files are told apart by device and inode (POSIX stat), so that links, other spellings of a path and hard links lead
// to the same file.
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "core/base/error.h"
#include "core/io/held_file.h"

namespace dimhem::io {

// A file that is not to be written over, with what it is in a few words: "the photo itself, which is never changed".
// What has been read is known by being kept open, not by asking its path again: it may have been moved onto the very
// name that is written to.
struct KeptFile {
    std::filesystem::path path;
    std::string what;
    std::shared_ptr<const HeldFile> held = nullptr;  // null: it is known by its path alone
};

struct WriteRules {
    std::vector<KeptFile> keep = {};
    bool replaceReadOnly = false;  // the person was asked
    bool lasting = true;           // on the disk itself once it is there; not needed of what can be made again
};

// The file itself at the end of all links, whether or not it is there yet. Errors: it is a kept file, a folder, a
// device or anything else that is not a plain file (unwritable), or write-protected (readOnly: may be asked about).
base::Result<std::filesystem::path> writableTarget(const std::filesystem::path& path, const WriteRules& rules);

// What stands in errno after a failed write, as a sentence about the file.
tl::unexpected<base::Error> writeFailure(const std::filesystem::path& path, int errorNumber);

// The file name for a sentence, in quotes.
std::string quoted(const std::filesystem::path& path);

}  // namespace dimhem::io
