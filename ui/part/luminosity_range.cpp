#include "ui/part/kinds.h"

#include "core/mask/luminosity_range.h"
#include "core/task/probe.h"
#include "ui/control/tone_rest.h"
#include "ui/part/rows.h"

namespace dimhem::ui {

namespace {

// The tones of the whole picture a range is measured on, counted in the background.
void countTones(RangeStrip* strip, const SettingsBuilder& b, mask::Seen seen) {
    Session& session = b.session;
    render::Comparison comparison;
    comparison.allOff = seen == mask::Seen::photo;
    comparison.stopBefore = seen == mask::Seen::arriving ? b.target.correction : 0;
    session.background().run(
        strip,
        [renderer = session.sharedRenderer(), document = session.document(), comparison] {
            return task::toneHistogram(*renderer, render::Sequence(document, comparison));
        },
        [strip](const base::Result<std::vector<double>>& parts) {
            strip->setHistogram(parts ? QList<double>(parts->begin(), parts->end()) : QList<double>());
        });
}

}  // namespace

void addLuminosityRange(const SettingsBuilder& b) {
    using Values = mask::LuminosityRangeValues;
    const auto values = [](const mask::LuminosityRange& r) { return r.values(); };
    const auto made = [](const Values& v) -> mask::ShapePtr { return std::make_shared<mask::LuminosityRange>(v); };
    RangeStrip* strip =
        addStrip<mask::LuminosityRange, Values>(b, RangeStrip::Scale::tone, QObject::tr("Tones, L*"), "tones",
                                                QObject::tr("change tones of range"), &Values::tones);
    auto* rest = new ToneRest(strip, [strip](QPointF at) { return strip->toneAt(at); });
    QObject::connect(rest, &ToneRest::rests, b.body, [b](double from, double to) {
        const auto shape = shapeOf<mask::LuminosityRange>(b);
        if (!shape) return;
        render::Shine shine{.of = render::Shine::Of::tones, .from = from, .to = to};
        shine.tones =
            shape->values().seen == mask::Seen::arriving ? render::Shine::Tones::arriving : render::Shine::Tones::photo;
        b.session.setShine(shine);
    });
    QObject::connect(rest, &ToneRest::goes, b.body, [b] { b.session.setShine({}); });
    const SettingsBuilder more = addMore(b);
    addSlider<mask::LuminosityRange, Values>(more, mask::rangeSmoothSpec, &Values::smoothPx, values, made);
    addMeasuredOf<mask::LuminosityRange>(more, QObject::tr("change what the range is measured on"),
                                         [b, strip](mask::Seen seen) { countTones(strip, b, seen); });
    if (const auto shape = shapeOf<mask::LuminosityRange>(b)) countTones(strip, b, shape->values().seen);
    addHint(b, QObject::tr("Press on a tone in the photo and drag away from it to widen the range."));
}

}  // namespace dimhem::ui
