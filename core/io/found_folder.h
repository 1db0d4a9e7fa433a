// What took long to find, kept in a folder of the program's own (core/base/found_store.h): a file for each, packed,
// with a sum by which it is known to be whole, the least recently used removed first.
//
// A file is good only for the very code that wrote it: `code` names that, and is part of every name. What is damaged,
// from elsewhere or cannot be read is not there. Nothing here ever fails: where nothing can be written, nothing is
// kept. How much may be kept lies in the folder too, so that all programs keep to it.
#pragma once

#include <atomic>
#include <cstdint>
#include <filesystem>
#include <mutex>
#include <string>

#include "core/base/found_store.h"

namespace dimhem::io {

class FoundFolder final : public base::FoundStore {
public:
    // `standardBytes` may be kept where nothing else was chosen.
    FoundFolder(std::filesystem::path folder, std::string_view code, std::uint64_t standardBytes);

    std::optional<std::vector<std::byte>> read(const base::ContentKey& key) override;
    bool wants(std::chrono::nanoseconds took) const override;
    void write(const base::ContentKey& key, std::span<const std::byte> bytes) override;
    std::uint64_t mostBytes() const { return mostBytes_; }
    // More than before counts at once; less once something is written. 0: nothing is kept, and what is there goes.
    void setMostBytes(std::uint64_t bytes);
    void clear();
    std::uint64_t bytes() const;  // on the disk

private:
    std::filesystem::path fileOf(const base::ContentKey& key) const;
    void keepToLimit(std::uint64_t more);

    const std::filesystem::path folder_;
    const base::ContentKey code_;
    std::atomic<std::uint64_t> mostBytes_;
    std::mutex mutex_;         // of removing
    std::int64_t known_ = -1;  // bytes there are, as far as this program knows; below 0: not yet looked
};

}  // namespace dimhem::io
