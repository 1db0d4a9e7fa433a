// Coverage of one area of a mask: 16 bits a pixel, 0 none .. 65535 full, or one value for the whole area.
//
// An area is a rectangle in pixels of a level (image/tiles.h). Coverage is immutable once made and shared.
#pragma once

#include <chrono>
#include <cstdint>
#include <functional>
#include <memory>
#include <optional>
#include <vector>

#include "core/base/content_key.h"
#include "core/image/plane.h"
#include "core/image/tiles.h"

namespace dimhem::mask {

struct Area {
    base::Rect rect;
    int level = 0;

    // The photo's pixels per pixel of this area, and a place of the photo in its pixels.
    double scale() const { return static_cast<double>(1 << level); }
    base::Point toLevel(base::Point photo) const { return {photo.x / scale(), photo.y / scale()}; }
};

// The tiles of a grid through the origin of the level that touch an area, also outside the photo: visit(Area).
template <class Visit>
void forEachTile(const Area& area, int tilePx, Visit visit) {
    image::forEachTile(area.rect, tilePx, [&](const base::Rect& tile) { visit(Area{tile, area.level}); });
}

class Coverage {
public:
    explicit Coverage(std::uint16_t value) : constant_(value) {}
    // Becomes constant where all pixels turn out to be equal.
    explicit Coverage(image::Plane<std::uint16_t> plane);

    bool isConstant() const { return constant_.has_value(); }
    bool isEmpty() const { return constant_ == std::uint16_t{0}; }
    std::uint16_t value() const { return *constant_; }                      // where constant
    const image::Plane<std::uint16_t>& plane() const { return plane_; }     // where not
    const std::uint16_t* row(int y) const { return plane_.row(y).data(); }  // where not; y counts from the area's top
    std::size_t bytes() const { return sizeof *this + (isConstant() ? 0 : plane_.bytes()); }

    // Its pixels in memory of the caller's own.
    image::Plane<std::uint16_t> copy(base::Size size) const;

private:
    std::optional<std::uint16_t> constant_;
    image::Plane<std::uint16_t> plane_;
};

using CoveragePtr = std::shared_ptr<const Coverage>;

// Between coverage and 0..1; what is beyond is held to that.
image::Plane<float> floatsOf(const Coverage& coverage, base::Size size);
CoveragePtr coverageOf(const image::Plane<float>& values);

// A stroke in the middle of being painted over an area: how many of its dabs have been laid, and what they made.
struct StrokeProgress {
    std::size_t dabs = 0;
    base::ContentKey chain;      // of those dabs
    image::Plane<float> stroke;  // 0..1
};

// Where parts find and keep what they computed before. Implemented by the renderer's cache; safe from many threads.
class CoverageStore {
public:
    virtual ~CoverageStore() = default;
    virtual CoveragePtr find(const base::ContentKey& key) = 0;
    virtual void keep(const base::ContentKey& key, CoveragePtr coverage) = 0;
    // A key that takes long to work out, kept under one that does not.
    virtual std::optional<base::ContentKey> findKey(const base::ContentKey& key) = 0;
    virtual void keepKey(const base::ContentKey& key, const base::ContentKey& value) = 0;
    virtual std::shared_ptr<const StrokeProgress> findProgress(const base::ContentKey& key) = 0;
    virtual void keepProgress(const base::ContentKey& key, std::shared_ptr<const StrokeProgress> progress) = 0;

    // How far something that grows has come, to go on from; the newest takes the place of the one before.
    virtual std::shared_ptr<const void> findLatest(const base::ContentKey& key) = 0;
    virtual void keepLatest(const base::ContentKey& key, std::shared_ptr<const void> value, std::size_t bytes) = 0;

    // Something that takes long to work out and that many areas need: the first to ask makes it, the others wait.
    // `make` must not ask for its own key again. Where the work is stopped, base::Cancelled comes out of it.
    struct Made {
        std::shared_ptr<const void> value;
        std::size_t bytes = 0;
    };
    virtual std::shared_ptr<const void> once(const base::ContentKey& key, const std::function<Made()>& make) = 0;

    // What was found in another session, or by another program, as bytes (kept_once.h); nothing where none is kept.
    virtual std::optional<std::vector<std::byte>> findFound(const base::ContentKey& /*key*/) { return std::nullopt; }
    // `packed` is asked for where what took so long is worth keeping.
    virtual void keepFound(const base::ContentKey& /*key*/, std::chrono::nanoseconds /*took*/,
                           const std::function<std::vector<std::byte>()>& /*packed*/) {}
};

// once() for a value of type T; `make` returns a shared_ptr<const T>, `bytes` tells its size.
template <class T, class Make, class Bytes>
std::shared_ptr<const T> madeOnce(CoverageStore& store, const base::ContentKey& key, Make make, Bytes bytes) {
    return std::static_pointer_cast<const T>(store.once(key, [&]() -> CoverageStore::Made {
        std::shared_ptr<const T> value = make();
        const std::size_t size = bytes(*value);
        return {std::move(value), size};
    }));
}

// Adds the area itself, for keys of what was computed over it.
base::KeyBuilder keyOf(const Area& area);

}  // namespace dimhem::mask
