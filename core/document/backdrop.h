// What stands behind a photo that is partly transparent: nothing, a colour, or a picture scaled to cover the photo.
//
// A document names the picture by its path, relative to itself or absolute; the pixels are read when it is opened and
// shared by its versions. Where they could not be read, nothing stands behind.
#pragma once

#include <memory>
#include <string>
#include <variant>

#include "core/base/content_key.h"
#include "core/colour/types.h"
#include "core/image/photo.h"

namespace dimhem::document {

struct BackdropPicture {
    std::string path;
    std::shared_ptr<const image::Photo> photo;  // null: not read
    base::ContentKey key;                       // of the file's bytes
};

using Backdrop = std::variant<std::monostate, colour::EncodedRgb, BackdropPicture>;

}  // namespace dimhem::document
