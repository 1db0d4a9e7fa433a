#include "core/adjust/registry.h"

#include "core/adjust/banding.h"
#include "core/adjust/colour_balance.h"
#include "core/adjust/detail.h"
#include "core/adjust/glow.h"
#include "core/adjust/grain.h"
#include "core/adjust/haze.h"
#include "core/adjust/hue_bands.h"
#include "core/adjust/ink_table.h"
#include "core/adjust/light.h"
#include "core/adjust/line_fill.h"
#include "core/adjust/match_area.h"
#include "core/adjust/noise.h"
#include "core/adjust/paint.h"
#include "core/adjust/saturation.h"
#include "core/adjust/shadow_lift.h"
#include "core/adjust/smooth_fill.h"
#include "core/adjust/soften.h"
#include "core/adjust/spill_suppression.h"
#include "core/adjust/texture_fill.h"
#include "core/adjust/tint.h"
#include "core/adjust/tone_curve.h"
#include "core/adjust/veil.h"
#include "core/adjust/white_balance.h"

namespace dimhem::adjust {

std::span<const AdjustmentKind* const> adjustmentKinds() {
    static constexpr const AdjustmentKind* kinds[] = {
        &light, &toneCurve,        &whiteBalance, &colourBalance, &hueBands, &saturation,  &inkTable,   &matchArea,
        &tint,  &spillSuppression, &noise,        &banding,       &grain,    &haze,        &shadowLift, &veil,
        &glow,  &detail,           &soften,       &smoothFill,    &lineFill, &textureFill, &paint};
    return kinds;
}

const AdjustmentKind* findAdjustmentKind(std::string_view id) {
    for (const AdjustmentKind* kind : adjustmentKinds()) {
        if (kind->id == id) return kind;
    }
    return nullptr;
}

}  // namespace dimhem::adjust
