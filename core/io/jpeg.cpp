#include "core/io/jpeg.h"

#include <algorithm>
#include <cerrno>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <memory>

#include "core/io/inks.h"
#include "core/io/jpeg_metadata.h"

extern "C" {
#include <jerror.h>
}

namespace dimhem::io {

namespace {

using base::Result;

// libjpeg reports through a callback that must not return; an exception carries the reason past its plain C frames.
struct JpegFailure {
    int code;
    std::string words;
};
struct Stopped {};
struct TooManyScans {};

[[noreturn]] void raise(j_common_ptr info) {
    char words[JMSG_LENGTH_MAX];
    info->err->format_message(info, words);
    throw JpegFailure{info->err->msg_code, words};
}

void ignoreMessage(j_common_ptr) {}

// Progressive files store the picture in a dozen scans or so; each asks for a walk over all of it.
constexpr int mostScans = 100;

class Reader {
public:
    Reader(Bytes bytes, const Reading& reading) : reading_(reading) {
        info.err = jpeg_std_error(&errors_);
        errors_.error_exit = raise;
        errors_.output_message = ignoreMessage;
        errors_.emit_message = noteMessage;
        jpeg_create_decompress(&info);
        info.client_data = this;
        jpeg_mem_src(&info, bytes.data(), bytes.size());
        jpeg_save_markers(&info, JPEG_APP0 + 2, 0xffff);  // where a colour profile is
        progress_.progress_monitor = watch;
        info.progress = &progress_;
    }
    ~Reader() { jpeg_destroy_decompress(&info); }
    Reader(const Reader&) = delete;

    jpeg_decompress_struct info{};
    bool hasNoEnd = false;   // the end marker was not there
    bool lacksData = false;  // nor, so far, some of the picture
    bool isOdd = false;      // some of the data contradicts itself

    const Reading& reading() const { return reading_; }

private:
    static Reader& self(j_common_ptr info) { return *static_cast<Reader*>(info->client_data); }

    static void noteMessage(j_common_ptr info, int level) {
        if (level >= 0) return;  // a trace, not a warning
        ++info->err->num_warnings;
        Reader& reader = self(info);
        switch (info->err->msg_code) {
            case JWRN_JPEG_EOF: reader.hasNoEnd = true; break;
            case JWRN_EXTRANEOUS_DATA: break;  // stray bytes before a marker harm nothing
            case JWRN_HIT_MARKER: (reader.hasNoEnd ? reader.lacksData : reader.isOdd) = true; break;
            default: reader.isOdd = true;
        }
    }

    static void watch(j_common_ptr common) {
        const auto* info = reinterpret_cast<j_decompress_ptr>(common);
        if (info->input_scan_number > mostScans) throw TooManyScans();
        const jpeg_progress_mgr& passes = *common->progress;
        const double done = passes.completed_passes + static_cast<double>(passes.pass_counter) /
                                                          static_cast<double>(std::max(passes.pass_limit, 1L));
        if (!self(common).reading_.goOn(done / std::max(passes.total_passes, 1))) throw Stopped();
    }

