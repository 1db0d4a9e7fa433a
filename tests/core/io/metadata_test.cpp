// Metadata on its way through every format that is written: what goes in comes out, and nothing stops the picture.
#include "core/io/metadata.h"

#include <gtest/gtest.h>

#include <exiv2/exiv2.hpp>

#include "core/io/jpeg.h"
#include "core/io/metadata_marks.h"
#include "core/io/png.h"
#include "core/io/registry.h"
#include "core/io/tiff.h"
#include "core/io/xmp.h"
#include "tests/support/pictures.h"
#include "tests/support/temp_folder.h"

namespace dimhem::io {

namespace {

using tests::TempFolder;

std::vector<std::uint8_t> encodedExif(const Exiv2::ExifData& exif) {
    Exiv2::Blob blob;
    Exiv2::ExifParser::encode(blob, Exiv2::littleEndian, exif);
    return blob;
}

Exiv2::ExifData decodedExif(const image::Metadata& metadata) {
    Exiv2::ExifData exif;
    if (!metadata.exif.empty())
        Exiv2::ExifParser::decode(exif, metadata.exif.data(), static_cast<std::uint32_t>(metadata.exif.size()));
    return exif;
}

std::vector<std::uint8_t> richExif() {
    Exiv2::ExifData exif;
    exif["Exif.Image.Make"] = "Made Works";
    exif["Exif.Image.Model"] = "Made Camera 3";
    exif["Exif.Image.Artist"] = "Nobody at All";
    exif["Exif.Image.Copyright"] = "All yours";
    exif["Exif.Image.DateTime"] = "2026:05:01 10:11:12";
    exif["Exif.Image.XResolution"] = Exiv2::Rational(300, 1);
    exif["Exif.Image.ResolutionUnit"] = std::uint16_t{2};
    exif["Exif.Image.Rating"] = std::uint16_t{4};
    exif["Exif.Photo.ExposureTime"] = Exiv2::Rational(1, 250);
    exif["Exif.Photo.FNumber"] = Exiv2::Rational(28, 10);
    exif["Exif.Photo.ISOSpeedRatings"] = std::uint16_t{800};
    exif["Exif.Photo.LensModel"] = "A lens with a name of some length";
    exif["Exif.Photo.ExposureBiasValue"] = Exiv2::Rational(-1, 3);
    exif["Exif.Photo.UserComment"] = "charset=Ascii what a person wrote";
    exif["Exif.GPSInfo.GPSLatitudeRef"] = "N";
    exif["Exif.GPSInfo.GPSAltitude"] = Exiv2::Rational(1234, 10);
    return encodedExif(exif);
}

std::string xmpPacket(const std::string& properties) {
    const auto space = [](const char* prefix, std::string_view uri) {
        return std::string(" xmlns:") + prefix + "=\"" + std::string(uri) + "\"";
    };
    return "<?xpacket begin=\"\xEF\xBB\xBF\" id=\"W5M0MpCehiHzreSzNTczkc9d\"?><x:xmpmeta" + space("x", xmpMetaSpace) +
           "><rdf:RDF xmlns:rdf=\"http://www.w3.org/1999/02/22-rdf-syntax-ns#\"><rdf:Description rdf:about=\"\"" +
           space("xmp", xmpBasicSpace) + space("tiff", xmpTiffSpace) + ">" + properties +
           "</rdf:Description></rdf:RDF></x:xmpmeta><?xpacket end=\"w\"?>";
}

struct Written {
    image::Photo back;
    Notes notes;
};

// A small picture with the metadata, written to a file.
Notes writtenTo(const std::filesystem::path& path, const Format& format, const image::Metadata& metadata) {
    const image::Photo photo = tests::madePhoto({64, 48});
    Picture picture;
    picture.size = photo.size();
    picture.metadata = metadata;
    picture.rows = [&](int y0, int y1, std::byte* rows) -> base::Result<void> {
        std::memcpy(rows, photo.samples.row(y0), photo.samples.rowBytes() * static_cast<std::size_t>(y1 - y0));
        return {};
    };
    auto file = PendingFile::create(path, {});
    EXPECT_TRUE(file);
    auto notes = format.write(*file, picture);
    EXPECT_TRUE(notes) << format.name << ": " << (notes ? "" : notes.error().message);
    EXPECT_TRUE(file->commit());
    return notes ? *notes : Notes{};
}

Written throughFile(const Format& format, const image::Metadata& metadata) {
    const TempFolder folder;
    const auto path = folder / ("photo." + std::string(format.extensions[0]));
    const Notes notes = writtenTo(path, format, metadata);
    auto back = readPhoto(path);
    EXPECT_TRUE(back) << format.name;
    return {std::move(*back), notes};
}

constexpr const Format* writers[] = {&jpeg, &png, &tiff};

}  // namespace

TEST(Metadata, EveryExifEntryComesBackFromEveryFormat) {
    image::Metadata metadata;
    metadata.exif = richExif();
    const Exiv2::ExifData before = decodedExif(metadata);
    for (const Format* format : writers) {
        const Written written = throughFile(*format, metadata);
        EXPECT_TRUE(written.notes.empty()) << format->name << ": " << written.notes.front();
        Exiv2::ExifData after = decodedExif(written.back.metadata);
        for (const Exiv2::Exifdatum& datum : before) {
            if (datum.tagName() == "ExifTag" || datum.tagName() == "GPSTag") continue;  // places in the block itself
            const auto found = after.findKey(Exiv2::ExifKey(datum.key()));
            ASSERT_NE(found, after.end()) << format->name << " " << datum.key();
            EXPECT_EQ(found->toString(), datum.toString()) << format->name << " " << datum.key();
        }
    }
}

// TIFF 6.0, section 2: the entries of a directory are in ascending order of their tags.
TEST(Metadata, DirectoriesOfATiffAreInOrder) {
    constexpr std::uint16_t exifTag = 34665, gpsTag = 34853;
    const TempFolder folder;
    image::Metadata metadata;
    metadata.exif = richExif();
    writtenTo(folder / "photo.tif", tiff, metadata);
    const auto bytes = readFile(folder / "photo.tif").value();
    const bool little = bytes[0] == 'I';
    const auto number = [&](std::size_t at, std::size_t size) {
        std::size_t value = 0;
        for (std::size_t i = 0; i < size; ++i) value = value * 256 + bytes[at + (little ? size - 1 - i : i)];
        return value;
    };
    std::vector<std::size_t> waiting{number(4, 4)};
    std::size_t entries = 0;
    for (std::size_t d = 0; d < waiting.size(); ++d) {
        const std::size_t at = waiting[d], count = number(at, 2);
        std::size_t last = 0;
        for (std::size_t i = 0; i < count; ++i, ++entries) {
            const std::size_t entry = at + 2 + 12 * i, tag = number(entry, 2);
            EXPECT_GT(tag, last) << "directory " << d;
            last = tag;
            if (tag == exifTag || tag == gpsTag) waiting.push_back(number(entry + 8, 4));
        }
    }
    EXPECT_EQ(waiting.size(), 3u) << "the picture's, Exif's and GPS's";
    EXPECT_GT(entries, 20u);
}

TEST(Metadata, IptcXmpAndCommentComeBack) {
    image::Metadata metadata;
    Exiv2::IptcData iptc;
    iptc["Iptc.Application2.Headline"] = "A made-up headline of odd length";
    iptc["Iptc.Application2.Keywords"] = "harbour";
    const Exiv2::DataBuf records = Exiv2::IptcParser::encode(iptc);
    metadata.iptc.assign(records.pData_, records.pData_ + records.size_);
    metadata.xmp = xmpPacket("<xmp:Label>green</xmp:Label>");
    metadata.comment = "What the camera says";
    for (const Format* format : writers) {
        const Written written = throughFile(*format, metadata);
        Exiv2::IptcData back;
        Exiv2::IptcParser::decode(back, written.back.metadata.iptc.data(),
                                  static_cast<std::uint32_t>(written.back.metadata.iptc.size()));
        EXPECT_EQ(back["Iptc.Application2.Headline"].toString(), "A made-up headline of odd length") << format->name;
        EXPECT_EQ(written.back.metadata.xmp, metadata.xmp) << format->name;
        if (format == &tiff) {
            ASSERT_EQ(written.notes.size(), 1u) << "a TIFF has no place for a comment, and says so";
            EXPECT_TRUE(written.notes.front().ends_with("."));
        } else {
            EXPECT_TRUE(written.notes.empty()) << format->name << ": " << written.notes.front();
        }
        if (format == &jpeg) {
            EXPECT_EQ(written.back.metadata.comment, metadata.comment);
        }
    }
}

// XMP specification part 3: a packet of more than one segment is extended.
TEST(Metadata, XmpOfAnySizeComesBackFromEveryFormat) {
    for (const std::size_t size : {60'000u, 65'000u, 66'000u, 300'000u}) {
        image::Metadata metadata;
        metadata.xmp = xmpPacket("<xmp:Label>" + std::string(size, 'q') + "</xmp:Label>");
        for (const Format* format : writers) {
            const Written written = throughFile(*format, metadata);
            EXPECT_TRUE(written.notes.empty()) << format->name << " " << size;
            EXPECT_EQ(written.back.metadata.xmp, metadata.xmp) << format->name << " " << size;
            EXPECT_TRUE(written.back.metadata.lost.empty()) << format->name << " " << size;
        }
    }
}

TEST(Metadata, XmpThatIsNotWellFormedIsCopiedAndNamed) {
    image::Metadata metadata;
    metadata.xmp = "<x:xmpmeta><rdf:RDF><not closed";
    for (const Format* format : writers) {
        const Written written = throughFile(*format, metadata);
        EXPECT_EQ(written.back.metadata.xmp, metadata.xmp) << format->name;
        ASSERT_EQ(written.back.metadata.lost.size(), 1u) << format->name;
        EXPECT_NE(written.back.metadata.lost.front().find("XMP"), std::string::npos);
    }
}

TEST(Metadata, OrientationIsForgottenInXmpToo) {
    image::Metadata metadata;
    Exiv2::ExifData exif;
    exif["Exif.Image.Orientation"] = std::uint16_t{6};
    metadata.exif = encodedExif(exif);
    metadata.xmp = xmpPacket("<xmp:Label>blue</xmp:Label><tiff:Orientation>6</tiff:Orientation>");
    for (const Format* format : writers) {
        const Written written = throughFile(*format, metadata);
        EXPECT_EQ(written.back.size(), (base::Size{48, 64})) << format->name;
        Exiv2::XmpData xmp;
        ASSERT_EQ(Exiv2::XmpParser::decode(xmp, written.back.metadata.xmp), 0);
        EXPECT_EQ(xmp["Xmp.tiff.Orientation"].toString(), "1") << format->name;
        EXPECT_EQ(xmp["Xmp.xmp.Label"].toString(), "blue") << format->name;
        EXPECT_EQ(decodedExif(written.back.metadata)["Exif.Image.Orientation"].toLong(), 1) << format->name;
    }
}

TEST(Metadata, BlocksThatAreTooLargeForJpegAreLeftOutAndNamed) {
    image::Metadata metadata;
    metadata.exif = richExif();
    metadata.exif.resize(80'000);
    metadata.iptc.assign(70'000, 0x1c);
    const Written written = throughFile(jpeg, metadata);
    ASSERT_EQ(written.notes.size(), 2u);
    EXPECT_NE(written.notes[0].find("Exif"), std::string::npos);
    EXPECT_NE(written.notes[1].find("IPTC"), std::string::npos);
    EXPECT_TRUE(written.back.metadata.exif.empty());
}

TEST(Metadata, DamagedBlocksNeverKeepAPictureFromBeingWritten) {
    std::vector<std::uint8_t> exif = richExif();
    std::uint32_t random = 12345;
    for (int round = 0; round < 60; ++round) {
        image::Metadata metadata;
        metadata.exif = exif;
        for (int i = 0; i < 12; ++i) {
            random = random * 1664525u + 1013904223u;
            metadata.exif[random % metadata.exif.size()] = static_cast<std::uint8_t>(random >> 24);
        }
        metadata.iptc = {0x1c, 0x02, 0x69, 0x00, 0xff, 1, 2};
        metadata.xmp = std::string("\0<x", 3);
        for (const Format* format : writers) (void)throughFile(*format, metadata);
    }
}

TEST(Xmp, ExtendedPacketsAreJoinedAndDamagedOnesAreNoticed) {
    const std::string whole = xmpPacket("<xmp:Label>" + std::string(70'000, 'x') + "</xmp:Label>");
    const SplitXmp split = splitXmp(whole, 65'000);
    EXPECT_LT(split.standard.size(), 65'000u);
    EXPECT_EQ(extensionOf(split.standard), split.guid);
    EXPECT_EQ(joinXmp(split.standard, split.guid, split.extension).packet, whole);
    EXPECT_FALSE(joinXmp(split.standard, split.guid, std::nullopt).whole);
    EXPECT_FALSE(joinXmp(split.standard, split.guid, split.extension + " ").whole) << "another MD5";
    // Written by another program: some of it in the standard packet, the rest extended.
    const std::string label = xmpPacket("<xmp:Label>red</xmp:Label>");
    const std::string mixed =
        xmpPacket("<xmp:Rating>3</xmp:Rating><xmpNote:HasExtendedXMP xmlns:xmpNote=\"" + std::string(xmpNoteSpace) +
                  "\">" + splitXmp(label, 0).guid + "</xmpNote:HasExtendedXMP>");
    const JoinedXmp joined = joinXmp(mixed, extensionOf(mixed), label);
    ASSERT_TRUE(joined.whole);
    Exiv2::XmpData xmp;
    ASSERT_EQ(Exiv2::XmpParser::decode(xmp, joined.packet), 0);
    EXPECT_EQ(xmp["Xmp.xmp.Rating"].toString(), "3");
    EXPECT_EQ(xmp["Xmp.xmp.Label"].toString(), "red");
    EXPECT_EQ(joined.packet.find("HasExtendedXMP"), std::string::npos);
}

// Exif 2.32, tags 40962 and 40963; XMP (ISO 16684-1) repeats the TIFF tags 256 and 257.
TEST(Metadata, OfAPictureOfAnotherSizeSaySo) {
    Exiv2::ExifData exif;
    exif["Exif.Photo.PixelXDimension"] = std::uint32_t{6000};
    exif["Exif.Photo.PixelYDimension"] = std::uint32_t{4000};
    exif["Exif.Photo.FNumber"] = Exiv2::Rational(28, 10);
    image::Metadata metadata;
    metadata.exif = encodedExif(exif);
    metadata.xmp = xmpPacket("<tiff:ImageWidth>6000</tiff:ImageWidth><xmp:Rating>4</xmp:Rating>");
    const image::Metadata small = withSize(metadata, {1200, 800});
    Exiv2::ExifData said = decodedExif(small);
    EXPECT_EQ(said["Exif.Photo.PixelXDimension"].toLong(), 1200);
    EXPECT_EQ(said["Exif.Photo.PixelYDimension"].toLong(), 800);
    EXPECT_EQ(said["Exif.Photo.FNumber"].toString(), "28/10");
    EXPECT_EQ(small.xmp.find("6000"), std::string::npos) << small.xmp;
    EXPECT_NE(small.xmp.find("1200"), std::string::npos);
    EXPECT_NE(small.xmp.find("Rating"), std::string::npos);
    metadata.exif = richExif();  // says nothing of the size
    metadata.xmp = "not well-formed <";
    const image::Metadata kept = withSize(metadata, {1200, 800});
    EXPECT_EQ(kept.exif, metadata.exif);
    EXPECT_EQ(kept.xmp, metadata.xmp);
}

// XMP specification part 3, 1.1.3.1: the pieces of an extended packet may stand in any order.
TEST(Metadata, PiecesOfExtendedXmpMayStandInAnyOrder) {
    image::Metadata metadata;
    std::string text;
    for (int i = 0; text.size() < 250'000; ++i) text += std::to_string(i) + " ";
    metadata.xmp = xmpPacket("<xmp:Label>" + text + "</xmp:Label>");
    const TempFolder folder;
    (void)writtenTo(folder / "photo.jpg", jpeg, metadata);
    const std::vector<std::uint8_t> bytes = *readFile(folder / "photo.jpg");
    struct Piece {
        std::size_t at, length;
    };
    std::vector<Piece> pieces;
    for (std::size_t at = 2; at + 4 < bytes.size() && bytes[at] == 0xff && bytes[at + 1] != 0xda;) {
        const std::size_t length = 2u + 256u * bytes[at + 2] + bytes[at + 3];
        const std::string_view content(reinterpret_cast<const char*>(bytes.data()) + at + 4, length - 4);
        if (content.starts_with(xmpExtensionMark)) pieces.push_back({at, length});
        at += length;
    }
    ASSERT_GE(pieces.size(), 3u);
    std::vector<std::uint8_t> turned(bytes.begin(), bytes.begin() + static_cast<std::ptrdiff_t>(pieces.front().at));
    for (auto piece = pieces.rbegin(); piece != pieces.rend(); ++piece) {
        const auto from = bytes.begin() + static_cast<std::ptrdiff_t>(piece->at);
        turned.insert(turned.end(), from, from + static_cast<std::ptrdiff_t>(piece->length));
    }
    const std::size_t rest = pieces.back().at + pieces.back().length;
    turned.insert(turned.end(), bytes.begin() + static_cast<std::ptrdiff_t>(rest), bytes.end());
    ASSERT_EQ(turned.size(), bytes.size());
    const auto back = readPhoto(turned, "turned.jpg");
    ASSERT_TRUE(back) << back.error().message;
    EXPECT_EQ(back->metadata.xmp, metadata.xmp);
    EXPECT_TRUE(back->metadata.lost.empty());
}

}  // namespace dimhem::io
