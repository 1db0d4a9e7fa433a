#include "core/io/tiff.h"

#include <tiffio.h>
#include <unistd.h>

#include <algorithm>
#include <cerrno>
#include <cstring>
#include <memory>

#include "core/io/tiff_metadata.h"

namespace dimhem::io {

namespace {

using base::Result;
using image::SampleType;

// Files of the classic kind end at 4 GB; what is larger before it is compressed is written as BigTIFF.
constexpr std::size_t mostClassicBytes = std::size_t{3900} << 20;
constexpr int deflate = 8;  // zlib compression as registered for TIFF (Technical Note 2, 2002)

struct Input {
    Bytes bytes;
    std::size_t at = 0;
};

tmsize_t readInput(thandle_t handle, void* to, tmsize_t count) {
    auto& input = *static_cast<Input*>(handle);
    const std::size_t n =
        std::min(static_cast<std::size_t>(count), input.bytes.size() - std::min(input.at, input.bytes.size()));
    std::memcpy(to, input.bytes.data() + input.at, n);
    input.at += n;
    return static_cast<tmsize_t>(n);
}

toff_t seekInput(thandle_t handle, toff_t offset, int whence) {
    auto& input = *static_cast<Input*>(handle);
    const toff_t base = whence == SEEK_CUR ? input.at : whence == SEEK_END ? input.bytes.size() : 0;
    input.at = static_cast<std::size_t>(std::min<toff_t>(base + offset, input.bytes.size()));
    return input.at;
}

tmsize_t writeNothing(thandle_t, void*, tmsize_t) {
    return 0;
}

int closeNothing(thandle_t) {
    return 0;
}

toff_t sizeOfInput(thandle_t handle) {
    return static_cast<Input*>(handle)->bytes.size();
}

struct Close {
    void operator()(TIFF* tiff) const { TIFFClose(tiff); }
};
using Handle = std::unique_ptr<TIFF, Close>;

// libtiff prints its complaints by default; ours come as sentences from the calls that fail.
[[maybe_unused]] const bool quiet = [] {
    TIFFSetErrorHandler(nullptr);
    TIFFSetWarningHandler(nullptr);
    return true;
}();

struct Layout {
    std::uint32_t width = 0, height = 0;
    std::uint16_t bits = 8, channels = 1, sampleFormat = SAMPLEFORMAT_UINT, photometric = PHOTOMETRIC_MINISBLACK;
    std::uint16_t planar = PLANARCONFIG_CONTIG;

