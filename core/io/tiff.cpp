#include "core/io/tiff.h"

#include <tiffio.h>
#include <unistd.h>

#include <algorithm>
#include <cerrno>
#include <cstring>
#include <memory>

#include "core/io/tiff_metadata.h"
#include "core/io/tiff_reading.h"

namespace dimhem::io {

namespace {

using base::Result;
using image::SampleType;

// Files of the classic kind end at 4 GB; what is larger before it is compressed is written as BigTIFF.
constexpr std::size_t mostClassicBytes = std::size_t{3900} << 20;
constexpr int deflate = 8;  // zlib compression as registered for TIFF (Technical Note 2, 2002)

// libtiff prints its complaints by default; ours come as sentences from the calls that fail.
int keepQuiet(TIFF*, void*, const char*, const char*, va_list) {
    return 1;
}

struct Close {
    void operator()(TIFF* tiff) const { TIFFClose(tiff); }
};
using Handle = std::unique_ptr<TIFF, Close>;

Handle openFor(int fd, bool big) {
    const std::unique_ptr<TIFFOpenOptions, void (*)(TIFFOpenOptions*)> options(TIFFOpenOptionsAlloc(),
                                                                               TIFFOpenOptionsFree);
    TIFFOpenOptionsSetErrorHandlerExtR(options.get(), keepQuiet, nullptr);
    TIFFOpenOptionsSetWarningHandlerExtR(options.get(), keepQuiet, nullptr);
    return Handle(TIFFFdOpenExt(fd, "picture", big ? "w8" : "w", options.get()));
}

bool matches(Bytes b) {
    if (b.size() < 4) return false;
    const bool little = b[0] == 'I' && b[1] == 'I' && (b[2] == 42 || b[2] == 43) && b[3] == 0;
    const bool big = b[0] == 'M' && b[1] == 'M' && b[2] == 0 && (b[3] == 42 || b[3] == 43);
    return little || big;
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
    const Handle tiff = fd < 0 ? nullptr : openFor(fd, big);
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

const Format tiff = {
    .name = "TIFF",
    .extensions = extensions,
    .matches = matches,
    .read = readTiff,
    .write = write,
    .depths = depths,
    .alpha = true,
};

}  // namespace dimhem::io
