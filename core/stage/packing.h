// Values as bytes, one after the other as they lie in memory, for files that only this very program reads.
//
// Unpacker never reads beyond its end, and never makes more of its bytes than there are: what is missing or impossible
// fails, and with it all that comes after.
//
// Packing<T> says how a T is packed: pack(value, packer), and unpack(unpacker), which gives nothing where the bytes are
// not those of a value.
#pragma once

#include <cstddef>
#include <cstring>
#include <optional>
#include <span>
#include <type_traits>
#include <vector>

#include "core/image/plane.h"

namespace dimhem::stage {

template <class T>
concept Plain = std::is_trivially_copyable_v<T>;

class Packer {
public:
    template <Plain T>
    Packer& add(const T& value) {
        return addBytes(&value, sizeof value);
    }
    template <Plain T>
    Packer& addMany(std::span<const T> values) {
        return add(values.size()).addBytes(values.data(), values.size_bytes());
    }
    std::vector<std::byte> take() { return std::move(bytes_); }

private:
    Packer& addBytes(const void* data, std::size_t size) {
        const auto* from = static_cast<const std::byte*>(data);
        bytes_.insert(bytes_.end(), from, from + size);
        return *this;
    }
    std::vector<std::byte> bytes_;
};

class Unpacker {
public:
    explicit Unpacker(std::span<const std::byte> bytes) : left_(bytes) {}

    template <Plain T>
    bool read(T& value) {
        return readBytes(&value, sizeof value);
    }
    template <Plain T>
    bool readMany(std::vector<T>& values) {
        std::size_t count = 0;
        if (!read(count) || count > left_.size() / sizeof(T)) return fail();
        values.resize(count);
        return readBytes(values.data(), count * sizeof(T));
    }
    template <Plain T>
    bool readInto(std::span<T> values) {  // as many as there is room for, which must be as many as were added
        std::size_t count = 0;
        if (!read(count) || count != values.size()) return fail();
        return readBytes(values.data(), values.size_bytes());
    }
    std::size_t left() const { return left_.size(); }
    bool isWhole() const { return !failed_ && left_.empty(); }

private:
    bool fail() {
        failed_ = true;
        return false;
    }
    bool readBytes(void* to, std::size_t size) {
        if (failed_ || size > left_.size()) return fail();
        if (size > 0) std::memcpy(to, left_.data(), size);
        left_ = left_.subspan(size);
        return true;
    }
    std::span<const std::byte> left_;
    bool failed_ = false;
};

template <class T>
struct Packing;

template <Plain T>
struct Packing<T> {
    static void pack(const T& value, Packer& to) { to.add(value); }
    static std::optional<T> unpack(Unpacker& from) {
        T value{};
        return from.read(value) ? std::optional(value) : std::nullopt;
    }
};

template <Plain T>
struct Packing<image::Plane<T>> {
    static void pack(const image::Plane<T>& plane, Packer& to) {
        to.add(plane.size());
        for (int y = 0; y < plane.size().height; ++y) to.addMany(plane.row(y));
    }
    static std::optional<image::Plane<T>> unpack(Unpacker& from) {
        base::Size size;
        if (!from.read(size) || size.width < 0 || size.height < 0) return std::nullopt;
        const auto area = static_cast<std::size_t>(size.width) * static_cast<std::size_t>(size.height);
        if (area > from.left() / sizeof(T)) return std::nullopt;
        image::Plane<T> plane(size);
        for (int y = 0; y < size.height; ++y) {
            if (!from.readInto(plane.row(y))) return std::nullopt;
        }
        return plane;
    }
};

template <class T>
concept Packable = requires(const T& value, Packer& to, Unpacker& from) {
    Packing<T>::pack(value, to);
    { Packing<T>::unpack(from) } -> std::same_as<std::optional<T>>;
};

}  // namespace dimhem::stage
