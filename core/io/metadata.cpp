#include "core/io/metadata.h"

#include <cerrno>
#include <exiv2/exiv2.hpp>

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

void keepExif(Exiv2::ExifData exif, EmbeddedMetadata& out) {
    const Exiv2::ExifKey orientation("Exif.Image.Orientation");
    if (const auto found = exif.findKey(orientation); found != exif.end()) {
        const auto value = found->toLong();
        if (value >= 1 && value <= 8) out.orientation = static_cast<int>(value);
        *found = std::uint16_t{1};
    }
    forgetStorage(exif);
    if (exif.empty()) return;
    Exiv2::Blob blob;
    Exiv2::ExifParser::encode(blob, Exiv2::littleEndian, exif);
    out.metadata.exif = std::move(blob);
}

}  // namespace

EmbeddedMetadata readMetadata(Bytes bytes) {
    EmbeddedMetadata out;
    try {
        const auto image = Exiv2::ImageFactory::open(bytes.data(), static_cast<long>(bytes.size()));
        image->readMetadata();
        keepExif(image->exifData(), out);
        if (!image->iptcData().empty()) {
            const Exiv2::DataBuf iptc = Exiv2::IptcParser::encode(image->iptcData());
            out.metadata.iptc.assign(iptc.pData_, iptc.pData_ + iptc.size_);
        }
        out.metadata.xmp = image->xmpPacket();
        if (image->iccProfileDefined()) {
            const Exiv2::DataBuf& profile = *image->iccProfile();
            out.profile.assign(profile.pData_, profile.pData_ + profile.size_);
        }
    } catch (const std::exception&) {
        // A file without readable metadata is an ordinary photo.
    }
    return out;
}

base::Result<void> writeMetadata(const PendingFile& file, const image::Metadata& metadata, Bytes profile) {
    const bool nothing = metadata.exif.empty() && metadata.iptc.empty() && metadata.xmp.empty() && profile.empty();
    if (nothing) return {};
    try {
        const auto image = Exiv2::ImageFactory::open(file.temporaryPath().string());
        image->readMetadata();
        if (!metadata.exif.empty()) {
            // A TIFF file has its own structure among the tags: ours are added to it.
            Exiv2::ExifData exif = image->exifData();
            for (const Exiv2::Exifdatum& datum : exifOf(metadata)) exif[datum.key()] = datum.value();
            image->setExifData(exif);
        }
        if (!metadata.iptc.empty()) {
            Exiv2::IptcData iptc;
            Exiv2::IptcParser::decode(iptc, metadata.iptc.data(), static_cast<std::uint32_t>(metadata.iptc.size()));
            image->setIptcData(iptc);
        }
        if (!metadata.xmp.empty()) {
            image->setXmpPacket(metadata.xmp);
            Exiv2::XmpData xmp;
            if (Exiv2::XmpParser::decode(xmp, metadata.xmp) == 0) image->setXmpData(xmp);
        }
        if (!profile.empty()) {
            Exiv2::DataBuf buffer(profile.data(), static_cast<long>(profile.size()));
            image->setIccProfile(buffer);
        }
        errno = 0;
        image->writeMetadata();
    } catch (const std::exception&) {
        return file.failure(errno ? errno : EIO);
    }
    return {};
}

std::vector<std::pair<std::string, std::string>> readableFacts(const image::Metadata& metadata) {
    std::vector<std::pair<std::string, std::string>> facts;
    try {
        const Exiv2::ExifData exif = exifOf(metadata);
        const auto add = [&](const char* label, const char* key) {
            const auto found = exif.findKey(Exiv2::ExifKey(key));
            if (found != exif.end()) facts.emplace_back(label, found->print(&exif));
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
