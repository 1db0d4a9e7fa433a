#include "ui/session/background.h"

#include <algorithm>

#include "core/base/memory_ceiling.h"

namespace dimhem::ui {

base::Error errorOf(const std::exception* exception) {
    if (dynamic_cast<const base::CeilingReached*>(exception)) {
        return {base::ErrorCode::outOfMemory, "",
                "This needs more memory than the program may take; Preferences set how much that is. Nothing was "
                "changed."};
    }
    if (dynamic_cast<const std::bad_alloc*>(exception)) {
        return {
            base::ErrorCode::outOfMemory, "",
            "There is not enough memory for this; close other programs, or try a smaller photo. Nothing was changed."};
    }
    return {base::ErrorCode::failed, "",
            "Something went wrong that the program did not foresee (" +
                std::string(exception ? exception->what() : "of an unknown kind") + "). Nothing was changed."};
}

base::Error cancelledError() {
    return {base::ErrorCode::cancelled, "", "It was stopped."};
}

Background::Background() {
    // Some of the work waits for what other work makes, or for the disk: what is quick is not kept waiting by it.
    constexpr int fewest = 4;
    threads_.setMaxThreadCount(std::max(fewest, QThread::idealThreadCount()));
}

Background::~Background() {
    wait();
}

}  // namespace dimhem::ui
