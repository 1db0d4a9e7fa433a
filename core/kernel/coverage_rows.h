// Coverage algebra on rows of 16-bit coverage (0 none .. 65535 full), after Porter and Duff, "Compositing Digital
// Images", 1984. Products are rounded to nearest: a b / 65535.
//
//   add       a + b - a b      ("over" of two coverages)
//   subtract  a (1 - b)        ("out")
//   overlap   a b              ("in")
#pragma once

#include <cstddef>
#include <cstdint>

namespace dimhem::kernel {

inline constexpr std::uint32_t fullCoverage = 65535;

// a b / 65535, rounded to nearest, exactly, for a, b in 0..65535.
constexpr std::uint16_t coverageProduct(std::uint32_t a, std::uint32_t b) {
    const std::uint32_t p = a * b + 32768u;  // at most 65535^2 + 32768 < 2^32
    return static_cast<std::uint16_t>((p + (p >> 16)) >> 16);
}

constexpr std::uint16_t coverageAdd(std::uint32_t a, std::uint32_t b) {
    return static_cast<std::uint16_t>(a + coverageProduct(fullCoverage - a, b));
}

constexpr std::uint16_t coverageSubtract(std::uint32_t a, std::uint32_t b) {
    return coverageProduct(a, fullCoverage - b);
}

void addRow(std::uint16_t* mask, const std::uint16_t* part, std::size_t count);
void subtractRow(std::uint16_t* mask, const std::uint16_t* part, std::size_t count);
void overlapRow(std::uint16_t* mask, const std::uint16_t* part, std::size_t count);

// The part as it enters the mask: turned inside out first if `flipped`, then scaled by `opacity` (0..65535).
void preparePartRow(std::uint16_t* part, bool flipped, std::uint16_t opacity, std::size_t count);

}  // namespace dimhem::kernel
