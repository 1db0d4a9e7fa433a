#include "core/mask/context.h"

namespace dimhem::mask {

base::ContentKey PhotoRead::key() const {
    return context_->picture(Seen::photo, image::wholeAt(size(), 0)).key();
}

base::Size PhotoRead::size() const {
    return context_->photoSize();
}

image::EncodedPlanes PhotoRead::picture(const Area& area) const {
    return context_->picture(Seen::photo, area).value();
}

stage::Store& PhotoRead::store() const {
    return *context_;
}

}  // namespace dimhem::mask
