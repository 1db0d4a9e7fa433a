#include "core/io/metadata.h"

#include <algorithm>
#include <cstring>
#include <exiv2/exiv2.hpp>
#include <map>

#include "core/base/utf8.h"
#include "core/io/metadata_marks.h"
#include "core/io/xmp.h"

namespace dimhem::io {

namespace {

// The library prints what it finds odd; that is not for people.
[[maybe_unused]] const bool quiet = [] {
    Exiv2::LogMsg::setLevel(Exiv2::LogMsg::mute);
    return true;
}();

Exiv2::ExifData exifOf(const image::Metadata& metadata) {
    Exiv2::ExifData exif;
    if (!metadata.exif.empty()) {
        Exiv2::ExifParser::decode(exif, metadata.exif.data(), static_cast<std::uint32_t>(metadata.exif.size()));
    }
    return exif;
}

// What is said of the file it came from, and not of the picture that will be written.
void forgetStorage(Exiv2::ExifData& exif) {
    constexpr std::string_view storage[] = {"Exif.Image.ImageWidth",
                                            "Exif.Image.ImageLength",
                                            "Exif.Image.BitsPerSample",
                                            "Exif.Image.Compression",
                                            "Exif.Image.PhotometricInterpretation",
                                            "Exif.Image.StripOffsets",
                                            "Exif.Image.SamplesPerPixel",
                                            "Exif.Image.RowsPerStrip",
                                            "Exif.Image.StripByteCounts",
                                            "Exif.Image.PlanarConfiguration",
                                            "Exif.Image.Predictor",
                                            "Exif.Image.SampleFormat",
                                            "Exif.Image.ExtraSamples",
                                            "Exif.Image.TileWidth",
                                            "Exif.Image.TileLength",
                                            "Exif.Image.TileOffsets",
                                            "Exif.Image.TileByteCounts",
                                            "Exif.Image.InterColorProfile",
                                            "Exif.Image.XMLPacket",
                                            "Exif.Image.IPTCNAA",
                                            "Exif.Image.ImageResources",
                                            "Exif.Image.FillOrder",
                                            "Exif.Image.JPEGTables",
                                            "Exif.Image.YCbCrSubSampling",
                                            "Exif.Image.ReferenceBlackWhite",
                                            "Exif.Image.NewSubfileType"};
    for (const std::string_view name : storage) {
        const auto found = exif.findKey(Exiv2::ExifKey(std::string(name)));
        if (found != exif.end()) exif.erase(found);
    }
    Exiv2::ExifThumb(exif).erase();
}

std::vector<std::uint8_t> encoded(const Exiv2::ExifData& exif) {
    Exiv2::Blob blob;
    if (!exif.empty()) Exiv2::ExifParser::encode(blob, Exiv2::littleEndian, exif);
    return blob;
}

bool describes(const Exiv2::Exifdatum& datum) {
    const std::string group = datum.groupName();
    return group == "Image" || group == "Photo" || group == "GPSInfo";
}

std::ptrdiff_t describing(const Exiv2::ExifData& exif) {
    return std::count_if(exif.begin(), exif.end(), describes);
}

std::ptrdiff_t entryCount(const std::vector<std::uint8_t>& block) {
    Exiv2::ExifData exif;
    if (!block.empty()) Exiv2::ExifParser::decode(exif, block.data(), static_cast<std::uint32_t>(block.size()));
    return describing(exif);
}

bool canBeWritten(const Exiv2::Exifdatum& datum) {
    try {
        Exiv2::ExifData alone;
        alone.add(datum);
        return !encoded(alone).empty();
    } catch (const std::exception&) {
        return false;
    }
}

// Odd entries must not take the others with them.
std::vector<std::uint8_t> encodedWhatCan(const Exiv2::ExifData& exif, std::vector<std::string>& lost) {
    try {
        // The library leaves out what makes the block larger than a JPEG file can hold.
        std::vector<std::uint8_t> block = encoded(exif);
        if (entryCount(block) < describing(exif))
            lost.push_back("Some of the photo's Exif data is too large and is not kept.");
        return block;
    } catch (const std::exception&) {
        Exiv2::ExifData sound;
        for (const Exiv2::Exifdatum& datum : exif) {
            if (canBeWritten(datum)) sound.add(datum);
        }
        lost.push_back("Some of the photo's Exif data is not valid and is not kept.");
        try {
            return encoded(sound);
        } catch (const std::exception&) {
            return {};
        }
    }
}

void keepExif(Exiv2::ExifData exif, EmbeddedMetadata& out) {
    const Exiv2::ExifKey orientation("Exif.Image.Orientation");
    if (const auto found = exif.findKey(orientation); found != exif.end()) {
        const auto value = found->count() > 0 ? found->toLong() : 0;
        if (value >= 1 && value <= 8) out.orientation = static_cast<int>(value);
        *found = std::uint16_t{1};
    }
    forgetStorage(exif);
    out.metadata.exif = encodedWhatCan(exif, out.metadata.lost);
}

// Calls `each(payload)` for the segments of a JPEG file (ISO/IEC 10918-1, B.1.1) of one marker, up to the picture.
template <class Each>
void forEachSegment(Bytes bytes, std::uint8_t marker, Each each) {
    for (std::size_t at = 2; at + 4 <= bytes.size() && bytes[at] == 0xff;) {
        const std::uint8_t found = bytes[at + 1];
        if (found == 0xff) {  // fill bytes may stand before a marker
            ++at;
            continue;
        }
        constexpr std::uint8_t startOfScan = 0xda;
        if (found == startOfScan) return;
        const std::size_t length = std::size_t{bytes[at + 2]} << 8 | bytes[at + 3];
        if (length < 2 || at + 2 + length > bytes.size()) return;
        if (found == marker) each(bytes.subspan(at + 4, length - 2));
        at += 2 + length;
    }
}

// The long packet of a name, put together from its segments; nothing where any of it is missing.
std::optional<std::string> extendedXmp(Bytes jpeg, const std::string& guid) {
    constexpr std::size_t guidBytes = 32, headBytes = xmpExtensionMark.size() + guidBytes + 8;
    constexpr std::size_t mostBytes = std::size_t{256} << 20;
    const auto number = [](Bytes b) {
        return std::size_t{b[0]} << 24 | std::size_t{b[1]} << 16 | std::size_t{b[2]} << 8 | b[3];
    };
    std::map<std::size_t, Bytes> pieces;  // by their place
    std::size_t whole = 0;
    forEachSegment(jpeg, 0xe1, [&](Bytes payload) {
        if (payload.size() <= headBytes ||
            std::memcmp(payload.data(), xmpExtensionMark.data(), xmpExtensionMark.size()) != 0)
            return;
        if (std::memcmp(payload.data() + xmpExtensionMark.size(), guid.data(), std::min(guid.size(), guidBytes)) != 0)
            return;
        whole = number(payload.subspan(xmpExtensionMark.size() + guidBytes));
        pieces[number(payload.subspan(xmpExtensionMark.size() + guidBytes + 4))] = payload.subspan(headBytes);
    });
    if (whole == 0 || whole > std::min(mostBytes, jpeg.size())) return std::nullopt;
    std::string text;
    for (const auto& [at, piece] : pieces) {
        if (at != text.size()) return std::nullopt;
        text.append(reinterpret_cast<const char*>(piece.data()), piece.size());
    }
    return text.size() == whole ? std::optional(text) : std::nullopt;
}

void keepXmp(Bytes bytes, std::string packet, EmbeddedMetadata& out) {
    if (packet.empty()) return;
    const bool isJpeg = bytes.size() > 2 && bytes[0] == 0xff && bytes[1] == 0xd8;
    if (const std::string guid = isJpeg ? extensionOf(packet) : std::string(); !guid.empty()) {
        JoinedXmp joined = joinXmp(packet, guid, extendedXmp(bytes, guid));
        packet = std::move(joined.packet);
        if (!joined.whole)
            out.metadata.lost.push_back("The extended part of the photo's XMP data is damaged and is not kept.");
    }
    if (auto upright = uprightXmp(packet)) {
        out.metadata.xmp = std::move(*upright);
    } else {
        out.metadata.xmp = std::move(packet);
        out.metadata.lost.push_back("The photo's XMP data is not well-formed; it is copied as it stands.");
    }
}

// The bytes of an entry; TIFF holds XMP and IPTC among its own tags.
std::string entryOf(const Exiv2::Image& image, const char* key) {
    const auto found = image.exifData().findKey(Exiv2::ExifKey(key));
    if (found == image.exifData().end()) return {};
    std::string bytes(static_cast<std::size_t>(found->size()), '\0');
    found->copy(reinterpret_cast<Exiv2::byte*>(bytes.data()), Exiv2::littleEndian);
    return bytes;
}

// As it stands in the file, not made anew.
std::string xmpOf(Exiv2::Image& image) {
    if (std::string packet = entryOf(image, "Exif.Image.XMLPacket"); !packet.empty()) return packet;
    image.writeXmpFromPacket(true);
    return image.xmpPacket();
}

Exiv2::IptcData iptcOf(const Exiv2::Image& image) {
    if (!image.iptcData().empty()) return image.iptcData();
    std::string records = entryOf(image, "Exif.Image.IPTCNAA");
    while (!records.empty() && records.back() == 0) records.pop_back();  // filled up to whole words
    Exiv2::IptcData iptc;
    if (!records.empty())
        Exiv2::IptcParser::decode(iptc, reinterpret_cast<const Exiv2::byte*>(records.data()),
                                  static_cast<std::uint32_t>(records.size()));
    return iptc;
}

// Each block on its own: one that cannot be read takes none of the others with it.
template <class Step>
void step(std::vector<std::string>& lost, const char* sentence, Step keep) {
    try {
        keep();
    } catch (const std::exception&) {
        lost.push_back(sentence);
    }
}

}  // namespace

EmbeddedMetadata readMetadata(Bytes bytes) {
    EmbeddedMetadata out;
    std::unique_ptr<Exiv2::Image> image;
    try {
        image = Exiv2::ImageFactory::open(bytes.data(), static_cast<long>(bytes.size()));
        image->readMetadata();
    } catch (const std::exception&) {
        if (!image) return out;  // a file without readable metadata is an ordinary photo
    }
    auto& lost = out.metadata.lost;
    step(lost, "The photo's Exif data could not be read and is not kept.", [&] { keepExif(image->exifData(), out); });
    step(lost, "The photo's IPTC data could not be read and is not kept.", [&] {
        const Exiv2::IptcData records = iptcOf(*image);
        if (records.empty()) return;
        const Exiv2::DataBuf iptc = Exiv2::IptcParser::encode(records);
        out.metadata.iptc.assign(iptc.pData_, iptc.pData_ + iptc.size_);
    });
    step(lost, "The photo's XMP data could not be read and is not kept.", [&] { keepXmp(bytes, xmpOf(*image), out); });
    step(lost, "The photo's comment could not be read and is not kept.",
         [&] { out.metadata.comment = image->comment(); });
    step(lost, "The photo's colour profile could not be read.", [&] {
        if (!image->iccProfileDefined()) return;
        const Exiv2::DataBuf& profile = *image->iccProfile();
        out.profile.assign(profile.pData_, profile.pData_ + profile.size_);
    });
    return out;
}

image::Metadata withSize(image::Metadata metadata, base::Size size) {
    step(metadata.lost, "The photo's Exif data could not be read and is not kept.", [&] {
        Exiv2::ExifData exif = exifOf(metadata);
        bool told = false;
        for (const auto& [key, px] : {std::pair("Exif.Photo.PixelXDimension", size.width),
                                      std::pair("Exif.Photo.PixelYDimension", size.height)}) {
            const auto found = exif.findKey(Exiv2::ExifKey(key));
            if (found == exif.end()) continue;
            *found = static_cast<std::uint32_t>(px);
            told = true;
        }
        if (told) metadata.exif = encodedWhatCan(exif, metadata.lost);
    });
    if (auto packet = xmpWithSize(metadata.xmp, size)) metadata.xmp = std::move(*packet);
    return metadata;
}

std::vector<ExifEntry> exifEntries(const std::vector<std::uint8_t>& block) {
    std::vector<ExifEntry> entries;
    try {
        Exiv2::ExifData exif;
        Exiv2::ExifParser::decode(exif, block.data(), static_cast<std::uint32_t>(block.size()));
        for (const Exiv2::Exifdatum& datum : exif) {
            const std::string group = datum.groupName();
            using Group = ExifEntry::Group;
            if (!describes(datum)) continue;
            constexpr std::uint16_t pointers[] = {34665, 34853, 40965, 330};  // to other lists of entries
            if (std::find(std::begin(pointers), std::end(pointers), datum.tag()) != std::end(pointers)) continue;
            constexpr int largestTiffType = 12, undefined = 7;
            const int type = datum.typeId() <= largestTiffType ? static_cast<int>(datum.typeId()) : undefined;
            std::vector<std::uint8_t> data(static_cast<std::size_t>(datum.size()));
            datum.copy(data.data(), Exiv2::littleEndian);
            const auto count = static_cast<std::uint32_t>(type == undefined ? datum.size() : datum.count());
            entries.push_back({group == "Image"   ? Group::image
                               : group == "Photo" ? Group::exif
                                                  : Group::gps,
                               datum.tag(), static_cast<std::uint16_t>(type), count, std::move(data)});
        }
    } catch (const std::exception&) {
        // What was decoded before the fault stands.
    }
    return entries;
}

std::vector<std::pair<std::string, std::string>> readableFacts(const image::Metadata& metadata) {
    std::vector<std::pair<std::string, std::string>> facts;
    try {
        const Exiv2::ExifData exif = exifOf(metadata);
        const auto add = [&](const char* label, const char* key) {
            const auto found = exif.findKey(Exiv2::ExifKey(key));
            if (found != exif.end()) facts.emplace_back(label, base::asUtf8(found->print(&exif)));
        };
        add("Camera", "Exif.Image.Model");
        add("Lens", "Exif.Photo.LensModel");
        add("Taken", "Exif.Photo.DateTimeOriginal");
        add("Exposure", "Exif.Photo.ExposureTime");
        add("Aperture", "Exif.Photo.FNumber");
        add("ISO", "Exif.Photo.ISOSpeedRatings");
        add("Focal length", "Exif.Photo.FocalLength");
    } catch (const std::exception&) {
        // Facts that cannot be read are left out.
    }
    return facts;
}

}  // namespace dimhem::io
