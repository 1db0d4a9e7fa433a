// The hem check of one correction (check/hem.h), over the whole photo.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/check/hem.h"
#include "core/render/renderer.h"

namespace dimhem::task {

// Of the edge: where more was not measured, the numbers of the rest would mislead.
inline constexpr double mostUnmeasuredPct = 40;

struct HemReport {
    bool measured = false;  // false: the mask has no edge to look at
    // Nothing but gradients: they end where they were drawn, not at an edge of the photo. What stands in their way is
    // found all the same (check/figures.h).
    bool isGradual = false;
    // The parts that were looked at, where gradients and wires beside them were left out; empty: the mask as a whole.
    // Shares are then of what these parts cover or, where they only take away, of what they take.
    std::vector<std::string> ofParts;
    bool takes = false;   // these parts only take away
    bool paints = false;  // the correction fills or paints: what it covers is not meant to end at an edge
    double spillPct = 0, shortPct = 0;
    double unmeasuredPct = 0;  // of the mask's edge
    int gaps = 0, specks = 0;
    std::vector<check::Finding> findings;  // gaps and specks first, then stretches; in pixels of the photo
    int level = 0;                         // looked at; at most 6 megapixels
    image::Plane<std::int8_t> difference;  // mask less estimate over the level, in 1/100
};

// Blocks that have not changed since an earlier check are found in the renderer's cache. Nothing where there is no such
// correction.
std::optional<HemReport> hemCheck(const render::Renderer& renderer, const document::DocumentPtr& document,
                                  document::Id correction, const base::Workers& workers = {},
                                  const base::CancelToken& cancel = {});

}  // namespace dimhem::task
