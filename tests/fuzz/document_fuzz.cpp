// Documents, as text or zip file; one that is read must come back the same when it is written.
#include <cstdlib>

#include "core/document/json_format.h"
#include "core/io/document_file.h"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    using namespace dimhem;
    const auto stored = io::readDocument(io::Bytes(data, size), "fuzzed");
    if (!stored) return 0;
    const std::string text = document::toJsonText(*stored->document);
    const auto again = document::fromJsonText(text);
    if (!again || document::toJsonText(**again) != text) std::abort();
    return 0;
}
