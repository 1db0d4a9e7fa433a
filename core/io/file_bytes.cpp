#include "core/io/file_bytes.h"

#include <nettle/sha2.h>

#include <array>

#include "core/io/held_file.h"

namespace dimhem::io {

using base::Result;

Result<std::vector<std::uint8_t>> readFile(const std::filesystem::path& path) {
    const auto held = HeldFile::open(path);
    if (!held) return tl::unexpected(held.error());
    return (*held)->read();
}

std::string sha256(std::span<const std::uint8_t> bytes) {
    sha256_ctx context;
    sha256_init(&context);
    sha256_update(&context, bytes.size(), bytes.data());
    std::array<std::uint8_t, SHA256_DIGEST_SIZE> digest{};
    sha256_digest(&context, digest.size(), digest.data());
    std::string text;
    for (const std::uint8_t byte : digest) {
        constexpr char digits[] = "0123456789abcdef";
        text += digits[byte >> 4];
        text += digits[byte & 15];
    }
    return text;
}

}  // namespace dimhem::io
