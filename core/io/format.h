// A file format for photos: one file pair each, listed in registry.cpp.
//
// Readers get the whole file and never trust it: what it states is held against the bytes there are before anything is
// allocated, and memory is touched only as rows are decoded. What cannot be read comes back as an error with one
// sentence; what could be read, but not as the file has it, as a warning beside the photo. Writers pull the picture in
// bands of rows, so that it never has to exist as a whole.
#pragma once

#include <cstdint>
#include <functional>
#include <memory>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/cancel.h"
#include "core/base/error.h"
#include "core/base/found_store.h"
#include "core/base/memory_ceiling.h"
#include "core/image/photo.h"
#include "core/io/file_bytes.h"
#include "core/io/pending_file.h"

namespace dimhem::io {

using Bytes = std::span<const std::uint8_t>;

// The way a reader is stopped, says how far it has come, and is held to the program's memory. Readers ask at least
// every few dozen rows.
struct Reading {
    base::CancelToken cancel;
    std::function<void(double part)> progress;       // 0..1; may be null
    std::shared_ptr<base::MemoryCeiling> ceiling{};  // null: none
    std::shared_ptr<base::FoundStore> found{};       // of what masks find; null: nothing is kept

    // Says how far it is; false: stop, and give back stopped().
    bool goOn(double part) const;
};

// A photo as its format gives it, before it is turned upright.
struct Decoded {
    image::Photo photo;
    std::optional<int> orientation;  // 1..8 where the format's own fields say it, apart from Exif
};

// What is to be written, and where its rows come from.
struct Picture {
    base::Size size;
    int channels = 3;  // 1 grey, 2 grey and alpha, 3 RGB, 4 RGB and alpha (not premultiplied)
    image::SampleType type = image::SampleType::u8;
    std::vector<std::uint8_t> profile;  // ICC, to embed; empty: none
    image::Metadata metadata;           // to embed
    int quality = 92;                   // 1..100, for formats that lose
    // Fills rows [y0, y1), interleaved and packed. Asked for in order, from one thread.
    std::function<base::Result<void>(int y0, int y1, std::byte* rows)> rows;
};

inline constexpr int bandRows = 128;

// What of the metadata a file could not take, one sentence each.
using Notes = std::vector<std::string>;

struct Format {
    std::string_view name;                         // as shown: "JPEG"
    std::span<const std::string_view> extensions;  // lower case, the usual one first
    bool (*matches)(Bytes start);                  // by signature
    base::Result<Decoded> (*read)(Bytes bytes, const Reading& reading);
    // A small version, at least `longSidePx` long, much faster than read(); null where the format has no such way.
    base::Result<Decoded> (*readSmall)(Bytes bytes, const Reading& reading, int longSidePx) = nullptr;
    // Profile and metadata go in as well; metadata never keeps a picture from being written. Null: read only.
    base::Result<Notes> (*write)(PendingFile& file, const Picture& picture) = nullptr;
    std::span<const image::SampleType> depths = {};  // that can be written
    bool alpha = false;                              // can be written with alpha
};

// Holds the size against the limits of image/limits.h, and the memory that a picture of so many channels of this type
// takes against the bytes of its file, since a blank picture can be packed without bound, and no photo can; and what
// the program takes to work on it against its ceiling. `what` is the format's name.
base::Result<void> checkSize(std::string_view what, std::uint64_t width, std::uint64_t height, int channels,
                             image::SampleType type, std::uint64_t fileBytes, const Reading& reading);

// Whether a file of `fileBytes` can hold `rawBytes` of samples, where one byte of it makes at most `mostOfAByte`.
base::Result<void> checkHolds(std::string_view what, std::uint64_t rawBytes, std::uint64_t fileBytes,
                              double mostOfAByte);

// The most that one byte of deflated data makes: 258 bytes from a length and a distance code of one bit each
// (RFC 1951, 3.2.5).
inline constexpr double mostInflated = 1032;

tl::unexpected<base::Error> damaged(std::string_view what, std::string_view how);
tl::unexpected<base::Error> unsupported(std::string_view what, std::string_view how);
tl::unexpected<base::Error> stopped();

}  // namespace dimhem::io