    const Reading& reading_;
    jpeg_error_mgr errors_{};
    jpeg_progress_mgr progress_{};
};

// At least one bit of a file stands for each block of 8 x 8 pixels, unless it is coded arithmetically.
constexpr double mostPixelsOfAByte = 8 * 64;

Result<void> checkHeader(const jpeg_decompress_struct& info, std::size_t fileBytes, const Reading& reading) {
    const bool inks = info.num_components == 4;
    const int channels = info.jpeg_color_space == JCS_GRAYSCALE ? 1 : 3;
    // Several scans are kept as coefficients of 16 bits until the last is read.
    const bool whole = info.progressive_mode || info.arith_code;
    const image::SampleType largest = inks    ? image::SampleType::f32
                                      : whole ? image::SampleType::u16
                                              : image::SampleType::u8;
    if (auto fits = checkSize("JPEG", info.image_width, info.image_height, channels, largest, fileBytes, reading);
        !fits)
        return fits;
    if (info.jpeg_color_space == JCS_UNKNOWN) return unsupported("JPEG", "has an uncommon number of colours");
    if (info.arith_code) return {};
    return checkHolds("JPEG", std::uint64_t{info.image_width} * info.image_height, fileBytes, mostPixelsOfAByte);
}

// Decodes row y to where place(y) says, then calls after(y). The first row that lacks data, or the height.
template <class Place, class After>
int readRows(Reader& reader, Place place, After after) {
    jpeg_decompress_struct& info = reader.info;
    const int height = static_cast<int>(info.output_height);
    int firstMissing = height;
    for (int y = 0; y < height; ++y) {
        JSAMPROW to = place(y);
        jpeg_read_scanlines(&info, &to, 1);
        if (reader.lacksData) firstMissing = std::min(firstMissing, y);
        after(y);
    }
    return firstMissing;
}

int readInks(Reader& reader, image::Photo& photo) {
    const Inks light(photo.profile, photo.warnings);
    photo.profile.clear();
    photo.linear = true;
    std::vector<JSAMPLE> row(std::size_t{reader.info.output_width} * 4);
    std::vector<float> inks(row.size());
    // Files with this marker store bare paper as 255 (libjpeg's notes on CMYK; common practice).
    const bool inverted = reader.info.saw_Adobe_marker;
    const auto convert = [&](int y) {
        std::transform(row.begin(), row.end(), inks.begin(),
                       [inverted](JSAMPLE v) { return static_cast<float>(inverted ? 255 - v : v) / 255.0f; });
        light.row(inks.data(), reinterpret_cast<float*>(photo.samples.row(y)), reader.info.output_width);
    };
    return readRows(
        reader, [&](int) { return row.data(); }, convert);
}

std::vector<std::uint8_t> profileOf(jpeg_decompress_struct& info) {
    JOCTET* data = nullptr;
    unsigned length = 0;
    if (!jpeg_read_icc_profile(&info, &data, &length)) return {};
    const std::unique_ptr<JOCTET, void (*)(void*)> owned(data, std::free);
    return {data, data + length};
}

using DenominatorFor = unsigned (*)(const jpeg_decompress_struct& info, int longSidePx);

void start(jpeg_decompress_struct& info, unsigned denominator) {
    info.out_color_space = info.num_components == 4                 ? JCS_CMYK
                           : info.jpeg_color_space == JCS_GRAYSCALE ? JCS_GRAYSCALE
                                                                    : JCS_RGB;
    info.scale_denom = denominator;
    jpeg_start_decompress(&info);
}

// What the reader came across, in sentences; an error where nothing of the picture is there.
Result<void> sayWhatIsMissing(const Reader& reader, int firstMissing, bool severalScans, image::Photo& photo) {
    const int height = photo.size().height;
    if (firstMissing == 0 && !severalScans) return damaged("JPEG", "ends before the picture begins");
    if (reader.lacksData && severalScans) {
        photo.warnings.push_back("The JPEG file ends too early; its picture lacks detail or some of its rows.");
    } else if (reader.lacksData) {
        photo.warnings.push_back("The JPEG file ends too early; of " + std::to_string(height) + " rows, those from " +
                                 std::to_string(firstMissing + 1) + " on are missing.");
    } else if (reader.hasNoEnd) {
        photo.warnings.push_back("The JPEG file has no end marker; its picture is whole.");
    }
    if (reader.isOdd)
        photo.warnings.push_back("Part of the JPEG file is damaged; the picture may have stripes or wrong colours.");
    return {};
}

Result<Decoded> decode(Reader& reader, Bytes bytes, DenominatorFor denominatorFor, int longSidePx) {
    jpeg_decompress_struct& info = reader.info;
    jpeg_read_header(&info, TRUE);
    if (auto ok = checkHeader(info, bytes.size(), reader.reading()); !ok) return tl::unexpected(ok.error());
    Decoded out;
    image::Photo& photo = out.photo;
    photo.format = "JPEG";
    photo.profile = profileOf(info);
    start(info, denominatorFor(info, longSidePx));
    const bool severalScans = jpeg_has_multiple_scans(&info);
    const bool inks = info.output_components == 4;
    photo.samples =
        image::Samples({static_cast<int>(info.output_width), static_cast<int>(info.output_height)},
                       inks ? 3 : info.output_components, inks ? image::SampleType::f32 : image::SampleType::u8);
    const auto place = [&](int y) { return reinterpret_cast<JSAMPLE*>(photo.samples.row(y)); };
    const int firstMissing = inks ? readInks(reader, photo) : readRows(reader, place, [](int) {});
    jpeg_finish_decompress(&info);
    if (auto ok = sayWhatIsMissing(reader, firstMissing, severalScans, photo); !ok) return tl::unexpected(ok.error());
    return out;
}

Result<Decoded> readScaled(Bytes bytes, const Reading& reading, DenominatorFor denominatorFor, int longSidePx) {
    Reader reader(bytes, reading);
    try {
        return decode(reader, bytes, denominatorFor, longSidePx);
    } catch (const JpegFailure& failure) {
        switch (failure.code) {
            case JERR_SOF_UNSUPPORTED: return unsupported("JPEG", "is compressed in an uncommon way");
            case JERR_BAD_PRECISION: return unsupported("JPEG", "has more than 8 bits a sample");
            case JERR_OUT_OF_MEMORY:
                return base::fail(base::ErrorCode::outOfMemory, "", "There is not enough memory for this JPEG file.");
            default: return damaged("JPEG", "cannot be decoded (" + failure.words + ")");
        }
    } catch (const TooManyScans&) {
        return unsupported("JPEG", "is stored in more than " + std::to_string(mostScans) + " scans");
    } catch (const Stopped&) {
        return stopped();
    }
}

bool matches(Bytes b) {
    return b.size() >= 3 && b[0] == 0xff && b[1] == 0xd8 && b[2] == 0xff;
}

Result<Decoded> read(Bytes bytes, const Reading& reading) {
    return readScaled(
        bytes, reading, [](const jpeg_decompress_struct&, int) { return 1u; }, 0);
}

Result<Decoded> readSmall(Bytes bytes, const Reading& reading, int longSidePx) {
    const auto denominatorFor = [](const jpeg_decompress_struct& info, int longSide) {
        const auto larger = static_cast<int>(std::max(info.image_width, info.image_height));
        for (const unsigned denominator : {8u, 4u, 2u}) {
            if (larger / static_cast<int>(denominator) >= longSide) return denominator;
        }
        return 1u;
    };
    return readScaled(bytes, reading, denominatorFor, longSidePx);
}

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
    if (picture.size.width > JPEG_MAX_DIMENSION || picture.size.height > JPEG_MAX_DIMENSION) {
        return base::fail(base::ErrorCode::unsupported, "",
                          "JPEG holds sides of up to " + std::to_string(JPEG_MAX_DIMENSION) +
                              " pixels, and the picture is larger; write it as TIFF or PNG.");
    }
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
        if (failure.code == JERR_FILE_WRITE || errno) return file.failure(errno ? errno : EIO);
        return base::fail(base::ErrorCode::unsupported, "",
                          "The picture could not be written as JPEG: " + failure.words + ".");
    }
    return notes;
}

constexpr std::string_view extensions[] = {"jpg", "jpeg", "jpe"};
constexpr image::SampleType depths[] = {image::SampleType::u8};

}  // namespace

const Format jpeg = {
    .name = "JPEG",
    .extensions = extensions,
    .matches = matches,
    .read = read,
    .readSmall = readSmall,
    .write = write,
    .depths = depths,
};

}  // namespace dimhem::io
