// Coverage of one area of a mask: 16 bits a pixel, 0 none .. 65535 full, or one value for the whole area.
//
// An area is a rectangle in pixels of a level (image/area.h). Coverage is immutable once made and shared.
#pragma once

#include <cstdint>
#include <memory>
#include <optional>

#include "core/base/content_key.h"
#include "core/image/area.h"
#include "core/image/plane.h"
#include "core/stage/kept.h"

namespace dimhem::mask {

using image::Area;
using image::forEachTile;

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
class CoverageStore : public stage::Store {
public:
    virtual CoveragePtr find(const base::ContentKey& key) = 0;
    virtual void keep(const base::ContentKey& key, CoveragePtr coverage) = 0;
    virtual std::shared_ptr<const StrokeProgress> findProgress(const base::ContentKey& key) = 0;
    virtual void keepProgress(const base::ContentKey& key, std::shared_ptr<const StrokeProgress> progress) = 0;
};

stage::Staged<Coverage> uniformCoverage(std::uint16_t value);

// Coverage that is looked for in the store before it is made. Unlike stage::kept() nobody waits for another that makes
// the same: it is soon made.
stage::Staged<Coverage> inStore(CoverageStore& store, stage::Staged<Coverage> stage);

// Adds the area itself, for keys of what was computed over it.
base::KeyBuilder keyOf(const Area& area);

}  // namespace dimhem::mask

template <>
struct dimhem::stage::Packing<dimhem::mask::Coverage> {
    static void pack(const mask::Coverage& coverage, Packer& to);
    static std::optional<mask::Coverage> unpack(Unpacker& from);
};
