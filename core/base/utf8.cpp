#include "core/base/utf8.h"

#include <cctype>
#include <charconv>
#include <cstdint>

namespace dimhem::base {

namespace {

struct Sequence {
    int length;           // 0: not valid
    std::uint32_t least;  // that needs this length
};

Sequence sequenceOf(unsigned char lead) {
    if (lead < 0x80) return {1, 0};
    if (lead >= 0xc2 && lead <= 0xdf) return {2, 0x80};
    if (lead >= 0xe0 && lead <= 0xef) return {3, 0x800};
    if (lead >= 0xf0 && lead <= 0xf4) return {4, 0x10000};
    return {0, 0};
}

bool isCharacter(std::uint32_t code, std::uint32_t least) {
    const bool surrogate = code >= 0xd800 && code <= 0xdfff;
    return code >= least && code <= 0x10ffff && !surrogate;
}

}  // namespace

bool isUtf8(std::string_view bytes) {
    for (std::size_t at = 0; at < bytes.size();) {
        const auto lead = static_cast<unsigned char>(bytes[at]);
        const Sequence sequence = sequenceOf(lead);
        const auto length = static_cast<std::size_t>(sequence.length);
        if (length == 0 || at + length > bytes.size()) return false;
        std::uint32_t code = length == 1 ? lead : lead & (0x7fu >> length);
        for (std::size_t i = 1; i < length; ++i) {
            const auto next = static_cast<unsigned char>(bytes[at + i]);
            if ((next & 0xc0) != 0x80) return false;
            code = code << 6 | (next & 0x3f);
        }
        if (!isCharacter(code, sequence.least)) return false;
        at += length;
    }
    return true;
}

std::string asUtf8(std::string_view bytes) {
    if (isUtf8(bytes)) return std::string(bytes);
    std::string text;
    for (const char c : bytes) {
        const auto byte = static_cast<unsigned char>(c);
        if (byte < 0x80) {
            text += c;
        } else {
            text += static_cast<char>(0xc0 | byte >> 6);
            text += static_cast<char>(0x80 | (byte & 0x3f));
        }
    }
    return text;
}

std::string percentEncoded(std::string_view bytes) {
    std::string text;
    for (const char c : bytes) {
        const auto byte = static_cast<unsigned char>(c);
        if (byte < 0x80 && (std::isalnum(byte) || std::string_view("-._~/").find(c) != std::string_view::npos)) {
            text += c;
        } else {
            constexpr char digits[] = "0123456789ABCDEF";
            text += {'%', digits[byte >> 4], digits[byte & 15]};
        }
    }
    return text;
}

std::string percentDecoded(std::string_view text) {
    std::string bytes;
    for (std::size_t at = 0; at < text.size(); ++at) {
        unsigned value = 0;
        const bool coded = text[at] == '%' && text.size() - at > 2 &&
                           std::from_chars(&text[at + 1], &text[at + 3], value, 16).ptr == &text[at + 3];
        if (coded) at += 2;
        bytes += coded ? static_cast<char>(value) : text[at];
    }
    return bytes;
}

}  // namespace dimhem::base
