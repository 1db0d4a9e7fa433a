#include "core/io/png.h"

#include <png.h>

#include <algorithm>
#include <bit>
#include <cerrno>
#include <cmath>
#include <cstdlib>
#include <cstring>
#include <memory>

#include "core/colour/icc.h"
#include "core/image/limits.h"
#include "core/io/iptc_block.h"
#include "core/io/metadata_marks.h"

namespace dimhem::io {

namespace {

using base::Result;

// libpng reports through a callback that must not return; an exception carries its words out of its loops, past
// nothing but plain C frames of the library.
struct PngFailure {
    std::string words;
};

[[noreturn]] void raise(png_structp, png_const_charp words) {
    throw PngFailure{words};
}

void ignoreWarning(png_structp, png_const_charp) {}

struct Input {
    Bytes bytes;
    std::size_t at = 0;
};

void readBytes(png_structp png, png_bytep to, std::size_t count) {
    auto& input = *static_cast<Input*>(png_get_io_ptr(png));
    if (count > input.bytes.size() - input.at) raise(png, "ends too early");
    std::memcpy(to, input.bytes.data() + input.at, count);
    input.at += count;
}

struct Reader {
    png_structp png = png_create_read_struct(PNG_LIBPNG_VER_STRING, nullptr, raise, ignoreWarning);
    png_infop info = png_create_info_struct(png);
    ~Reader() { png_destroy_read_struct(&png, &info, nullptr); }
};

struct Writer {
    png_structp png = png_create_write_struct(PNG_LIBPNG_VER_STRING, nullptr, raise, ignoreWarning);
    png_infop info = png_create_info_struct(png);
    ~Writer() { png_destroy_write_struct(&png, &info); }
};

bool matches(Bytes b) {
    return b.size() >= 8 && png_sig_cmp(b.data(), 0, 8) == 0;
}

// Palettes are looked up by us, since the library takes indexes beyond them for black without a word.
void askForPlainSamples(png_structp png, png_infop info) {
    const int colourType = png_get_color_type(png, info);
    if (colourType == PNG_COLOR_TYPE_PALETTE) {
        png_set_packing(png);
    } else {
        if (colourType == PNG_COLOR_TYPE_GRAY && png_get_bit_depth(png, info) < 8) png_set_expand_gray_1_2_4_to_8(png);
        if (png_get_valid(png, info, PNG_INFO_tRNS)) png_set_tRNS_to_alpha(png);
    }
    if (png_get_bit_depth(png, info) == 16 && std::endian::native == std::endian::little) png_set_swap(png);
}

class Palette {
public:
    Palette(png_structp png, png_infop info) {
        png_get_PLTE(png, info, &colours_, &count_);
        png_get_tRNS(png, info, &alpha_, &alphaCount_, nullptr);
    }
    int channels() const { return alphaCount_ > 0 ? 4 : 3; }

