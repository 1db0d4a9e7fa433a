#include "core/base/nearest_word.h"

#include <algorithm>
#include <numeric>
#include <utility>
#include <vector>

namespace dimhem::base {

namespace {

std::size_t distance(std::string_view a, std::string_view b) {
    std::vector<std::size_t> row(b.size() + 1);
    std::iota(row.begin(), row.end(), std::size_t{0});
    for (std::size_t i = 0; i < a.size(); ++i) {
        std::size_t corner = std::exchange(row[0], i + 1);
        for (std::size_t j = 0; j < b.size(); ++j) {
            const std::size_t changed = corner + (a[i] != b[j] ? 1 : 0);
            corner = row[j + 1];
            row[j + 1] = std::min({changed, row[j] + 1, row[j + 1] + 1});
        }
    }
    return row.back();
}

}  // namespace

std::string_view nearestWord(std::string_view typed, std::span<const std::string_view> known) {
    constexpr std::size_t enoughToBegin = 3;
    std::string_view best;
    std::size_t least = typed.size() / 2 + 1;  // less alike than that is another word
    for (const std::string_view word : known) {
        const bool begins = typed.size() >= enoughToBegin && word.starts_with(typed);
        const std::size_t d = begins ? 1 : distance(typed, word);
        if (d >= least) continue;
        least = d;
        best = word;
    }
    return best;
}

}  // namespace dimhem::base
