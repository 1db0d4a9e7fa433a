// Where what took long to find is kept beyond a session, by the key of its content: bytes that only this very program
// understands. Never needed: what is not there is found anew. Safe from many threads.
#pragma once

#include <chrono>
#include <cstddef>
#include <optional>
#include <span>
#include <vector>

#include "core/base/content_key.h"

namespace dimhem::base {

class FoundStore {
public:
    virtual ~FoundStore() = default;
    virtual std::optional<std::vector<std::byte>> read(const ContentKey& key) = 0;
    // Whether what took so long is worth keeping: what was found sooner is as soon found again.
    virtual bool wants(std::chrono::nanoseconds took) const = 0;
    virtual void write(const ContentKey& key, std::span<const std::byte> bytes) = 0;
};

}  // namespace dimhem::base
