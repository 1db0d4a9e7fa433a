#include "ui/part/kinds.h"

#include "core/mask/haze_depth.h"
#include "core/mask/luminosity_range.h"
#include "ui/part/rows.h"

namespace dimhem::ui {

void addHazeDepth(const SettingsBuilder& b) {
    using Values = mask::HazeDepthValues;
    const auto values = [](const mask::HazeDepth& r) { return r.values(); };
    const auto made = [](const Values& v) -> mask::ShapePtr { return std::make_shared<mask::HazeDepth>(v); };
    addStrip<mask::HazeDepth, Values>(b, RangeStrip::Scale::tone, QObject::tr("Haze, near to far, %"), "haze",
                                      QObject::tr("change haze of range"), &Values::haze);
    const SettingsBuilder more = addMore(b);
    addSlider<mask::HazeDepth, Values>(more, mask::rangeSmoothSpec, &Values::smoothPx, values, made);
    addMeasuredOf<mask::HazeDepth>(more, QObject::tr("change what the range is measured on"));
    addHint(b, QObject::tr("Press on what lies in haze and drag away from it to widen the range."));
}

}  // namespace dimhem::ui
