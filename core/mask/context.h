// What a part may look at beside its own values, and where it finds and keeps what was computed before.
//
// Areas may reach outside the photo: pictures go on there with the colours of its edge. Implemented by the renderer;
// safe from many threads.
#pragma once

#include "core/mask/coverage.h"

namespace dimhem::mask {

// Which picture a range is measured on.
enum class Seen {
    photo,     // as it was read
    arriving,  // as it arrives at the correction the mask belongs to
};

class Context : public CoverageStore {
public:
    virtual base::Size photoSize() const = 0;

    // A key that was worked out once, by what was asked of this mask: for as long as the document stays as it is.
    // Nothing where it is not known.
    virtual std::optional<base::ContentKey> rememberedKey(const base::ContentKey& /*question*/) { return std::nullopt; }
    virtual void rememberKey(const base::ContentKey& /*question*/, const base::ContentKey& /*key*/) {}

    // The picture over an area as encoded sRGB; equal keys, equal pictures.
    virtual base::ContentKey pictureKey(Seen seen, const Area& area) = 0;
    virtual void readPicture(Seen seen, const Area& area, image::EncodedPlanes& out) = 0;

    // The photo's own alpha, 0..1; false where it has none.
    virtual bool readAlpha(const Area& area, image::Plane<float>& out) = 0;

    // Another correction's whole mask; empty where there is none of that id, or where it would borrow from itself.
    virtual base::ContentKey borrowedKey(std::int64_t correction, const Area& area) = 0;
    virtual CoveragePtr borrowed(std::int64_t correction, const Area& area) = 0;
};

}  // namespace dimhem::mask
