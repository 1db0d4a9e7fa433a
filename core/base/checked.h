// Sizes of buffers, computed without overflow. Every width x height x channels of untrusted input goes through here.
#pragma once

#include <cstddef>
#include <initializer_list>
#include <limits>
#include <optional>

namespace dimhem::base {

// The product of the factors, or nothing where it does not fit into size_t.
inline std::optional<std::size_t> checkedSize(std::initializer_list<std::size_t> factors) {
    std::size_t product = 1;
    for (const std::size_t factor : factors) {
        if (factor != 0 && product > std::numeric_limits<std::size_t>::max() / factor) return std::nullopt;
        product *= factor;
    }
    return product;
}

}  // namespace dimhem::base
