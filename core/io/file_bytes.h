// Whole files: read into memory, and written so that a failure never harms what was there before.
#pragma once

#include <cstdint>
#include <cstdio>
#include <filesystem>
#include <memory>
#include <span>
#include <string>
#include <vector>

#include "core/base/error.h"

namespace dimhem::io {

base::Result<std::vector<std::uint8_t>> readFile(const std::filesystem::path& path);

// SHA-256 (FIPS 180-4) in lower-case hexadecimal, as `sha256sum` prints it.
std::string sha256(std::span<const std::uint8_t> bytes);

// A file on its way: written beside its place under another name, put there by commit() once it is whole and on the
// disk. Destroyed without a commit, it leaves nothing.
class PendingFile {
public:
    static base::Result<PendingFile> create(const std::filesystem::path& target);
    PendingFile(PendingFile&&) = default;
    PendingFile& operator=(PendingFile&&) = default;
    ~PendingFile();

    std::FILE* stream() const { return stream_.get(); }
    const std::filesystem::path& temporaryPath() const { return temporary_; }
    base::Result<void> write(std::span<const std::uint8_t> bytes);

    // Flushes and closes the stream, so that other code can work on temporaryPath().
    base::Result<void> close();
    base::Result<void> commit();

    // What stands in errno, as a sentence about this file.
    tl::unexpected<base::Error> failure(int errorNumber) const;

private:
    struct CloseStream {
        void operator()(std::FILE* stream) const { std::fclose(stream); }
    };
    PendingFile() = default;
    std::filesystem::path target_, temporary_;
    std::unique_ptr<std::FILE, CloseStream> stream_;
};

}  // namespace dimhem::io
