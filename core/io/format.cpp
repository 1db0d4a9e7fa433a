#include "core/io/format.h"

#include <algorithm>
#include <string>

#include "core/base/checked.h"
#include "core/image/limits.h"

namespace dimhem::io {

using base::ErrorCode;

namespace {

// The densest photos that are made, of bare sky in a progressive JPEG of low quality, come to a few hundred bytes of
// samples for a byte of the file; pictures of one bit for a mask to about a thousand.
constexpr std::uint64_t mostSamplesOfAByte = 2000;
constexpr std::uint64_t alwaysTaken = std::uint64_t{128} << 20;

tl::unexpected<base::Error> packsTooWell(std::string_view what, std::uint64_t pixels, std::uint64_t memory,
                                         std::uint64_t fileBytes) {
    return base::fail(ErrorCode::tooLarge, "",
                      "The " + std::string(what) + " file has " +
                          std::to_string(std::max(fileBytes >> 10, std::uint64_t{1})) + " KB for " +
                          std::to_string(pixels / 1'000'000) + " megapixels, which would fill " +
                          std::to_string(memory >> 20) + " MB of memory; no photo packs so well, so it is not read.");
}

// To open a picture and work on it: its samples, once more while they are turned upright, its coarser levels in half
// precision, and what is worked out for a view.
std::uint64_t neededFor(std::uint64_t pixels, std::uint64_t memory) {
    constexpr std::uint64_t levelBytesOfPixel = 2, forViews = std::uint64_t{160} << 20;
    return 2 * memory + levelBytesOfPixel * pixels + forViews;
}

tl::unexpected<base::Error> overCeiling(std::uint64_t pixels, std::uint64_t needed, std::uint64_t ceiling) {
    return base::fail(ErrorCode::outOfMemory, "",
                      "The picture has " + std::to_string(pixels / 1'000'000) + " megapixels and would need about " +
                          std::to_string(needed >> 20) + " MB more; the program may take " +
                          std::to_string(ceiling >> 20) + " MB in all, as set in the preferences.");
}

}  // namespace

base::Result<void> checkSize(std::string_view what, std::uint64_t width, std::uint64_t height, int channels,
                             image::SampleType type, std::uint64_t fileBytes, const Reading& reading) {
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
    const auto memory = base::checkedSize({width, height, static_cast<std::size_t>(channels), image::bytesOf(type)});
    if (!memory) return damaged(what, "says it has an impossible size");
    if (*memory > alwaysTaken && *memory / mostSamplesOfAByte > fileBytes)
        return packsTooWell(what, *pixels, *memory, fileBytes);
    const std::uint64_t needed = neededFor(*pixels, *memory);
    if (reading.ceiling && !reading.ceiling->hasRoomFor(needed))
        return overCeiling(*pixels, needed, reading.ceiling->bytes());
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
