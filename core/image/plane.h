// One channel of a picture or mask, in memory we own, and a view into one.
//
// Rows are 64-byte aligned and padded; row(y) gives the valid pixels only. A plane is moved, never copied by accident.
#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <memory>
#include <span>

#include "core/base/rect.h"

namespace dimhem::image {

template <class T>
class View {
public:
    View() = default;
    View(T* data, base::Size size, std::size_t strideBytes) : data_(data), size_(size), strideBytes_(strideBytes) {}

    base::Size size() const { return size_; }
    int width() const { return size_.width; }
    int height() const { return size_.height; }
    std::span<T> row(int y) const {
        return {reinterpret_cast<T*>(reinterpret_cast<std::uintptr_t>(data_) + y * strideBytes_),
                static_cast<std::size_t>(size_.width)};
    }
    T& at(int x, int y) const { return row(y)[static_cast<std::size_t>(x)]; }

    // The part of the view inside `rect`, which must lie within it.
    View part(const base::Rect& rect) const { return {&at(rect.x0, rect.y0), rect.size(), strideBytes_}; }

    operator View<const T>() const { return {data_, size_, strideBytes_}; }

private:
    T* data_ = nullptr;
    base::Size size_;
    std::size_t strideBytes_ = 0;
};

template <class T>
class Plane {
public:
    Plane() = default;
    // Contents are not initialised: whoever makes a plane fills it.
    explicit Plane(base::Size size)
        : size_(size), strideBytes_((sizeof(T) * static_cast<std::size_t>(size.width) + align - 1) / align * align) {
        // Aligned by hand: the C library's aligned allocation (before glibc 2.38) hardly reuses what is freed.
        memory_ = std::make_unique_for_overwrite<std::byte[]>(bytes() + align);
        void* place = memory_.get();
        std::size_t room = bytes() + align;
        data_ = static_cast<T*>(std::align(align, bytes(), place, room));
    }
    Plane(Plane&&) noexcept = default;
    Plane& operator=(Plane&&) noexcept = default;

    base::Size size() const { return size_; }
    std::size_t bytes() const { return strideBytes_ * static_cast<std::size_t>(size_.height); }
    // Whether one row begins where the one before ends, so that several can be taken for one.
    bool isGapless() const { return strideBytes_ == sizeof(T) * static_cast<std::size_t>(size_.width); }
    View<T> view() { return {data_, size_, strideBytes_}; }
    View<const T> view() const { return {data_, size_, strideBytes_}; }
    std::span<T> row(int y) { return view().row(y); }
    std::span<const T> row(int y) const { return view().row(y); }

private:
    static constexpr std::size_t align = 64;
    std::unique_ptr<std::byte[]> memory_;
    T* data_ = nullptr;  // within it
    base::Size size_;
    std::size_t strideBytes_ = 0;
};

// Filled with f(x, y).
template <class F>
Plane<float> planeOf(base::Size size, F f) {
    Plane<float> out(size);
    for (int y = 0; y < size.height; ++y) {
        float* row = out.row(y).data();
        for (int x = 0; x < size.width; ++x) row[x] = f(x, y);
    }
    return out;
}

// A copy of the part inside `rect`, which must lie within the plane.
template <class T>
Plane<T> cropped(const Plane<T>& from, const base::Rect& rect) {
    Plane<T> out(rect.size());
    for (int y = 0; y < rect.height(); ++y)
        std::copy_n(from.row(rect.y0 + y).data() + rect.x0, rect.width(), out.row(y).data());
    return out;
}

// Copies what two planes share, each standing for a rectangle of the same level.
template <class T>
void copyShared(const Plane<T>& from, const base::Rect& fromRect, Plane<T>& to, const base::Rect& toRect) {
    const base::Rect both = base::intersected(fromRect, toRect);
    for (int y = both.y0; y < both.y1; ++y)
        std::copy_n(from.row(y - fromRect.y0).data() + (both.x0 - fromRect.x0), both.width(),
                    to.row(y - toRect.y0).data() + (both.x0 - toRect.x0));
}

template <class T>
Plane<T> copied(const Plane<T>& from) {
    return cropped(from, base::rectOf(from.size()));
}

template <class T>
Plane<T> filled(base::Size size, T value) {
    Plane<T> out(size);
    for (int y = 0; y < size.height; ++y) std::fill_n(out.row(y).data(), size.width, value);
    return out;
}

// The domains that colours can be in (colour/types.h): extended encoded sRGB, linear light of its primaries.
struct Encoded {};
struct Linear {};

// Three channels of the same size: red, green, blue. Their domain is part of the type, so that no formula gets the
// wrong one; kernel/srgb_rows.h takes them from one to the other.
template <class Domain>
struct RgbPlanes {
    RgbPlanes() = default;
    explicit RgbPlanes(base::Size size) : red(size), green(size), blue(size) {}
    Plane<float> red, green, blue;
    base::Size size() const { return red.size(); }
    std::size_t bytes() const { return 3 * red.bytes(); }
};
using EncodedPlanes = RgbPlanes<Encoded>;
using LinearPlanes = RgbPlanes<Linear>;

template <class Domain>
void copyShared(const RgbPlanes<Domain>& from, const base::Rect& fromRect, RgbPlanes<Domain>& to,
                const base::Rect& toRect) {
    copyShared(from.red, fromRect, to.red, toRect);
    copyShared(from.green, fromRect, to.green, toRect);
    copyShared(from.blue, fromRect, to.blue, toRect);
}

}  // namespace dimhem::image
