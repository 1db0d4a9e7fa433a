// What is worked out for one place of a larger whole, for stages that put it together.
#pragma once

#include "core/base/rect.h"
#include "core/stage/staged.h"

namespace dimhem::stage {

template <class T>
struct Placed {
    base::Rect rect;
    Staged<T> stage;
};
template <class T>
void addTo(base::KeyBuilder& key, const Placed<T>& placed) {
    addTo(key, placed.rect);
    key.add(placed.stage.key());
}

}  // namespace dimhem::stage