    bool plainColours() const { return photometric == PHOTOMETRIC_RGB || photometric == PHOTOMETRIC_MINISBLACK; }
    std::optional<SampleType> type() const {
        if (!plainColours() || channels < 1 || channels > 4) return std::nullopt;
        if (photometric == PHOTOMETRIC_RGB && channels < 3) return std::nullopt;
        if (sampleFormat == SAMPLEFORMAT_IEEEFP) return bits == 32 ? std::optional(SampleType::f32) : std::nullopt;
        if (sampleFormat != SAMPLEFORMAT_UINT) return std::nullopt;
        return bits == 8 ? std::optional(SampleType::u8) : bits == 16 ? std::optional(SampleType::u16) : std::nullopt;
    }
};

Layout layoutOf(TIFF* tiff) {
    Layout layout;
    TIFFGetField(tiff, TIFFTAG_IMAGEWIDTH, &layout.width);
    TIFFGetField(tiff, TIFFTAG_IMAGELENGTH, &layout.height);
    TIFFGetFieldDefaulted(tiff, TIFFTAG_BITSPERSAMPLE, &layout.bits);
    TIFFGetFieldDefaulted(tiff, TIFFTAG_SAMPLESPERPIXEL, &layout.channels);
    TIFFGetFieldDefaulted(tiff, TIFFTAG_SAMPLEFORMAT, &layout.sampleFormat);
    TIFFGetFieldDefaulted(tiff, TIFFTAG_PLANARCONFIG, &layout.planar);
    TIFFGetField(tiff, TIFFTAG_PHOTOMETRIC, &layout.photometric);
    return layout;
}

// Copies what one strip or tile holds into the picture: `plane` of a planar file, or all channels.
struct Piece {
    std::uint32_t x, y, width, height, rowPixels;
};

void place(const std::byte* from, const Piece& piece, int plane, bool planar, image::Samples& to) {
    const std::size_t sample = image::bytesOf(to.type());
    const std::size_t width = std::min<std::size_t>(piece.width, static_cast<std::size_t>(to.size().width) - piece.x);
    const std::size_t height =
        std::min<std::size_t>(piece.height, static_cast<std::size_t>(to.size().height) - piece.y);
    for (std::size_t y = 0; y < height; ++y) {
        std::byte* row = to.row(static_cast<int>(piece.y + y)) + to.pixelBytes() * piece.x;
        if (!planar) {
            std::memcpy(row, from + y * piece.rowPixels * to.pixelBytes(), width * to.pixelBytes());
            continue;
        }
        const std::byte* source = from + y * piece.rowPixels * sample;
        for (std::size_t x = 0; x < width; ++x) {
            std::memcpy(row + x * to.pixelBytes() + static_cast<std::size_t>(plane) * sample, source + x * sample,
                        sample);
        }
    }
}

Result<void> readPieces(TIFF* tiff, const Layout& layout, image::Samples& samples) {
    const bool tiled = TIFFIsTiled(tiff) != 0;
    const bool planar = layout.planar == PLANARCONFIG_SEPARATE && layout.channels > 1;
    std::uint32_t width = layout.width, height = layout.height;
    if (tiled) {
        TIFFGetField(tiff, TIFFTAG_TILEWIDTH, &width);
        TIFFGetField(tiff, TIFFTAG_TILELENGTH, &height);
    } else {
        TIFFGetFieldDefaulted(tiff, TIFFTAG_ROWSPERSTRIP, &height);
        height = std::min(height, layout.height);
    }
    const tmsize_t bytes = tiled ? TIFFTileSize(tiff) : TIFFStripSize(tiff);
    const std::size_t wanted =
        std::size_t{width} * height * (planar ? image::bytesOf(samples.type()) : samples.pixelBytes());
    if (width == 0 || height == 0 || bytes <= 0 || static_cast<std::size_t>(bytes) < wanted ||
        wanted > samples.bytes() * 4 + (64u << 20)) {
        return damaged("TIFF", "has strips or tiles of an impossible size");
    }
    std::vector<std::byte> buffer(static_cast<std::size_t>(bytes));
    const int planes = planar ? layout.channels : 1;
    for (int plane = 0; plane < planes; ++plane) {
        for (std::uint32_t y = 0; y < layout.height; y += height) {
            for (std::uint32_t x = 0; x < layout.width; x += width) {
                const auto sample = static_cast<std::uint16_t>(plane);
                const std::uint32_t index =
                    tiled ? TIFFComputeTile(tiff, x, y, 0, sample) : TIFFComputeStrip(tiff, y, sample);
                const std::uint32_t rows = tiled ? height : std::min(height, layout.height - y);
                const tmsize_t needed = static_cast<tmsize_t>(wanted / height * rows);
                const tmsize_t got = tiled ? TIFFReadEncodedTile(tiff, index, buffer.data(), bytes)
                                           : TIFFReadEncodedStrip(tiff, index, buffer.data(), needed);
                if (got < needed) return damaged("TIFF", "ends too early or part of its picture cannot be decoded");
                place(buffer.data(), {x, y, width, rows, width}, plane, planar, samples);
            }
        }
    }
    return {};
}

// Palettes, YCbCr and the like, through libtiff's own conversion to 8-bit RGBA.
Result<image::Samples> readConverted(TIFF* tiff, const Layout& layout) {
    char reason[1024] = {};
    if (layout.bits > 8 || !TIFFRGBAImageOK(tiff, reason))
        return unsupported("TIFF", "stores its colours in an uncommon way");
    std::vector<std::uint32_t> raster(std::size_t{layout.width} * layout.height);
    if (!TIFFReadRGBAImageOriented(tiff, layout.width, layout.height, raster.data(), ORIENTATION_TOPLEFT, 1)) {
        return damaged("TIFF", "ends too early or part of its picture cannot be decoded");
    }
    image::Samples samples({static_cast<int>(layout.width), static_cast<int>(layout.height)}, 3, SampleType::u8);
    auto* to = reinterpret_cast<std::uint8_t*>(samples.row(0));
    for (const std::uint32_t pixel : raster) {
        *to++ = static_cast<std::uint8_t>(TIFFGetR(pixel));
        *to++ = static_cast<std::uint8_t>(TIFFGetG(pixel));
        *to++ = static_cast<std::uint8_t>(TIFFGetB(pixel));
    }
    return samples;
}

bool matches(Bytes b) {
    if (b.size() < 4) return false;
    const bool little = b[0] == 'I' && b[1] == 'I' && (b[2] == 42 || b[2] == 43) && b[3] == 0;
    const bool big = b[0] == 'M' && b[1] == 'M' && b[2] == 0 && (b[3] == 42 || b[3] == 43);
    return little || big;
}

Result<image::Photo> read(Bytes bytes) {
    Input input{bytes};
    const Handle tiff(TIFFClientOpen("photo", "rm", &input, readInput, writeNothing, seekInput, closeNothing,
                                     sizeOfInput, nullptr, nullptr));
    if (!tiff) return damaged("TIFF", "has no valid beginning");
    const Layout layout = layoutOf(tiff.get());
    if (auto fits = checkSize("TIFF", layout.width, layout.height, 4, SampleType::f32); !fits)
        return tl::unexpected(fits.error());
    image::Photo photo;
    photo.format = "TIFF";
    if (const auto type = layout.type()) {
        photo.samples =
            image::Samples({static_cast<int>(layout.width), static_cast<int>(layout.height)}, layout.channels, *type);
        if (auto ok = readPieces(tiff.get(), layout, photo.samples); !ok) return tl::unexpected(ok.error());
    } else {
        auto samples = readConverted(tiff.get(), layout);
        if (!samples) return tl::unexpected(samples.error());
        photo.samples = std::move(*samples);
    }
    std::uint32_t length = 0;
    void* profile = nullptr;
    if (TIFFGetField(tiff.get(), TIFFTAG_ICCPROFILE, &length, &profile) && profile) {
        const auto* data = static_cast<const std::uint8_t*>(profile);
        photo.profile.assign(data, data + length);
    }
    return photo;
}

void describe(TIFF* tiff, const Picture& picture) {
    TIFFSetField(tiff, TIFFTAG_IMAGEWIDTH, static_cast<std::uint32_t>(picture.size.width));
    TIFFSetField(tiff, TIFFTAG_IMAGELENGTH, static_cast<std::uint32_t>(picture.size.height));
    TIFFSetField(tiff, TIFFTAG_SAMPLESPERPIXEL, picture.channels);
    TIFFSetField(tiff, TIFFTAG_BITSPERSAMPLE, static_cast<int>(8 * image::bytesOf(picture.type)));
    TIFFSetField(tiff, TIFFTAG_SAMPLEFORMAT, picture.type == SampleType::f32 ? SAMPLEFORMAT_IEEEFP : SAMPLEFORMAT_UINT);
    TIFFSetField(tiff, TIFFTAG_PHOTOMETRIC, picture.channels <= 2 ? PHOTOMETRIC_MINISBLACK : PHOTOMETRIC_RGB);
    TIFFSetField(tiff, TIFFTAG_PLANARCONFIG, PLANARCONFIG_CONTIG);
    TIFFSetField(tiff, TIFFTAG_ORIENTATION, ORIENTATION_TOPLEFT);
    TIFFSetField(tiff, TIFFTAG_COMPRESSION, deflate);
    TIFFSetField(tiff, TIFFTAG_ZIPQUALITY, 1);
    TIFFSetField(tiff, TIFFTAG_PREDICTOR,
                 picture.type == SampleType::f32 ? PREDICTOR_FLOATINGPOINT : PREDICTOR_HORIZONTAL);
    TIFFSetField(tiff, TIFFTAG_ROWSPERSTRIP, bandRows);
    if (picture.channels % 2 == 0) {
        const std::uint16_t extra = EXTRASAMPLE_UNASSALPHA;
        TIFFSetField(tiff, TIFFTAG_EXTRASAMPLES, 1, &extra);
    }
    if (!picture.profile.empty()) {
        TIFFSetField(tiff, TIFFTAG_ICCPROFILE, static_cast<std::uint32_t>(picture.profile.size()),
                     picture.profile.data());
    }
}

Result<void> writeStrips(TIFF* tiff, const PendingFile& file, const Picture& picture, std::size_t rowBytes) {
    std::vector<std::byte> band(rowBytes * bandRows);
    std::uint32_t strip = 0;
    for (int y = 0; y < picture.size.height; y += bandRows, ++strip) {
        const int end = std::min(y + bandRows, picture.size.height);
        if (auto ok = picture.rows(y, end, band.data()); !ok) return ok;
        errno = 0;
        if (TIFFWriteEncodedStrip(tiff, strip, band.data(),
                                  static_cast<tmsize_t>(rowBytes * static_cast<std::size_t>(end - y))) < 0) {
            return file.failure(errno ? errno : EIO);
        }
    }
    return {};
}

Result<Notes> write(PendingFile& file, const Picture& picture) {
    errno = 0;
    const std::size_t rowBytes = static_cast<std::size_t>(picture.size.width) *
                                 static_cast<std::size_t>(picture.channels) * image::bytesOf(picture.type);
    const bool big = rowBytes * static_cast<std::size_t>(picture.size.height) > mostClassicBytes;
    const int fd = ::dup(::fileno(file.stream()));
    const Handle tiff(fd < 0 ? nullptr : TIFFFdOpen(fd, "picture", big ? "w8" : "w"));
    if (!tiff) return file.failure(errno ? errno : EIO);
    Notes notes;
    describe(tiff.get(), picture);
    describeTiff(tiff.get(), picture.metadata, notes);
    if (auto strips = writeStrips(tiff.get(), file, picture, rowBytes); !strips) return tl::unexpected(strips.error());
    errno = 0;
    const bool whole = appendTiffExif(tiff.get(), picture.metadata, notes) && TIFFFlush(tiff.get());
    if (!whole) return file.failure(errno ? errno : EIO);
    return notes;
}

constexpr std::string_view extensions[] = {"tif", "tiff"};
constexpr SampleType depths[] = {SampleType::u8, SampleType::u16, SampleType::f32};

}  // namespace

const Format tiff = {"TIFF", extensions, matches, read, nullptr, write, depths, true};

}  // namespace dimhem::io
