// What a test works on, as if it had been opened.
#pragma once

#include "core/task/open.h"

namespace dimhem::tests {

inline task::Opened openedOf(std::shared_ptr<const render::PhotoSource> photo,
                             const std::filesystem::path& photoPath = {}) {
    task::Opened opened;
    opened.photo = std::move(photo);
    opened.photoPath = photoPath;
    return opened;
}

}  // namespace dimhem::tests
