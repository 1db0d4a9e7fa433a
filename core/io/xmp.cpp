#include "core/io/xmp.h"

#include <nettle/md5.h>

#include <exiv2/exiv2.hpp>

#include "core/io/metadata_marks.h"

namespace dimhem::io {

namespace {

constexpr char extensionKey[] = "Xmp.xmpNote.HasExtendedXMP";

[[maybe_unused]] const bool known = [] {
    Exiv2::XmpProperties::registerNs(std::string(xmpNoteSpace), "xmpNote");
    return true;
}();

std::optional<Exiv2::XmpData> decoded(const std::string& packet) {
    try {
        Exiv2::XmpData data;
        if (Exiv2::XmpParser::decode(data, packet) == 0) return data;
    } catch (const std::exception&) {
        // Not well-formed, as below.
    }
    return std::nullopt;
}

std::optional<std::string> encoded(const Exiv2::XmpData& data) {
    try {
        std::string packet;
        if (Exiv2::XmpParser::encode(packet, data, Exiv2::XmpParser::useCompactFormat) == 0) return packet;
    } catch (const std::exception&) {
        // What cannot be written again is treated as not well-formed.
    }
    return std::nullopt;
}

std::string md5(const std::string& text) {
    md5_ctx context;
    md5_init(&context);
    md5_update(&context, text.size(), reinterpret_cast<const std::uint8_t*>(text.data()));
    std::uint8_t digest[MD5_DIGEST_SIZE];
    md5_digest(&context, sizeof digest, digest);
    std::string hex;
    for (const std::uint8_t byte : digest) {
        constexpr char digits[] = "0123456789ABCDEF";
        hex += digits[byte >> 4];
        hex += digits[byte & 15];
    }
    return hex;
}

}  // namespace

std::optional<std::string> uprightXmp(const std::string& packet) {
    auto data = decoded(packet);
    if (!data) return std::nullopt;
    const auto found = data->findKey(Exiv2::XmpKey("Xmp.tiff.Orientation"));
    if (found == data->end() || found->toString() == "1") return packet;
    found->setValue("1");
    return encoded(*data);
}

std::optional<std::string> xmpWithSize(const std::string& packet, base::Size size) {
    if (packet.empty()) return packet;
    auto data = decoded(packet);
    if (!data) return std::nullopt;
    bool told = false;
    for (const auto& [key, px] :
         {std::pair("Xmp.exif.PixelXDimension", size.width), std::pair("Xmp.exif.PixelYDimension", size.height),
          std::pair("Xmp.tiff.ImageWidth", size.width), std::pair("Xmp.tiff.ImageLength", size.height)}) {
        const auto found = data->findKey(Exiv2::XmpKey(key));
        if (found == data->end()) continue;
        found->setValue(std::to_string(px));
        told = true;
    }
    return told ? encoded(*data) : packet;
}

SplitXmp splitXmp(const std::string& packet, std::size_t mostBytes) {
    if (packet.size() <= mostBytes) return {packet, {}, {}};
    const std::string guid = md5(packet);
    const std::string standard =
        "<?xpacket begin=\"\xEF\xBB\xBF\" id=\"W5M0MpCehiHzreSzNTczkc9d\"?>"
        "<x:xmpmeta xmlns:x=\"" +
        std::string(xmpMetaSpace) +
        "\"><rdf:RDF xmlns:rdf=\"http://www.w3.org/1999/02/22-rdf-syntax-ns#\">"
        "<rdf:Description rdf:about=\"\" xmlns:xmpNote=\"" +
        std::string(xmpNoteSpace) + "\" xmpNote:HasExtendedXMP=\"" + guid +
        "\"/></rdf:RDF></x:xmpmeta><?xpacket end=\"w\"?>";
    return {standard, guid, packet};
}

std::string extensionOf(const std::string& standard) {
    if (standard.find("HasExtendedXMP") == std::string::npos) return {};
    const auto data = decoded(standard);
    if (!data) return {};
    const auto found = data->findKey(Exiv2::XmpKey(extensionKey));
    return found == data->end() ? std::string() : found->toString();
}

JoinedXmp joinXmp(const std::string& standard, const std::string& guid, const std::optional<std::string>& extension) {
    if (guid.empty()) return {standard, true};
    if (!extension || md5(*extension) != guid) return {standard, false};
    auto all = decoded(standard);
    const auto rest = decoded(*extension);
    if (!all || !rest) return {standard, false};
    all->erase(all->findKey(Exiv2::XmpKey(extensionKey)));
    if (all->empty()) return {*extension, true};
    for (const Exiv2::Xmpdatum& datum : *rest) all->add(datum);
    auto packet = encoded(*all);
    return packet ? JoinedXmp{*packet, true} : JoinedXmp{standard, false};
}

}  // namespace dimhem::io
