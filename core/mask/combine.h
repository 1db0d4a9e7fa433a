// The algebra of coverage (kernel/coverage_rows.h), for whole areas. Where nothing changes, the same memory comes back.
#pragma once

#include "core/mask/mask.h"

namespace dimhem::mask {

CoveragePtr constantCoverage(std::uint16_t value);
std::uint16_t opacityOf(const Part& part);

CoveragePtr combined(const CoveragePtr& mask, const CoveragePtr& part, Combine how, base::Size size);
// Flipped, then scaled.
CoveragePtr prepared(const CoveragePtr& coverage, bool flipped, std::uint16_t opacity, base::Size size);
// Another in the place of the first, as far as `share` says, 0..1.
CoveragePtr replaced(const CoveragePtr& before, const CoveragePtr& by, double share, base::Size size);

// Whether nothing that is combined so can change the mask.
bool isSettled(const Coverage& mask, Combine how);

}  // namespace dimhem::mask
