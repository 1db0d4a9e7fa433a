#include "core/io/tiff_metadata.h"

#include <unistd.h>

#include <algorithm>
#include <bit>
#include <cstring>

#include "core/io/metadata.h"

namespace dimhem::io {

namespace {

static_assert(std::endian::native == std::endian::little, "entries are written as they stand in memory");

using Group = ExifEntry::Group;

template <class T>
std::vector<T> valuesOf(const ExifEntry& entry) {
    std::vector<T> values(entry.data.size() / sizeof(T));
    std::memcpy(values.data(), entry.data.data(), values.size() * sizeof(T));
    return values;
}

// Numbers of a rational, as libtiff takes them.
std::vector<float> ratiosOf(const ExifEntry& entry) {
    std::vector<float> ratios;
    const auto parts = valuesOf<std::uint32_t>(entry);
    for (std::size_t i = 0; i + 1 < parts.size(); i += 2) {
        const bool isSigned = entry.type == TIFF_SRATIONAL;
        const double above = isSigned ? static_cast<std::int32_t>(parts[i]) : static_cast<double>(parts[i]);
        const double below = isSigned ? static_cast<std::int32_t>(parts[i + 1]) : static_cast<double>(parts[i + 1]);
        ratios.push_back(below != 0 ? static_cast<float>(above / below) : 0);
    }
    return ratios;
}

// A tag that libtiff has no name for is made known to this file: any number of values of the entry's type.
bool setUnknown(TIFF* tiff, const ExifEntry& entry) {
    if (entry.type < TIFF_BYTE || entry.type > TIFF_DOUBLE) return false;
    static char name[] = "Exif";
    const TIFFFieldInfo field{
        entry.tag, TIFF_VARIABLE2, TIFF_VARIABLE2, static_cast<TIFFDataType>(entry.type), FIELD_CUSTOM, 1, 1, name};
    if (TIFFMergeFieldInfo(tiff, &field, 1) != 0) return false;
    if (entry.type == TIFF_RATIONAL || entry.type == TIFF_SRATIONAL) {
        const std::vector<float> ratios = ratiosOf(entry);
        return TIFFSetField(tiff, entry.tag, static_cast<std::uint32_t>(ratios.size()), ratios.data()) == 1;
    }
    return TIFFSetField(tiff, entry.tag, entry.count, entry.data.data()) == 1;
}

bool setText(TIFF* tiff, const ExifEntry& entry) {
    const std::string text(entry.data.begin(), std::find(entry.data.begin(), entry.data.end(), 0));
    return TIFFSetField(tiff, entry.tag, text.c_str()) == 1;
}

// The entries that libtiff knows and that say something of the photo; the others it knows are of the file's structure.
bool set(TIFF* tiff, const ExifEntry& entry) {
    const bool isRatio = entry.type == TIFF_RATIONAL || entry.type == TIFF_SRATIONAL;
    switch (entry.tag) {
        case TIFFTAG_DOCUMENTNAME:
        case TIFFTAG_IMAGEDESCRIPTION:
        case TIFFTAG_MAKE:
        case TIFFTAG_MODEL:
        case TIFFTAG_PAGENAME:
        case TIFFTAG_SOFTWARE:
        case TIFFTAG_DATETIME:
        case TIFFTAG_ARTIST:
        case TIFFTAG_HOSTCOMPUTER:
        case TIFFTAG_COPYRIGHT: return entry.type == TIFF_ASCII && setText(tiff, entry);
        case TIFFTAG_ORIENTATION:
        case TIFFTAG_RESOLUTIONUNIT:
            return entry.type == TIFF_SHORT && entry.count == 1 &&
                   TIFFSetField(tiff, entry.tag, valuesOf<std::uint16_t>(entry)[0]) == 1;
        case TIFFTAG_XRESOLUTION:
        case TIFFTAG_YRESOLUTION:
            return isRatio && entry.count == 1 &&
                   TIFFSetField(tiff, entry.tag, static_cast<double>(ratiosOf(entry)[0])) == 1;
        default: return !TIFFFindField(tiff, entry.tag, TIFF_ANY) && setUnknown(tiff, entry);
    }
}

template <class T>
void append(std::vector<std::uint8_t>& to, T value) {
    const auto* bytes = reinterpret_cast<const std::uint8_t*>(&value);
    to.insert(to.end(), bytes, bytes + sizeof value);
}

// A list of entries as TIFF 6.0, section 2, lays it out, for a place in the file: values of up to four bytes stand in
// the entry, longer ones behind the list.
std::vector<std::uint8_t> directoryAt(std::uint32_t place, std::vector<ExifEntry> entries) {
    std::sort(entries.begin(), entries.end(), [](const ExifEntry& a, const ExifEntry& b) { return a.tag < b.tag; });
    constexpr std::size_t entryBytes = 12, valueBytes = 4;
    std::vector<std::uint8_t> list, values;
    const auto valuesPlace = static_cast<std::uint32_t>(place + 2 + entries.size() * entryBytes + 4);
    append(list, static_cast<std::uint16_t>(entries.size()));
    for (const ExifEntry& entry : entries) {
        append(list, entry.tag);
        append(list, entry.type);
        append(list, entry.count);
        std::vector<std::uint8_t> data = entry.data;
        if (data.size() <= valueBytes) {
            data.resize(valueBytes);
            list.insert(list.end(), data.begin(), data.end());
            continue;
        }
        append(list, static_cast<std::uint32_t>(valuesPlace + values.size()));
        if (data.size() % 2 != 0) data.push_back(0);  // values begin at even places
        values.insert(values.end(), data.begin(), data.end());
    }
    append(list, std::uint32_t{0});  // no list after this one
    list.insert(list.end(), values.begin(), values.end());
    return list;
}

bool appendGroup(TIFF* tiff, std::uint32_t pointer, const std::vector<ExifEntry>& entries) {
    if (entries.empty()) return true;
    const int fd = TIFFFileno(tiff);
    const off_t end = ::lseek(fd, 0, SEEK_END);
    if (end < 0) return false;
    const auto place = static_cast<std::uint32_t>((end + 1) & ~off_t{1});
    const std::vector<std::uint8_t> bytes = directoryAt(place, entries);
    if (::pwrite(fd, bytes.data(), bytes.size(), place) != static_cast<ssize_t>(bytes.size())) return false;
    return TIFFSetField(tiff, pointer, std::uint64_t{place}) == 1;
}

}  // namespace

void describeTiff(TIFF* tiff, const image::Metadata& metadata, Notes& notes) {
    if (!metadata.xmp.empty())
        TIFFSetField(tiff, TIFFTAG_XMLPACKET, static_cast<std::uint32_t>(metadata.xmp.size()), metadata.xmp.data());
    if (!metadata.iptc.empty()) {
        // Versions of the library count this tag in bytes or in words of four.
        const auto width =
            static_cast<std::size_t>(TIFFDataWidth(TIFFFieldDataType(TIFFFieldWithTag(tiff, TIFFTAG_RICHTIFFIPTC))));
        std::vector<std::uint8_t> records = metadata.iptc;
        records.resize((records.size() + width - 1) / width * width);
        TIFFSetField(tiff, TIFFTAG_RICHTIFFIPTC, static_cast<std::uint32_t>(records.size() / width), records.data());
    }
    if (!metadata.comment.empty()) notes.push_back("A TIFF file has no place for the photo's comment; it is not kept.");
    for (const ExifEntry& entry : exifEntries(metadata.exif)) {
        if (entry.group != Group::image || entry.count == 0) continue;
        if (!set(tiff, entry))
            notes.push_back("An entry of the photo's metadata (tag " + std::to_string(entry.tag) + ") is not kept.");
    }
}

bool appendTiffExif(TIFF* tiff, const image::Metadata& metadata, Notes& notes) {
    std::vector<ExifEntry> exif, gps;
    for (ExifEntry& entry : exifEntries(metadata.exif)) {
        if (entry.group == Group::exif)
            exif.push_back(std::move(entry));
        else if (entry.group == Group::gps)
            gps.push_back(std::move(entry));
    }
    if (TIFFIsBigTIFF(tiff)) {
        if (!exif.empty() || !gps.empty())
            notes.push_back("The photo's Exif data is not kept in a TIFF file of this size.");
        return true;
    }
    return appendGroup(tiff, TIFFTAG_EXIFIFD, exif) && appendGroup(tiff, TIFFTAG_GPSIFD, gps);
}

}  // namespace dimhem::io
