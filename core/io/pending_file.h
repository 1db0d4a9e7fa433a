// A file on its way: written beside its place under another name, put there by commit() once all of it is on the disk.
//
// Destroyed without a commit, it leaves nothing. A program that was killed leaves its temporary file, and beside it the
// file that locked it, which names it; the next one that writes into the folder, or opens a document there, removes
// both where nobody holds that lock (flock) any more. A file that no such lock names is somebody else's, whatever its
// name.
#pragma once

#include <cstdint>
#include <cstdio>
#include <memory>
#include <span>

#include "core/io/write_guard.h"

namespace dimhem::io {

class PendingFile {
public:
    static base::Result<PendingFile> create(const std::filesystem::path& target, const WriteRules& rules);
    PendingFile(PendingFile&&) = default;
    PendingFile& operator=(PendingFile&&) = default;
    ~PendingFile();

    std::FILE* stream() const { return stream_.get(); }
    const std::filesystem::path& temporaryPath() const { return temporary_; }
    base::Result<void> write(std::span<const std::uint8_t> bytes);

    // Everything written is on the disk; the file can be read at temporaryPath().
    base::Result<void> close();
    // Closes, checks the target once more, renames, and syncs the folder.
    base::Result<void> commit();

    // What stands in errno, as a sentence about this file.
    tl::unexpected<base::Error> failure(int errorNumber) const { return writeFailure(target_, errorNumber); }

private:
    struct CloseStream {
        void operator()(std::FILE* stream) const { std::fclose(stream); }
    };
    using Stream = std::unique_ptr<std::FILE, CloseStream>;
    PendingFile() = default;
    base::Result<void> makeTemporary();

    std::filesystem::path asked_, target_, temporary_;
    WriteRules rules_;
    void removeTemporary();
    Stream stream_;
    Stream lock_;  // held until the end
};

// Removes the temporary files that programs which were killed have left in a folder.
void removeStaleFiles(const std::filesystem::path& folder);

}  // namespace dimhem::io
