// Bytes that are meant to be text, but need not be UTF-8: names of files above all, which Linux takes as any bytes.
#pragma once

#include <string>
#include <string_view>

namespace dimhem::base {

bool isUtf8(std::string_view bytes);  // well-formed by RFC 3629

// The bytes where they are UTF-8, else each of them as a character of Latin-1 (ISO/IEC 8859-1).
std::string asUtf8(std::string_view bytes);

// Any bytes as ASCII and back: letters, digits and "-._~/" stand for themselves, others as %XX (RFC 3986, 2.1).
std::string percentEncoded(std::string_view bytes);
std::string percentDecoded(std::string_view text);

}  // namespace dimhem::base
