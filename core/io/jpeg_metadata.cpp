#include "core/io/jpeg_metadata.h"

#include <algorithm>
#include <string_view>

#include "core/io/iptc_block.h"
#include "core/io/metadata_marks.h"
#include "core/io/xmp.h"

namespace dimhem::io {

namespace {

constexpr std::size_t mostBytes = 65'533;  // of a segment's payload (ISO/IEC 10918-1, B.1.1.4)
constexpr int app1 = JPEG_APP0 + 1, app13 = JPEG_APP0 + 13;

void segment(jpeg_compress_struct& info, int marker, std::string_view mark, std::string_view content) {
    std::string bytes(mark);
    bytes += content;
    jpeg_write_marker(&info, marker, reinterpret_cast<const JOCTET*>(bytes.data()),
                      static_cast<unsigned>(bytes.size()));
}

std::string_view textOf(const std::vector<std::uint8_t>& bytes) {
    return {reinterpret_cast<const char*>(bytes.data()), bytes.size()};
}

std::string bigEndian(std::size_t n) {
    return {static_cast<char>(n >> 24), static_cast<char>(n >> 16), static_cast<char>(n >> 8), static_cast<char>(n)};
}

// A block that one segment holds, or a note that it is not kept.
void writeBlock(jpeg_compress_struct& info, int marker, std::string_view mark, const std::vector<std::uint8_t>& block,
                const char* name, Notes& notes) {
    if (block.empty()) return;
    if (block.size() + mark.size() <= mostBytes) {
        segment(info, marker, mark, textOf(block));
    } else {
        notes.push_back("The photo's " + std::string(name) + " data is too large for JPEG and is not kept.");
    }
}

void writeXmp(jpeg_compress_struct& info, const std::string& packet) {
    if (packet.empty()) return;
    const SplitXmp split = splitXmp(packet, mostBytes - xmpMark.size());
    segment(info, app1, xmpMark, split.standard);
    const std::size_t step = mostBytes - xmpExtensionMark.size() - split.guid.size() - 8;
    for (std::size_t at = 0; at < split.extension.size(); at += step) {
        const std::string head = split.guid + bigEndian(split.extension.size()) + bigEndian(at);
        segment(info, app1, xmpExtensionMark, head + split.extension.substr(at, step));
    }
}

}  // namespace

void writeJpegMetadata(jpeg_compress_struct& info, const image::Metadata& metadata, Notes& notes) {
    writeBlock(info, app1, exifMark, metadata.exif, "Exif", notes);
    writeXmp(info, metadata.xmp);
    if (!metadata.iptc.empty()) writeBlock(info, app13, iptcMark, iptcBlock(metadata.iptc), "IPTC", notes);
    for (std::size_t at = 0; at < metadata.comment.size(); at += mostBytes)
        segment(info, JPEG_COM, {}, std::string_view(metadata.comment).substr(at, mostBytes));
}

}  // namespace dimhem::io
