// Starters; one that is read must come back the same when it is written.
#include <cstdint>
#include <cstdlib>

#include "core/document/starter.h"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    using namespace dimhem::document;
    const auto starter = starterFromJsonText({reinterpret_cast<const char*>(data), size});
    if (!starter) return 0;
    const std::string text = toJsonText(*starter);
    const auto again = starterFromJsonText(text);
    if (!again || toJsonText(*again) != text) std::abort();
    return 0;
}
