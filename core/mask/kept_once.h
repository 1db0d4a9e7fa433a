// What takes long to find is kept from one session to the next (core/base/found_store.h): once() for a type that can be
// packed.
//
// Packing<T> says how: pack(value, packer), and unpack(unpacker), which gives nothing where the bytes are not those of
// a value. They are read by the very program that wrote them, so that any change of T, or of how it is found, is safe.
#pragma once

#include <chrono>
#include <optional>
#include <string>

#include "core/base/packing.h"
#include "core/mask/coverage.h"

namespace dimhem::mask {

template <class T>
struct Packing;

template <base::Plain T>
struct Packing<T> {
    static void pack(const T& value, base::Packer& to) { to.add(value); }
    static std::optional<T> unpack(base::Unpacker& from) {
        T value{};
        return from.read(value) ? std::optional(value) : std::nullopt;
    }
};

template <base::Plain T>
struct Packing<image::Plane<T>> {
    static void pack(const image::Plane<T>& plane, base::Packer& to) {
        to.add(plane.size());
        for (int y = 0; y < plane.size().height; ++y) to.addMany(plane.row(y));
    }
    static std::optional<image::Plane<T>> unpack(base::Unpacker& from) {
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

template <>
struct Packing<Coverage> {
    static void pack(const Coverage& coverage, base::Packer& to) {
        to.add(coverage.isConstant());
        if (coverage.isConstant()) {
            to.add(coverage.value());
        } else {
            Packing<image::Plane<std::uint16_t>>::pack(coverage.plane(), to);
        }
    }
    static std::optional<Coverage> unpack(base::Unpacker& from) {
        bool isConstant = false;
        if (!from.read(isConstant)) return std::nullopt;
        std::uint16_t value = 0;
        if (isConstant) return from.read(value) ? std::optional<Coverage>(std::in_place, value) : std::nullopt;
        auto plane = Packing<image::Plane<std::uint16_t>>::unpack(from);
        return plane ? std::optional<Coverage>(std::in_place, std::move(*plane)) : std::nullopt;
    }
};

template <class T, class Make, class Bytes>
std::shared_ptr<const T> keptOnce(CoverageStore& store, const base::ContentKey& key, Make make, Bytes bytes) {
    const auto find = [&]() -> std::shared_ptr<const T> {
        if (const auto kept = store.findFound(key)) {
            base::Unpacker from(*kept);
            auto value = Packing<T>::unpack(from);
            if (value && from.isWhole()) return std::make_shared<const T>(std::move(*value));
        }
        const auto begun = std::chrono::steady_clock::now();
        std::shared_ptr<const T> value = make();
        store.keepFound(key, std::chrono::steady_clock::now() - begun, [&] {
            base::Packer to;
            Packing<T>::pack(*value, to);
            return to.take();
        });
        return value;
    };
    return madeOnce<T>(store, key, find, bytes);
}

}  // namespace dimhem::mask
