#include "core/base/content_key.h"

#include <xxhash.h>

#include <array>
#include <cstring>

namespace dimhem::base {

ContentKey keyOfBytes(const void* data, std::size_t size) {
    const XXH128_hash_t hash = XXH3_128bits(data, size);
    return {hash.high64, hash.low64};
}

KeyBuilder& KeyBuilder::addBytes(const void* data, std::size_t size) {
    // Short inputs, by far the most, go through one hash of (state, bytes); long ones are hashed on their own first.
    constexpr std::size_t shortBytes = 64;
    std::array<unsigned char, sizeof(ContentKey) + shortBytes> buffer;
    ContentKey longKey;
    if (size > shortBytes) {
        longKey = keyOfBytes(data, size);
        data = &longKey;
        size = sizeof longKey;
    }
    std::memcpy(buffer.data(), &state_, sizeof state_);
    if (size > 0) std::memcpy(buffer.data() + sizeof state_, data, size);
    state_ = keyOfBytes(buffer.data(), sizeof state_ + size);
    return *this;
}

}  // namespace dimhem::base
