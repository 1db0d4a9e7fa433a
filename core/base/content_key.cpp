#include "core/base/content_key.h"

#include <xxhash.h>

#include <cstring>

namespace dimhem::base {

ContentKey keyOfBytes(const void* data, std::size_t size) {
    const XXH128_hash_t hash = XXH3_128bits(data, size);
    return {hash.high64, hash.low64};
}

// Each piece is preceded by its size, so that no two sequences of pieces come to the same bytes.
KeyBuilder& KeyBuilder::addBytes(const void* data, std::size_t size) {
    // Short pieces, by far the most, are hashed together; a long one is hashed on its own first.
    constexpr std::size_t shortBytes = 64;
    if (size > shortBytes) return add(keyOfBytes(data, size));
    if (used_ + 1 + size > bytes_.size()) {
        const ContentKey soFar = key();
        bytes_[0] = std::byte{0xff};
        std::memcpy(bytes_.data() + 1, &soFar, sizeof soFar);
        used_ = 1 + sizeof soFar;
    }
    bytes_[used_++] = static_cast<std::byte>(size);
    if (size > 0) std::memcpy(bytes_.data() + used_, data, size);
    used_ += size;
    return *this;
}

}  // namespace dimhem::base
