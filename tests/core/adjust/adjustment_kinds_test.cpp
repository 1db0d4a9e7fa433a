// What kinds of adjustments say of themselves is what they do.
#include <gtest/gtest.h>

#include <algorithm>

#include "core/adjust/adjustment.h"
#include "core/adjust/registry.h"

namespace dimhem::tests {

TEST(AdjustmentKinds, SayWhetherTheyPaint) {
    int painting = 0;
    for (const adjust::AdjustmentKind* kind : adjust::adjustmentKinds()) {
        const adjust::Operations operations = kind->prepare(adjust::startingSettings(*kind));
        EXPECT_EQ(kind->paints, std::ranges::any_of(operations, adjust::isPainting)) << kind->id;
        painting += kind->paints;
    }
    EXPECT_GT(painting, 0);
}

}  // namespace dimhem::tests
