// A weight that depends on one number, finely tabled: looked up, it costs no more the more there is to work out.
#pragma once

#include <algorithm>
#include <cstddef>
#include <vector>

namespace dimhem::mask {

class WeightTable {
public:
    // weight(v) for v from `from` to `to`; beyond, the weights of the ends.
    template <class Weight>
    WeightTable(double from, double to, Weight weight) : from_(static_cast<float>(from)) {
        constexpr std::size_t entries = 4000;
        const double step = std::max(to - from, 1e-9) / entries;
        perUnit_ = static_cast<float>(1 / step);
        for (std::size_t i = 0; i <= entries; ++i)
            values_.push_back(static_cast<float>(weight(from + static_cast<double>(i) * step)));
    }
    float operator()(float v) const {
        const auto last = static_cast<float>(values_.size() - 1);
        const float at = std::clamp((v - from_) * perUnit_, 0.0f, last);
        const auto i = std::min(static_cast<std::size_t>(at), values_.size() - 2);
        const float f = at - static_cast<float>(i);
        return values_[i] * (1 - f) + values_[i + 1] * f;
    }

private:
    float from_, perUnit_;
    std::vector<float> values_;
};

}  // namespace dimhem::mask
