// A row that is in one domain or the other, converted in place when it is asked for in the other.
#pragma once

#include "core/kernel/srgb_rows.h"

namespace dimhem::kernel {

class ConvertibleRow {
public:
    ConvertibleRow(EncodedRow row, std::size_t count)
        : red_(row.red), green_(row.green), blue_(row.blue), count_(count) {}
    ConvertibleRow(LinearRow row, std::size_t count)
        : red_(row.red), green_(row.green), blue_(row.blue), count_(count), isLinear_(true) {}

    std::size_t count() const { return count_; }
    bool isLinear() const { return isLinear_; }

    EncodedRow encoded() {
        if (isLinear_) kernel::encoded({red_, green_, blue_}, count_);
        isLinear_ = false;
        return {red_, green_, blue_};
    }
    LinearRow linear() {
        if (!isLinear_) kernel::decoded({red_, green_, blue_}, count_);
        isLinear_ = true;
        return {red_, green_, blue_};
    }

private:
    float *red_, *green_, *blue_;
    std::size_t count_;
    bool isLinear_ = false;
};

}  // namespace dimhem::kernel
