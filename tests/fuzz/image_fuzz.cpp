// Feeds a reader of photos whatever the fuzzer thinks of; DIMHEM_FORMAT is one of those in core/io.
#include "core/io/exr.h"
#include "core/io/jpeg.h"
#include "core/io/png.h"
#include "core/io/registry.h"
#include "core/io/tiff.h"
#include "core/io/webp.h"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const dimhem::io::Bytes bytes(data, size);
    if (dimhem::io::DIMHEM_FORMAT.matches(bytes)) (void)dimhem::io::readPhoto(bytes, "fuzzed");
    return 0;
}
