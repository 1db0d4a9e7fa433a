// Clean edge: at partly covered pixels a correction acts on the subject's own colour (edge/unmix.h) instead of on its
// mixture with what is behind, so that no rim of the old cast is left and none of the new one spills.
//
// In linear light, with coverage a, the picture P, the subject's colour F and the correction g at its strength:
// P + a (g(F) - F), blended with plain mixing by how far F can be trusted. Full and no coverage are as without it.
#pragma once

#include <memory>

#include "core/edge/unmix.h"
#include "core/mask/mask.h"
#include "core/render/sequence.h"

namespace dimhem::render {

// The subject's colour over an area, and how far to trust it, 0..1. Empty where no pixel is partly covered.
struct OwnColours {
    image::EncodedPlanes own;
    image::Plane<float> trust;
    std::size_t bytes() const { return own.bytes() + trust.bytes(); }
};

// `context` sees what the correction's mask sees: the picture arriving at it. The outcome does not depend on how the
// photo is cut into areas: estimates are made in fixed blocks. Mask and context must outlive it.
stage::Staged<OwnColours> ownColours(const mask::Mask& mask, const mask::Area& area, mask::Context& context);

// Puts right rows of an area that plain mixing has been done on. `before` is the row as it was.
class CleanEdgeRow {
public:
    explicit CleanEdgeRow(int width);
    // `operations` of the step, and the rows of their models from the beginning of the row.
    void apply(const Sequence::Step& step, std::span<const adjust::Operation> operations,
               const adjust::ModelRows& models, const OwnColours& own, const mask::Coverage& coverage, int y,
               kernel::ConstEncodedRow before, kernel::EncodedRow row, int count);

private:
    adjust::ModelRows gathered(const adjust::ModelRows& models);

    std::vector<int> places_;
    std::vector<std::vector<float>> model_;
    image::EncodedPlanes own_, changed_, was_;
};

}  // namespace dimhem::render
