// What the program accepts. Checked before anything is allocated, so that a header that lies costs nothing.
#pragma once

#include <cstdint>

namespace dimhem::image {

inline constexpr int maxSidePx = 1'000'000;                // the largest side
inline constexpr std::int64_t maxPixels = 500'000'000;     // 500 megapixels
inline constexpr std::int64_t maxProfileBytes = 16 << 20;  // an embedded colour profile

}  // namespace dimhem::image
