#include "core/kernel/coverage_rows.h"

namespace dimhem::kernel {

// Plain loops: the compiler makes vectors of them, and their cost is small beside that of the parts themselves.

void addRow(std::uint16_t* mask, const std::uint16_t* part, std::size_t count) {
    for (std::size_t i = 0; i < count; ++i) mask[i] = coverageAdd(mask[i], part[i]);
}

void subtractRow(std::uint16_t* mask, const std::uint16_t* part, std::size_t count) {
    for (std::size_t i = 0; i < count; ++i) mask[i] = coverageSubtract(mask[i], part[i]);
}

void overlapRow(std::uint16_t* mask, const std::uint16_t* part, std::size_t count) {
    for (std::size_t i = 0; i < count; ++i) mask[i] = coverageProduct(mask[i], part[i]);
}

void preparePartRow(std::uint16_t* part, bool flipped, std::uint16_t opacity, std::size_t count) {
    if (flipped) {
        for (std::size_t i = 0; i < count; ++i) part[i] = static_cast<std::uint16_t>(fullCoverage - part[i]);
    }
    if (opacity != fullCoverage) {
        for (std::size_t i = 0; i < count; ++i) part[i] = coverageProduct(part[i], opacity);
    }
}

}  // namespace dimhem::kernel
