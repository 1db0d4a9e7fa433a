#include "core/io/jpeg.h"

#include <turbojpeg.h>

#include <algorithm>
#include <cerrno>
#include <cstdio>
#include <memory>

#include "core/io/jpeg_metadata.h"

extern "C" {
#include <jerror.h>
}

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

// libjpeg reports through a callback that must not return; an exception carries the reason past its plain C frames.
struct JpegFailure {
    bool whileWriting;
    std::string words;
};

[[noreturn]] void raise(j_common_ptr info) {
    char words[JMSG_LENGTH_MAX];
    info->err->format_message(info, words);
    throw JpegFailure{info->err->msg_code == JERR_FILE_WRITE, words};
}

void ignoreMessage(j_common_ptr) {}

class Writer {
public:
    explicit Writer(std::FILE* stream) {
        info.err = jpeg_std_error(&errors_);
        errors_.error_exit = raise;
        errors_.output_message = ignoreMessage;
        jpeg_create_compress(&info);
        jpeg_stdio_dest(&info, stream);
    }
    ~Writer() { jpeg_destroy_compress(&info); }
    Writer(const Writer&) = delete;

    jpeg_compress_struct info{};

private:
    jpeg_error_mgr errors_{};
};

void describe(jpeg_compress_struct& info, const Picture& picture) {
    const bool grey = picture.channels == 1;
    info.image_width = static_cast<JDIMENSION>(picture.size.width);
    info.image_height = static_cast<JDIMENSION>(picture.size.height);
    info.input_components = grey ? 1 : 3;
    info.in_color_space = grey ? JCS_GRAYSCALE : JCS_RGB;
    jpeg_set_defaults(&info);
    jpeg_set_quality(&info, picture.quality, TRUE);
    // Full colour resolution at high quality, where halving it would show on thin coloured edges.
    const int halved = !grey && picture.quality < 95 ? 2 : 1;
    info.comp_info[0].h_samp_factor = info.comp_info[0].v_samp_factor = halved;
}

void writeRows(jpeg_compress_struct& info, const Picture& picture, std::vector<std::byte>& band, Result<void>& failed) {
    const std::size_t rowBytes =
        static_cast<std::size_t>(picture.size.width) * static_cast<std::size_t>(picture.channels);
    for (int y = 0; y < picture.size.height; y += bandRows) {
        const int end = std::min(y + bandRows, picture.size.height);
        failed = picture.rows(y, end, band.data());
        if (!failed) return;
        for (int row = y; row < end; ++row) {
            auto* samples = reinterpret_cast<JSAMPROW>(band.data() + rowBytes * static_cast<std::size_t>(row - y));
            jpeg_write_scanlines(&info, &samples, 1);
        }
    }
}

Result<Notes> write(PendingFile& file, const Picture& picture) {
    std::vector<std::byte> band(static_cast<std::size_t>(picture.size.width) *
                                static_cast<std::size_t>(picture.channels) * bandRows);
    Notes notes;
    Result<void> rows;
    errno = 0;
    try {
        Writer writer(file.stream());
        describe(writer.info, picture);
        jpeg_start_compress(&writer.info, TRUE);
        writeJpegMetadata(writer.info, picture.metadata, notes);
        if (!picture.profile.empty())
            jpeg_write_icc_profile(&writer.info, picture.profile.data(), static_cast<unsigned>(picture.profile.size()));
        writeRows(writer.info, picture, band, rows);
        if (!rows) return tl::unexpected(rows.error());
        jpeg_finish_compress(&writer.info);
    } catch (const JpegFailure& failure) {
        if (failure.whileWriting || errno) return file.failure(errno ? errno : EIO);
        return base::fail(base::ErrorCode::unsupported, "",
                          "The picture could not be written as JPEG: " + failure.words + ".");
    }
    return notes;
}

constexpr std::string_view extensions[] = {"jpg", "jpeg", "jpe"};
constexpr image::SampleType depths[] = {image::SampleType::u8};

}  // namespace

const Format jpeg = {"JPEG", extensions, matches, read, readSmall, write, depths, false};

}  // namespace dimhem::io
