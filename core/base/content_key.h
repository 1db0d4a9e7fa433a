// A 128-bit key of content: equal keys mean equal content (XXH3, 128 bit; collisions are not to be expected).
//
// The cache of rendered tiles is keyed by these, so nothing ever has to be declared stale: what changed has
// another key.
#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <functional>
#include <span>
#include <string_view>
#include <type_traits>

namespace dimhem::base {

struct ContentKey {
    std::uint64_t high = 0;
    std::uint64_t low = 0;
    friend bool operator==(const ContentKey&, const ContentKey&) = default;
};

ContentKey keyOfBytes(const void* data, std::size_t size);

// Builds a key from parts, in order: KeyBuilder().add(below).add(strength).key().
class KeyBuilder {
public:
    template <class T>
    requires std::is_arithmetic_v<T> || std::is_enum_v<T> KeyBuilder& add(T value) {
        return addBytes(&value, sizeof value);
    }
    KeyBuilder& add(const ContentKey& key) { return add(key.high).add(key.low); }
    KeyBuilder& add(std::string_view text) { return add(text.size()).addBytes(text.data(), text.size()); }
    KeyBuilder& add(std::span<const double> values) {
        return add(values.size()).addBytes(values.data(), values.size_bytes());
    }

    ContentKey key() const { return keyOfBytes(bytes_.data(), used_); }

private:
    KeyBuilder& addBytes(const void* data, std::size_t size);
    std::array<std::byte, 192> bytes_;  // what was added; where it is too much, first the key of what came before
    std::size_t used_ = 0;
};

}  // namespace dimhem::base

template <>
struct std::hash<dimhem::base::ContentKey> {
    std::size_t operator()(const dimhem::base::ContentKey& key) const noexcept { return key.low; }
};
