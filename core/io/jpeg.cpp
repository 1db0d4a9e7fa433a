#include "core/io/jpeg.h"

#include <turbojpeg.h>

#include <algorithm>
#include <memory>

namespace dimhem::io {

namespace {

using base::Result;

struct Destroy {
    void operator()(void* handle) const { tjDestroy(handle); }
};
using Handle = std::unique_ptr<void, Destroy>;

struct Header {
    int width = 0, height = 0, subsampling = 0, colourspace = 0;
    bool grey() const { return colourspace == TJCS_GRAY; }
};

Result<Header> readHeader(tjhandle handle, Bytes bytes) {
    Header header;
    if (tjDecompressHeader3(handle, bytes.data(), bytes.size(), &header.width, &header.height, &header.subsampling,
                            &header.colourspace) != 0) {
        return damaged("JPEG", "ends before the picture begins, or its beginning is not valid");
    }
    if (header.colourspace == TJCS_CMYK || header.colourspace == TJCS_YCCK) {
        return unsupported("JPEG", "holds printing inks (CMYK)");
    }
    return header;
}

// Decodes at 1/1 or at one of the library's reduced scales.
Result<image::Photo> decode(Bytes bytes, const std::function<tjscalingfactor(const Header&)>& scaleFor) {
    const Handle handle(tjInitDecompress());
    const auto header = readHeader(handle.get(), bytes);
    if (!header) return tl::unexpected(header.error());
    const int channels = header->grey() ? 1 : 3;
    if (auto fits = checkSize("JPEG", header->width, header->height, channels, image::SampleType::u8); !fits) {
        return tl::unexpected(fits.error());
    }
    const tjscalingfactor scale = scaleFor(*header);
    image::Photo photo;
    photo.format = "JPEG";
    photo.samples = image::Samples({TJSCALED(header->width, scale), TJSCALED(header->height, scale)}, channels,
                                   image::SampleType::u8);
    const base::Size size = photo.size();
    if (tjDecompress2(handle.get(), bytes.data(), bytes.size(), reinterpret_cast<unsigned char*>(photo.samples.row(0)),
                      size.width, static_cast<int>(photo.samples.rowBytes()), size.height,
                      header->grey() ? TJPF_GRAY : TJPF_RGB, 0) != 0) {
        return damaged("JPEG", "ends too early or part of its picture cannot be decoded");
    }
    return photo;
}

bool matches(Bytes b) {
    return b.size() >= 3 && b[0] == 0xff && b[1] == 0xd8 && b[2] == 0xff;
}

Result<image::Photo> read(Bytes bytes) {
    return decode(bytes, [](const Header&) { return tjscalingfactor{1, 1}; });
}

Result<image::Photo> readSmall(Bytes bytes, int longSidePx) {
    return decode(bytes, [longSidePx](const Header& header) {
        for (const int denominator : {8, 4, 2}) {
            if (std::max(header.width, header.height) / denominator >= longSidePx)
                return tjscalingfactor{1, denominator};
        }
        return tjscalingfactor{1, 1};
    });
}

Result<void> write(PendingFile& file, const Picture& picture) {
    image::Samples samples(picture.size, picture.channels, picture.type);
    for (int y = 0; y < picture.size.height; y += bandRows) {
        const int end = std::min(y + bandRows, picture.size.height);
        if (auto ok = picture.rows(y, end, samples.row(y)); !ok) return ok;
    }
    const Handle handle(tjInitCompress());
    unsigned char* out = nullptr;
    unsigned long size = 0;
    const bool grey = picture.channels == 1;
    // Full colour resolution at high quality, where halving it would show on thin coloured edges.
    const int subsampling = grey ? TJSAMP_GRAY : picture.quality >= 95 ? TJSAMP_444 : TJSAMP_420;
    const int failed = tjCompress2(handle.get(), reinterpret_cast<const unsigned char*>(samples.row(0)),
                                   picture.size.width, static_cast<int>(samples.rowBytes()), picture.size.height,
                                   grey ? TJPF_GRAY : TJPF_RGB, &out, &size, subsampling, picture.quality, 0);
    const std::unique_ptr<unsigned char, void (*)(unsigned char*)> owned(out, tjFree);
    if (failed) {
        return base::fail(
            base::ErrorCode::unsupported, "",
            "The picture could not be written as JPEG: " + std::string(tjGetErrorStr2(handle.get())) + ".");
    }
    return file.write({out, size});
}

constexpr std::string_view extensions[] = {"jpg", "jpeg", "jpe"};
constexpr image::SampleType depths[] = {image::SampleType::u8};

}  // namespace

const Format jpeg = {"JPEG", extensions, matches, read, readSmall, write, false, depths, false};

}  // namespace dimhem::io
