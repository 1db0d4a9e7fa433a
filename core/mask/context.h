// What a part may look at beside its own values, and where it finds and keeps what was computed before.
//
// Pictures are got at by reads alone (core/stage/staged.h): what a part looks at stands in its key. Areas may reach
// outside the photo: pictures go on there with the colours of its edge. Implemented by the renderer; safe from many
// threads.
#pragma once

#include "core/mask/coverage.h"

namespace dimhem::mask {

using stage::Staged;
using stage::staged;

// Which picture a range is measured on.
enum class Seen {
    photo,     // as it was read
    arriving,  // as it arrives at the correction the mask belongs to
};

// The picture over an area, as encoded sRGB.
using PictureRead = stage::Reading<image::EncodedPlanes>;

class Context;

// The photo as it was read, at any place, on any level.
class PhotoRead {
public:
    base::ContentKey key() const;
    const PhotoRead& value() const { return *this; }
    base::Size size() const;
    image::EncodedPlanes picture(const Area& area) const;
    // Where what is made of it is kept.
    stage::Store& store() const;

private:
    friend class Context;
    explicit PhotoRead(Context& context) : context_(&context) {}
    Context* context_;
};

class Context : public CoverageStore, public stage::Memory {
public:
    virtual base::Size photoSize() const = 0;
    PhotoRead photo() { return PhotoRead(*this); }
    virtual PictureRead picture(Seen seen, const Area& area) = 0;
    // The photo's own alpha, 0..1; nothing where it has none.
    virtual stage::Reading<std::optional<image::Plane<float>>> alpha(const Area& area) = 0;
    // Another correction's whole mask; empty where there is none of that id, or where it would borrow from itself.
    virtual Staged<Coverage> borrowed(std::int64_t correction, const Area& area) = 0;

    // What is remembered belongs to the mask that looks.
    std::optional<base::ContentKey> remembered(const base::ContentKey& /*question*/) const override {
        return std::nullopt;
    }
    void remember(const base::ContentKey& /*question*/, const base::ContentKey& /*key*/) const override {}
};

}  // namespace dimhem::mask
