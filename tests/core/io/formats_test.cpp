#include <ImfArray.h>
#include <ImfRgbaFile.h>
#include <gtest/gtest.h>
#include <tiffio.h>
#include <webp/encode.h>

#include <exiv2/exiv2.hpp>
#include <fstream>

#include "core/io/jpeg.h"
#include "core/io/metadata.h"
#include "core/io/png.h"
#include "core/io/registry.h"
#include "core/io/tiff.h"
#include "tests/support/pictures.h"
#include "tests/support/profiles.h"
#include "tests/support/temp_folder.h"

namespace dimhem::io {

namespace {

using image::SampleType;
using tests::TempFolder;

Picture pictureOf(const image::Samples& samples) {
    Picture picture;
    picture.size = samples.size();
    picture.channels = samples.channels();
    picture.type = samples.type();
    picture.rows = [&samples](int y0, int y1, std::byte* rows) -> base::Result<void> {
        std::memcpy(rows, samples.row(y0), samples.rowBytes() * static_cast<std::size_t>(y1 - y0));
        return {};
    };
    return picture;
}

void write(const Format& format, const Picture& picture, const std::filesystem::path& path,
           const image::Metadata& metadata = {}) {
    auto file = PendingFile::create(path, {});
    ASSERT_TRUE(file) << file.error().message;
    Picture described = picture;
    described.metadata = metadata;
    const auto written = format.write(*file, described);
    ASSERT_TRUE(written) << written.error().message;
    ASSERT_TRUE(file->commit());
}

std::vector<std::uint8_t> bytesOf(const std::filesystem::path& path) {
    return *readFile(path);
}

}  // namespace

// A classic TIFF file addresses with 32 bits (TIFF 6.0, section 2). What a file of each kind begins with: 42 or 43
// (the BigTIFF design, in libtiff's documentation).
TEST(Formats, TiffAboveFourGigabytesIsABigTiff) {
    constexpr int width = 16000;
    const auto kindFor = [](int height) {
        const TempFolder folder;
        auto file = PendingFile::create(folder / "out.tif", {});
        Picture picture;
        picture.size = {width, height};
        picture.channels = 4;
        picture.type = SampleType::f32;
        int kind = 0;
        picture.rows = [&](int, int, std::byte*) -> base::Result<void> {
            const auto begun = bytesOf(file->temporaryPath());
            if (begun.size() >= 4) kind = begun[2];
            return tl::unexpected(base::Error{base::ErrorCode::cancelled, "enough seen"});
        };
        EXPECT_FALSE(tiff.write(*file, picture));
        return kind;
    };
    EXPECT_EQ(kindFor(15000), 42);  // 3.84 GB
    EXPECT_EQ(kindFor(16777), 43);  // 4.294 GB, just under 2^32: room for the directory is wanted too
    EXPECT_EQ(kindFor(30000), 43);
}

TEST(Formats, LosslessOnesGiveEverySampleBack) {
    const TempFolder folder;
    for (const Format* format : {&png, &tiff}) {
        for (const SampleType type : format->depths) {
            for (const int channels : {1, 2, 3, 4}) {
                const image::Photo photo = tests::madePhoto({131, 270}, channels, type);
                const auto path = folder / ("photo." + std::string(format->extensions[0]));
                write(*format, pictureOf(photo.samples), path);
                const auto back = readPhoto(path);
                ASSERT_TRUE(back) << back.error().message;
                EXPECT_TRUE(tests::sameSamples(photo.samples, back->samples))
                    << format->name << " " << channels << " channels, type " << static_cast<int>(type);
                EXPECT_EQ(back->format, format->name);
            }
        }
    }
}

TEST(Formats, JpegComesBackNearly) {
    const TempFolder folder;
    for (const int channels : {1, 3}) {
        const image::Photo photo = tests::madePhoto({200, 133}, channels);
        Picture picture = pictureOf(photo.samples);
        picture.quality = 97;
        write(jpeg, picture, folder / "photo.jpg");
        const auto back = readPhoto(folder / "photo.jpg");
        ASSERT_TRUE(back);
        EXPECT_EQ(back->samples.channels(), channels);
        double sum = 0;
        for (int y = 0; y < 133; ++y) {
            for (std::size_t i = 0; i < photo.samples.rowBytes(); ++i) {
                sum += std::abs(std::to_integer<int>(photo.samples.row(y)[i]) -
                                std::to_integer<int>(back->samples.row(y)[i]));
            }
        }
        EXPECT_LT(sum / static_cast<double>(photo.samples.bytes()), 2.0);
    }
}

TEST(Formats, JpegHasASmallVersionOfTheSamePicture) {
    const TempFolder folder;
    const image::Photo photo = tests::madePhoto({640, 480});
    write(jpeg, pictureOf(photo.samples), folder / "photo.jpg");
    const auto small = readSmallPhoto(bytesOf(folder / "photo.jpg"), "photo.jpg", 100);
    ASSERT_TRUE(small);
    EXPECT_EQ(small->size(), (base::Size{160, 120}));  // a quarter: an eighth would be too small
}

TEST(Formats, AreKnownByTheirFirstBytesNeverByName) {
    const TempFolder folder;
    const image::Photo photo = tests::madePhoto({20, 20});
    write(png, pictureOf(photo.samples), folder / "really-a-png.jpg");
    const auto back = readPhoto(folder / "really-a-png.jpg");
    ASSERT_TRUE(back);
    EXPECT_EQ(back->format, "PNG");
    const auto text = tests::written(folder / "text.png", std::string("This is not a picture."));
    EXPECT_EQ(readPhoto(text).error().code, base::ErrorCode::unknownFormat);
}

TEST(Formats, ProfileAndMetadataAreKept) {
    const TempFolder folder;
    image::Metadata metadata;
    Exiv2::ExifData exif;
    exif["Exif.Image.Model"] = "Made Camera 3";
    exif["Exif.Photo.ISOSpeedRatings"] = std::uint16_t{800};
    Exiv2::ExifParser::encode(metadata.exif, Exiv2::littleEndian, exif);
    for (const Format* format : {&jpeg, &png, &tiff}) {
        const image::Photo photo = tests::madePhoto({64, 48});
        Picture picture = pictureOf(photo.samples);
        picture.profile = tests::wideProfile();
        const auto path = folder / ("photo." + std::string(format->extensions[0]));
        write(*format, picture, path, metadata);
        const auto back = readPhoto(path);
        ASSERT_TRUE(back) << format->name;
        EXPECT_EQ(back->profile, tests::wideProfile()) << format->name;
        const auto facts = readableFacts(back->metadata);
        ASSERT_FALSE(facts.empty()) << format->name;
        EXPECT_EQ(facts[0].second, "Made Camera 3") << format->name;
    }
}

TEST(Formats, ExifOrientationIsAppliedAndForgotten) {
    const TempFolder folder;
    const image::Photo photo = tests::madePhoto({64, 48});
    image::Metadata metadata;
    Exiv2::ExifData exif;
    exif["Exif.Image.Orientation"] = std::uint16_t{6};
    Exiv2::ExifParser::encode(metadata.exif, Exiv2::littleEndian, exif);
    for (const Format* format : {&png, &tiff}) {
        const auto path = folder / ("turned." + std::string(format->extensions[0]));
        write(*format, pictureOf(photo.samples), path, metadata);
        const auto back = readPhoto(path);
        ASSERT_TRUE(back);
        EXPECT_TRUE(tests::sameSamples(back->samples, image::oriented(tests::madePhoto({64, 48}).samples, 6)))
            << format->name;
        Exiv2::ExifData kept;
        Exiv2::ExifParser::decode(kept, back->metadata.exif.data(),
                                  static_cast<std::uint32_t>(back->metadata.exif.size()));
        EXPECT_EQ(kept["Exif.Image.Orientation"].toLong(), 1) << format->name;
    }
}

TEST(Formats, WebpIsRead) {
    const TempFolder folder;
    const image::Photo photo = tests::madePhoto({70, 50});
    std::uint8_t* data = nullptr;
    const std::size_t size =
        WebPEncodeLosslessRGB(reinterpret_cast<const std::uint8_t*>(photo.samples.row(0)), 70, 50, 210, &data);
    ASSERT_GT(size, 0u);
    const auto back = readPhoto(tests::written(folder / "photo.webp", std::vector<std::uint8_t>(data, data + size)));
    WebPFree(data);
    ASSERT_TRUE(back);
    EXPECT_TRUE(tests::sameSamples(photo.samples, back->samples));
}

TEST(Formats, OpenExrIsReadAsLinearFloats) {
    const TempFolder folder;
    const auto path = folder / "photo.exr";
    {
        Imf::RgbaOutputFile file(path.c_str(), 5, 4, Imf::WRITE_RGBA);
        Imf::Array2D<Imf::Rgba> pixels(4, 5);
        for (int y = 0; y < 4; ++y) {
            for (int x = 0; x < 5; ++x)
                pixels[y][x] = Imf::Rgba(0.5f * static_cast<float>(x), 0.25f, 0.125f * static_cast<float>(y), 0.5f);
        }
        file.setFrameBuffer(&pixels[0][0], 1, 5);
        file.writePixels(4);
    }
    const auto back = readPhoto(path);
    ASSERT_TRUE(back) << back.error().message;
    EXPECT_TRUE(back->linear);
    float row[20];
    back->samples.readRow(2, 0, 5, row);
    EXPECT_FLOAT_EQ(row[4 * 4 + 0], 4.0f);  // 2.0 stored with alpha 0.5: ours are not multiplied by it
    EXPECT_FLOAT_EQ(row[1], 0.5f);
    EXPECT_FLOAT_EQ(row[3], 0.5f);
}

TEST(Formats, TruncatedAnywhereIsOneSentenceAndNoCrash) {
    const TempFolder folder;
    image::Photo photo = tests::madePhoto({40, 30});
    for (const Format* format : {&jpeg, &png, &tiff}) {
        const auto path = folder / ("whole." + std::string(format->extensions[0]));
        Picture picture = pictureOf(photo.samples);
        picture.profile = tests::wideProfile();
        write(*format, picture, path);
        const auto bytes = bytesOf(path);
        for (std::size_t length = 1; length < bytes.size(); length += 1 + bytes.size() / 150) {
            const auto result = readPhoto(Bytes(bytes).first(length), "cut");
            // The end marker of a JPEG or PNG alone may be missing.
            if (result && length + 16 >= bytes.size()) continue;
            // A JPEG is read as far as it goes, and says that it is cut.
            if (format == &jpeg && result) {
                ASSERT_EQ(result->warnings.size(), 1u) << length;
                EXPECT_NE(result->warnings[0].find("ends too early"), std::string::npos) << result->warnings[0];
                continue;
            }
            if (format == &tiff && result)
                continue;  // the directory of a TIFF may come last or first; its pixels are checked below
            ASSERT_FALSE(result) << format->name << " cut to " << length << " of " << bytes.size();
            EXPECT_TRUE(result.error().message.ends_with(".")) << result.error().message;
        }
    }
}

TEST(Formats, DamagedBytesNeverCrash) {
    const TempFolder folder;
    image::Photo photo = tests::madePhoto({40, 30});
    std::mt19937 random(99);
    for (const Format* format : {&jpeg, &png, &tiff}) {
        const auto path = folder / ("whole." + std::string(format->extensions[0]));
        write(*format, pictureOf(photo.samples), path);
        const auto bytes = bytesOf(path);
        for (int round = 0; round < 150; ++round) {
            auto broken = bytes;
            for (int i = 0; i < 6; ++i) broken[random() % broken.size()] = static_cast<std::uint8_t>(random());
            const auto result = readPhoto(broken, "broken");
            if (!result) {
                EXPECT_FALSE(result.error().message.empty());
            }
        }
    }
}

TEST(Formats, EmptyAndMissingFilesAreOneSentenceEach) {
    const TempFolder folder;
    EXPECT_EQ(readPhoto(tests::written(folder / "empty.jpg", std::string())).error().code, base::ErrorCode::damaged);
    EXPECT_EQ(readPhoto(folder / "missing.jpg").error().code, base::ErrorCode::notFound);
    EXPECT_EQ(readPhoto(folder.path()).error().code, base::ErrorCode::unreadable);
}

// A small picture that says its only tile is 160 000 pixels square: the tile's memory is never asked for.
TEST(Formats, ATileNoFileCouldHoldIsRefused) {
    const TempFolder folder;
    const auto path = folder / "tiles.tif";
    TIFF* file = TIFFOpen(path.c_str(), "w");
    for (const auto& [tag, value] : {std::pair{TIFFTAG_IMAGEWIDTH, 32},
                                     {TIFFTAG_IMAGELENGTH, 32},
                                     {TIFFTAG_SAMPLESPERPIXEL, 3},
                                     {TIFFTAG_BITSPERSAMPLE, 8},
                                     {TIFFTAG_PHOTOMETRIC, PHOTOMETRIC_RGB},
                                     {TIFFTAG_PLANARCONFIG, PLANARCONFIG_CONTIG},
                                     {TIFFTAG_TILEWIDTH, 32},
                                     {TIFFTAG_TILELENGTH, 32}})
        TIFFSetField(file, static_cast<std::uint32_t>(tag), value);
    std::vector<std::uint8_t> tile(32 * 32 * 3, 90);
    ASSERT_GT(TIFFWriteEncodedTile(file, 0, tile.data(), static_cast<tmsize_t>(tile.size())), 0);
    TIFFClose(file);
    ASSERT_TRUE(readPhoto(path));
    auto bytes = bytesOf(path);
    // Tags 322 and 323 (TIFF 6.0, section 15): 2 bytes of tag, 2 of type, 4 of count, then the value.
    for (std::size_t i = 0; i + 12 <= bytes.size(); ++i) {
        const int tag = bytes[i] | bytes[i + 1] << 8, type = bytes[i + 2] | bytes[i + 3] << 8;
        if ((tag != 322 && tag != 323) || (type != 3 && type != 4)) continue;
        const std::uint32_t huge = 160'000;
        bytes[i + 2] = 4;  // as 32 bits
        std::memcpy(bytes.data() + i + 8, &huge, sizeof huge);
    }
    tests::written(path, std::string(bytes.begin(), bytes.end()));
    const auto photo = readPhoto(path);
    ASSERT_FALSE(photo);
    EXPECT_NE(photo.error().message.find("TIFF"), std::string::npos) << photo.error().message;
}

TEST(Formats, AHugeHeaderCostsNothing) {
    // A PNG header (ISO/IEC 15948) of 60000 x 60000, with its right checksum, and nothing else.
    std::vector<std::uint8_t> bytes = {0x89, 'P', 'N', 'G',  0x0d, 0x0a, 0x1a, 0x0a, 0,    0, 0, 13, 'I', 'H', 'D',
                                       'R',  0,   0,   0xea, 0x60, 0,    0,    0xea, 0x60, 8, 2, 0,  0,   0};
    std::uint32_t crc = 0xffffffffu;
    for (std::size_t i = 12; i < bytes.size(); ++i) {
        crc ^= bytes[i];
        for (int k = 0; k < 8; ++k) crc = crc & 1 ? 0xedb88320u ^ (crc >> 1) : crc >> 1;
    }
    crc = ~crc;
    for (int shift = 24; shift >= 0; shift -= 8) bytes.push_back(static_cast<std::uint8_t>(crc >> shift));
    const std::vector<std::uint8_t> idat = {0, 0, 0, 0, 'I', 'D', 'A', 'T', 0x35, 0xaf, 0x06, 0x1e};
    bytes.insert(bytes.end(), idat.begin(), idat.end());
    const auto result = readPhoto(bytes, "huge.png");
    ASSERT_FALSE(result);
    EXPECT_EQ(result.error().code, base::ErrorCode::tooLarge) << result.error().message;
}

}  // namespace dimhem::io
