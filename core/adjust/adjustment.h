// An adjustment changes the colour of pixels; one kind is one file pair, listed in registry.cpp.
//
// Rules common to all of them, which a header repeats only where it departs from them:
//   - Rows come in and go out as extended encoded sRGB (core/colour/types.h), planar, in place, any finite value.
//     An adjustment that works in linear light converts inside and says so.
//   - Values of the parameters are in the order of `params` and within their ranges.
//   - With all numbers at their neutral value nothing is called at all: output equals input, bit for bit.
//   - Mixing through the mask, strength and the switch are the renderer's.
//   - prepare() computes what is the same for all pixels; row() may be called from many threads at once.
#pragma once

#include <memory>
#include <span>
#include <string_view>
#include <vector>

#include "core/base/param.h"
#include "core/kernel/mix_rows.h"

namespace dimhem::adjust {

class RowOperation {
public:
    virtual ~RowOperation() = default;
    virtual void row(kernel::RgbRow pixels, std::size_t count) const = 0;
};

struct AdjustmentKind {
    std::string_view id;     // as written in documents
    std::string_view label;  // as shown
    std::string_view cures;  // the kind of fault it is listed under: "tone", "colour cast"
    std::string_view tip;
    std::span<const base::ParamSpec> params;
    std::unique_ptr<RowOperation> (*prepare)(std::span<const double> values);
};

std::vector<double> neutralValues(const AdjustmentKind& kind);

// Whether the adjustment does nothing: every number at its neutral value. Toggles alone change no pixel.
bool isNeutral(const AdjustmentKind& kind, std::span<const double> values);

}  // namespace dimhem::adjust
