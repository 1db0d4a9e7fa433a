#include "core/io/format.h"

#include <string>

#include "core/base/checked.h"
#include "core/image/limits.h"

namespace dimhem::io {

using base::ErrorCode;

base::Result<void> checkSize(std::string_view what, std::uint64_t width, std::uint64_t height, int channels,
                             image::SampleType type) {
    if (width == 0 || height == 0) return damaged(what, "says it has no pixels");
    const auto pixels = base::checkedSize({width, height});
    const bool tooLong = width > image::maxSidePx || height > image::maxSidePx;
    if (tooLong || !pixels || *pixels > image::maxPixels) {
        return base::fail(ErrorCode::tooLarge, "",
                          "The " + std::string(what) + " file says it has " + std::to_string(width) + " x " +
                              std::to_string(height) + " pixels; the program takes " +
                              (tooLong ? "sides of up to " + std::to_string(image::maxSidePx) + " pixels."
                                       : "up to " + std::to_string(image::maxPixels / 1'000'000) + " megapixels."));
    }
    if (!base::checkedSize({width, height, static_cast<std::size_t>(channels), image::bytesOf(type)})) {
        return damaged(what, "says it has an impossible size");
    }
    return {};
}

base::Result<void> checkHolds(std::string_view what, std::uint64_t rawBytes, std::uint64_t fileBytes,
                              double mostOfAByte) {
    constexpr double forSmallPictures = 1 << 16;
    if (static_cast<double>(rawBytes) <= static_cast<double>(fileBytes) * mostOfAByte + forSmallPictures) return {};
    return damaged(what, "is far too small to hold the picture it describes");
}

bool Reading::goOn(double part) const {
    if (progress) progress(part);
    return !cancel.cancelled();
}

tl::unexpected<base::Error> damaged(std::string_view what, std::string_view how) {
    return base::fail(ErrorCode::damaged, "",
                      "The " + std::string(what) + " file is damaged: it " + std::string(how) + ".");
}

tl::unexpected<base::Error> unsupported(std::string_view what, std::string_view how) {
    return base::fail(ErrorCode::unsupported, "",
                      "The " + std::string(what) + " file " + std::string(how) + ", which the program does not read.");
}

tl::unexpected<base::Error> stopped() {
    return base::fail(ErrorCode::cancelled, "", "Reading was stopped.");
}

}  // namespace dimhem::io