    // Replaces indexes by colours. False: some were beyond the palette, and are black.
    bool look(const std::uint8_t* indexes, std::uint8_t* to, std::size_t pixels) const {
        bool all = true;
        for (std::size_t x = 0; x < pixels; ++x) {
            const int index = indexes[x];
            all = all && index < count_;
            const png_color colour = index < count_ ? colours_[index] : png_color{0, 0, 0};
            *to++ = colour.red;
            *to++ = colour.green;
            *to++ = colour.blue;
            if (alphaCount_ > 0) *to++ = index < alphaCount_ ? alpha_[index] : 0xff;
        }
        return all;
    }

private:
    png_colorp colours_ = nullptr;
    int count_ = 0;
    png_bytep alpha_ = nullptr;
    int alphaCount_ = 0;
};

void readProfile(png_structp png, png_infop info, image::Photo& photo) {
    png_charp name = nullptr;
    png_bytep data = nullptr;
    png_uint_32 length = 0;
    int compression = 0;
    if (png_get_iCCP(png, info, &name, &compression, &data, &length) != 0) photo.profile.assign(data, data + length);
}

// gAMA and cHRM count where neither a profile nor sRGB is stated (PNG specification, third edition, 4.3).
void readStatedColours(png_structp png, png_infop info, image::Photo& photo) {
    double gamma = 0;
    const bool known = !photo.profile.empty() || png_get_valid(png, info, PNG_INFO_sRGB);
    if (known || png_get_gAMA(png, info, &gamma) == 0 || gamma <= 0) return;
    colour::StatedColours stated;
    stated.exponent = 1 / gamma;
    auto& [exponent, white, red, green, blue] = stated;
    const bool primaries =
        png_get_cHRM(png, info, &white.x, &white.y, &red.x, &red.y, &green.x, &green.y, &blue.x, &blue.y) != 0;
    if (!primaries) {
        white = colour::srgbWhite;
        red = colour::srgbRed;
        green = colour::srgbGreen;
        blue = colour::srgbBlue;
    }
    const auto near = [](colour::Chromaticity a, colour::Chromaticity b) {
        return std::abs(a.x - b.x) < 0.002 && std::abs(a.y - b.y) < 0.002;
    };
    constexpr double gammaOfSrgb = 0.45455;  // what writers of sRGB put there (the same, 11.3.2.5)
    if (std::abs(gamma - gammaOfSrgb) < 0.002 && near(white, colour::srgbWhite) && near(red, colour::srgbRed) &&
        near(green, colour::srgbGreen) && near(blue, colour::srgbBlue))
        return;
    photo.profile = colour::profileFrom(stated, photo.samples.colourChannels());
    if (photo.profile.empty())
        photo.warnings.push_back("What the PNG file says of its colours makes no sense; they are taken as sRGB.");
}

Result<void> readRows(const Reader& reader, const Reading& reading, image::Photo& photo) {
    const int passes = png_set_interlace_handling(reader.png);
    const bool indexed = png_get_color_type(reader.png, reader.info) == PNG_COLOR_TYPE_PALETTE;
    const Palette palette(reader.png, reader.info);
    png_read_update_info(reader.png, reader.info);
    const base::Size size{static_cast<int>(png_get_image_width(reader.png, reader.info)),
                          static_cast<int>(png_get_image_height(reader.png, reader.info))};
    const bool deep = png_get_bit_depth(reader.png, reader.info) == 16;
    photo.samples = image::Samples(size, indexed ? palette.channels() : png_get_channels(reader.png, reader.info),
                                   deep ? image::SampleType::u16 : image::SampleType::u8);
    image::Samples indexes;
    if (indexed) indexes = image::Samples(size, 1, image::SampleType::u8);
    image::Samples& rows = indexed ? indexes : photo.samples;
    for (int pass = 0; pass < passes; ++pass) {
        for (int y = 0; y < size.height; ++y) {
            png_read_row(reader.png, reinterpret_cast<png_bytep>(rows.row(y)), nullptr);
            if (y % 64 == 0 && !reading.goOn((pass + y / static_cast<double>(size.height)) / passes)) return stopped();
        }
    }
    bool all = true;
    for (int y = 0; indexed && y < size.height; ++y) {
        all =
            palette.look(reinterpret_cast<const std::uint8_t*>(indexes.row(y)),
                         reinterpret_cast<std::uint8_t*>(photo.samples.row(y)), static_cast<std::size_t>(size.width)) &&
            all;
    }
    if (!all)
        photo.warnings.push_back("The PNG file uses colours that its palette does not have; they are shown black.");
    return {};
}

Result<void> checkHeader(const Reader& reader, std::size_t fileBytes, const Reading& reading) {
    const auto width = png_get_image_width(reader.png, reader.info);
    const auto height = png_get_image_height(reader.png, reader.info);
    // Palettes are looked up: an index and a colour for each pixel.
    const bool indexed = png_get_color_type(reader.png, reader.info) == PNG_COLOR_TYPE_PALETTE;
    const bool alpha = png_get_valid(reader.png, reader.info, PNG_INFO_tRNS) != 0;
    const int channels = (indexed ? 4 : png_get_channels(reader.png, reader.info)) + (alpha ? 1 : 0);
    const bool deep = png_get_bit_depth(reader.png, reader.info) == 16;
    const image::SampleType type = deep ? image::SampleType::u16 : image::SampleType::u8;
    if (auto fits = checkSize("PNG", width, height, channels, type, fileBytes, reading); !fits) return fits;
    const std::uint64_t rowBytes = png_get_rowbytes(reader.png, reader.info) + 1;  // as stored, with the filter's byte
    return checkHolds("PNG", rowBytes * height, fileBytes, mostInflated);
}

Result<Decoded> read(Bytes bytes, const Reading& reading) {
    Input input{bytes};
    Reader reader;
    try {
        png_set_read_fn(reader.png, &input, readBytes);
        png_set_user_limits(reader.png, 0x7fffffff, 0x7fffffff);  // checkSize has the sentence for what is too large
        png_set_chunk_malloc_max(reader.png, image::maxProfileBytes);
        png_read_info(reader.png, reader.info);
        if (auto ok = checkHeader(reader, bytes.size(), reading); !ok) return tl::unexpected(ok.error());
        Decoded out;
        out.photo.format = "PNG";
        askForPlainSamples(reader.png, reader.info);
        if (auto ok = readRows(reader, reading, out.photo); !ok) return tl::unexpected(ok.error());
        readProfile(reader.png, reader.info, out.photo);
        readStatedColours(reader.png, reader.info, out.photo);
        return out;
    } catch (const PngFailure& failure) {
        return damaged("PNG", failure.words.find("early") != std::string::npos
                                  ? "ends too early"
                                  : "cannot be decoded (" + failure.words + ")");
    }
}

int colourTypeOf(int channels) {
    switch (channels) {
        case 1: return PNG_COLOR_TYPE_GRAY;
        case 2: return PNG_COLOR_TYPE_GRAY_ALPHA;
        case 3: return PNG_COLOR_TYPE_RGB;
        default: return PNG_COLOR_TYPE_RGBA;
    }
}

// IPTC has no chunk of its own; this text is how it is commonly carried (common practice): the block that
// JPEG holds it in, in hexadecimal, under a key word.
std::string iptcText(const std::vector<std::uint8_t>& iptc) {
    const std::vector<std::uint8_t> block = iptcBlock(iptc);
    std::string text = "\niptc\n" + std::to_string(block.size()) + "\n";
    for (std::size_t i = 0; i < block.size(); ++i) {
        constexpr char digits[] = "0123456789abcdef";
        constexpr std::size_t bytesInLine = 36;
        text += digits[block[i] >> 4];
        text += digits[block[i] & 15];
        if (i % bytesInLine == bytesInLine - 1) text += '\n';
    }
    return text + "\n";
}

// PNG specification (third edition), 11.3: eXIf, iTXt with the key word that XMP prescribes, tEXt.
void writeMetadata(png_structp png, png_infop info, const image::Metadata& metadata) {
    std::vector<std::uint8_t> exif = metadata.exif;  // the library takes it unconst
    if (!exif.empty()) png_set_eXIf_1(png, info, static_cast<png_uint_32>(exif.size()), exif.data());
    const auto add = [&](int kind, const char* word, std::string text) {
        if (text.empty()) return;
        png_text entry{};
        entry.compression = kind;
        entry.key = const_cast<char*>(word);
        entry.text = text.data();
        (kind >= PNG_ITXT_COMPRESSION_NONE ? entry.itxt_length : entry.text_length) = text.size();
        static char none[] = "";
        entry.lang = entry.lang_key = none;
        png_set_text(png, info, &entry, 1);
    };
    add(PNG_ITXT_COMPRESSION_NONE, xmpKeyWord, metadata.xmp);
    add(PNG_TEXT_COMPRESSION_NONE, "Comment", metadata.comment);
    if (!metadata.iptc.empty()) add(PNG_TEXT_COMPRESSION_zTXt, "Raw profile type iptc", iptcText(metadata.iptc));
}

// Failures to write come back as errno values, those of the picture's rows as they are.
Result<int> writeTo(std::FILE* stream, const Picture& picture) {
    Writer writer;
    const std::size_t rowBytes = static_cast<std::size_t>(picture.size.width) *
                                 static_cast<std::size_t>(picture.channels) * image::bytesOf(picture.type);
    std::vector<std::byte> band(rowBytes * bandRows);
    try {
        errno = 0;
        png_init_io(writer.png, stream);
        png_set_compression_level(writer.png, 4);
        png_set_filter(writer.png, 0, PNG_FILTER_SUB | PNG_FILTER_UP | PNG_FILTER_PAETH);
        png_set_IHDR(writer.png, writer.info, static_cast<png_uint_32>(picture.size.width),
                     static_cast<png_uint_32>(picture.size.height), picture.type == image::SampleType::u16 ? 16 : 8,
                     colourTypeOf(picture.channels), PNG_INTERLACE_NONE, PNG_COMPRESSION_TYPE_DEFAULT,
                     PNG_FILTER_TYPE_DEFAULT);
        if (!picture.profile.empty()) {
            png_set_iCCP(writer.png, writer.info, "ICC profile", PNG_COMPRESSION_TYPE_BASE, picture.profile.data(),
                         static_cast<png_uint_32>(picture.profile.size()));
        }
        writeMetadata(writer.png, writer.info, picture.metadata);
        png_write_info(writer.png, writer.info);
        if (picture.type == image::SampleType::u16 && std::endian::native == std::endian::little)
            png_set_swap(writer.png);
        for (int y = 0; y < picture.size.height; y += bandRows) {
            const int end = std::min(y + bandRows, picture.size.height);
            if (auto ok = picture.rows(y, end, band.data()); !ok) return tl::unexpected(ok.error());
            for (int row = y; row < end; ++row) {
                png_write_row(writer.png, reinterpret_cast<png_const_bytep>(
                                              band.data() + rowBytes * static_cast<std::size_t>(row - y)));
            }
        }
        png_write_end(writer.png, nullptr);
    } catch (const PngFailure&) {
        return errno ? errno : EIO;
    }
    return 0;
}

Result<Notes> write(PendingFile& file, const Picture& picture) {
    const auto failed = writeTo(file.stream(), picture);
    if (!failed) return tl::unexpected(failed.error());
    if (*failed != 0) return file.failure(*failed);
    return Notes();
}

constexpr std::string_view extensions[] = {"png"};
constexpr image::SampleType depths[] = {image::SampleType::u8, image::SampleType::u16};

}  // namespace

const Format png = {
    .name = "PNG",
    .extensions = extensions,
    .matches = matches,
    .read = read,
    .write = write,
    .depths = depths,
    .alpha = true,
};

std::vector<std::uint8_t> pngBytes(const Picture& picture) {
    char* data = nullptr;
    std::size_t size = 0;
    std::FILE* stream = ::open_memstream(&data, &size);
    if (!stream) return {};
    const auto failed = writeTo(stream, picture);
    std::fclose(stream);
    const std::unique_ptr<char, void (*)(void*)> owned(data, std::free);
    if (!failed || *failed != 0) return {};
    return {owned.get(), owned.get() + size};
}

}  // namespace dimhem::io
