// Documents on disk: a zip file of document.json, thumbnail.png and, where asked for, a copy of the photo; described in
// docs/document-format.md. A bare document.json is read too.
#pragma once

#include <filesystem>
#include <optional>

#include "core/document/document.h"
#include "core/io/file_stamp.h"
#include "core/io/format.h"

namespace dimhem::io {

inline constexpr std::string_view documentExtension = "dimhem";

using Entries = std::vector<std::pair<std::string, std::vector<std::uint8_t>>>;

struct StoredDocument {
    document::DocumentPtr document;
    std::vector<std::uint8_t> packedPhoto;  // the photo file itself, where it travels inside
    Entries mattes;                         // the pictures of matte parts, by name
    std::optional<FileStamp> stamp;         // of the file that was read
    std::vector<std::string> warnings;      // members nobody knows, one sentence each
};

// Whether the bytes begin like a document (a zip file or JSON), as opposed to a photo.
bool looksLikeDocument(Bytes start);

base::Result<StoredDocument> readDocument(const std::filesystem::path& path);
// From the bytes of the file, whose name stands in the sentences of errors.
base::Result<StoredDocument> readDocument(Bytes bytes, const std::filesystem::path& path);

// Written whole or not at all: what is about to replace the old file is read back first, from the disk, and is the
// document that was given. `packedPhoto` is stored where document.photo.packed.
base::Result<void> writeDocument(const std::filesystem::path& path, const document::Document& document,
                                 Bytes thumbnailPng, Bytes packedPhoto, const Entries& mattes, const WriteRules& rules);

// The picture of a document without reading the rest; nothing where it has none.
std::optional<std::vector<std::uint8_t>> readThumbnail(const std::filesystem::path& path);

}  // namespace dimhem::io
