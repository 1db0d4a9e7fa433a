// IPTC-IIM records in the wrapping that JPEG and PNG carry them in: an image resource of number 0x0404.
#pragma once

#include <cstdint>
#include <vector>

namespace dimhem::io {

inline std::vector<std::uint8_t> iptcBlock(const std::vector<std::uint8_t>& iptc) {
    const std::size_t n = iptc.size();
    const auto byte = [n](int shift) { return static_cast<std::uint8_t>(n >> shift); };
    std::vector<std::uint8_t> block;
    block.reserve(n + 13);
    for (const std::uint8_t b :
         {std::uint8_t{'8'}, std::uint8_t{'B'}, std::uint8_t{'I'}, std::uint8_t{'M'}, std::uint8_t{4}, std::uint8_t{4},
          std::uint8_t{0}, std::uint8_t{0}, byte(24), byte(16), byte(8), byte(0)})
        block.push_back(b);
    block.insert(block.end(), iptc.begin(), iptc.end());
    if (n % 2 != 0) block.push_back(0);
    return block;
}

}  // namespace dimhem::io
