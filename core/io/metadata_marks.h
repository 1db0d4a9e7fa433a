// Identifiers that published standards prescribe byte for byte, names of companies in them or not.
#pragma once

#include <string_view>

namespace dimhem::io {

// Segments of JPEG files: Exif 2.32, 4.7.2; XMP specification part 3 (ISO 16684-1 gives the packet); IPTC-IIM 4.2
// within image resources.
inline constexpr std::string_view exifMark("Exif\0\0", 6);
inline constexpr std::string_view xmpMark("http://ns.adobe.com/xap/1.0/\0", 29);
inline constexpr std::string_view xmpExtensionMark("http://ns.adobe.com/xmp/extension/\0", 35);
inline constexpr std::string_view iptcMark("Photoshop 3.0\0", 14);

// The key word of an XMP packet in PNG (XMP specification part 3).
inline constexpr char xmpKeyWord[] = "XML:com.adobe.xmp";

// Namespaces of XMP (ISO 16684-1; the note is of XMP specification part 3).
inline constexpr std::string_view xmpMetaSpace = "adobe:ns:meta/";
inline constexpr std::string_view xmpNoteSpace = "http://ns.adobe.com/xmp/note/";
inline constexpr std::string_view xmpBasicSpace = "http://ns.adobe.com/xap/1.0/";
inline constexpr std::string_view xmpTiffSpace = "http://ns.adobe.com/tiff/1.0/";

}  // namespace dimhem::io
