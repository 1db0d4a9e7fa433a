#include "ui/session/background.h"

namespace dimhem::ui {

base::Error errorOf(const std::exception* exception) {
    if (dynamic_cast<const std::bad_alloc*>(exception)) {
        return {
            base::ErrorCode::outOfMemory, "",
            "There is not enough memory for this; close other programs, or try a smaller photo. Nothing was changed."};
    }
    return {base::ErrorCode::failed, "",
            "Something went wrong that the program did not foresee (" +
                std::string(exception ? exception->what() : "of an unknown kind") + "). Nothing was changed."};
}

}  // namespace dimhem::ui
