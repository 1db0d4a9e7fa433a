// A 128-bit key of content: equal keys mean equal content (XXH3, 128 bit; collisions are not to be expected).
//
// The cache of rendered tiles is keyed by these, so nothing ever has to be declared stale: what changed has
// another key.
#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <functional>
#include <memory>
#include <optional>
#include <span>
#include <string_view>
#include <type_traits>
#include <utility>
#include <vector>

#include "core/base/rect.h"

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

// Adds a value to a key, all of it: what a type of our own consists of is told by an addTo() beside it.
template <class T>
concept Addable = requires(KeyBuilder& key, const T& value) {
    key.add(value);
};

template <Addable T>
void addTo(KeyBuilder& key, const T& value) {
    key.add(value);
}
inline void addTo(KeyBuilder& key, const Point& point) {
    key.add(point.x).add(point.y);
}
inline void addTo(KeyBuilder& key, const Size& size) {
    key.add(size.width).add(size.height);
}
inline void addTo(KeyBuilder& key, const Rect& rect) {
    key.add(rect.x0).add(rect.y0).add(rect.x1).add(rect.y1);
}
template <class T, std::size_t n>
void addTo(KeyBuilder& key, const std::array<T, n>& values) {
    for (const T& value : values) addTo(key, value);
}
template <class T>
requires(!Addable<std::vector<T>>) void addTo(KeyBuilder& key, const std::vector<T>& values) {
    key.add(values.size());
    for (const T& value : values) addTo(key, value);
}
template <class T>
void addTo(KeyBuilder& key, const std::optional<T>& value) {
    key.add(value.has_value());
    if (value) addTo(key, *value);
}

}  // namespace dimhem::base

template <>
struct std::hash<dimhem::base::ContentKey> {
    std::size_t operator()(const dimhem::base::ContentKey& key) const noexcept { return key.low; }
};
