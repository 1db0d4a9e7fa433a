// How the result is held against what it came from.
#pragma once

#include <cstddef>

namespace dimhem::ui {

enum class Look {
    result,
    before,  // the other side alone
    split,   // both, either side of a line
    beside,  // both, next to each other
    blink,   // by turns
};
inline constexpr int looks = 5;

// What the other side shows.
struct Against {
    enum class What {
        photo,        // as it was, all corrections off
        withoutThis,  // all but the selected correction
        saved,        // the document as it was last saved
        state,        // a kept state
    } what = What::photo;
    std::size_t state = 0;  // which one
    friend bool operator==(const Against&, const Against&) = default;
};

}  // namespace dimhem::ui
