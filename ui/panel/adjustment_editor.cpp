#include "ui/panel/adjustment_editor.h"

#include <QPushButton>

#include "core/adjust/banding.h"
#include "core/adjust/colour_balance.h"
#include "core/adjust/detail.h"
#include "core/adjust/grain.h"
#include "core/adjust/haze.h"
#include "core/adjust/hue_bands.h"
#include "core/adjust/ink_table.h"
#include "core/adjust/line_fill.h"
#include "core/adjust/match_area.h"
#include "core/adjust/noise.h"
#include "core/adjust/shadow_lift.h"
#include "core/adjust/spill_suppression.h"
#include "core/adjust/tone_curve.h"
#include "core/adjust/veil.h"
#include "core/adjust/white_balance.h"
#include "core/task/measuring.h"
#include "ui/bound/bound_slider.h"
#include "ui/control/icon.h"
#include "ui/session/photo_reading.h"

namespace dimhem::ui {

namespace {

// Under the mask, or in a place alone.
void measure(const EditorFrame& f, const std::optional<base::Rect>& place) {
    readInBackground(
        f.session,
        [renderer = f.session.sharedRenderer(), document = f.session.document(), correction = f.correction, use = f.use,
         place] { return task::measured(*renderer, document, correction, use, place); },
        [f](const std::optional<task::Measured>& found) {
            if (!found) return;
            f.editMeasured(
                f.step(QObject::tr("measure")), [&](adjust::Settings& next) { next.tables = found->settings.tables; },
                found->under);
        });
}

}  // namespace

EditorBuilder editorOf(const adjust::AdjustmentKind& kind) {
    struct Entry {
        const adjust::AdjustmentKind* kind;
        EditorBuilder build;
    };
    static constexpr Entry entries[] = {
        {&adjust::toneCurve, buildCurveEditor},
        {&adjust::whiteBalance, buildWhiteBalanceEditor},
        {&adjust::colourBalance, buildColourBalanceEditor},
        {&adjust::hueBands, buildHueBandsEditor},
        {&adjust::inkTable, buildInkTableEditor},
        {&adjust::lineFill, buildLineFillEditor},
        {&adjust::matchArea, buildMatchEditor},
        {&adjust::noise, buildNoiseEditor},
        {&adjust::banding, buildBandingEditor},
        {&adjust::grain, buildGrainEditor},
        {&adjust::detail, buildDetailEditor},
        {&adjust::haze, buildHazeEditor},
        {&adjust::veil, buildVeilEditor},
        {&adjust::shadowLift, buildShadowEditor},
        {&adjust::spillSuppression, buildSpillEditor},
    };
    for (const Entry& entry : entries) {
        if (entry.kind == &kind) return entry.build;
    }
    return nullptr;
}

const adjust::Settings* EditorFrame::settings() const {
    const document::Correction* found = session.isOpen() ? findCorrection(*session.document(), correction) : nullptr;
    const document::AdjustmentUse* known = found ? document::findAdjustment(*found, use) : nullptr;
    return known && known->kind == &kind ? &known->settings : nullptr;
}

document::DocumentPtr EditorFrame::with(const document::Document& document, const Change& change) const {
    return document::withAdjustment(document, correction, use, [&](document::AdjustmentUse& u) {
        adjust::Settings changed = u.settings;
        change(changed);
        if (u.kind == &kind && adjust::isValid(kind, changed)) u.settings = std::move(changed);
    });
}

void EditorFrame::edit(const QString& step, const Change& change) const {
    session.edit(step, [&](const document::Document& d) { return with(d, change); });
}

void EditorFrame::editMeasured(const QString& step, const Change& change,
                               const std::optional<document::MeasuredUnder>& under) const {
    session.edit(step, [&](const document::Document& d) {
        return document::withAdjustment(*with(d, change), correction, use,
                                        [&](document::AdjustmentUse& u) { u.measuredUnder = under; });
    });
}

std::shared_ptr<ControlGesture> EditorFrame::gesture(const QString& step) const {
    return controlGesture(session, step, {correction, 0});
}

void EditorFrame::preview(ControlGesture& gesture, const Change& change) const {
    gesture.preview([&](const document::Document& base) { return with(base, change); });
}

QString EditorFrame::step(const QString& what) const {
    return words(kind.label) + ": " + what;
}

QPushButton* EditorFrame::addButton(const QString& iconName, const QString& text, const QString& objectName,
                                    const QString& tip, QLayout* row) const {
    auto* button = new QPushButton(icon(iconName), text, body);
    button->setObjectName(objectName);
    button->setToolTip(tip);
    button->setAccessibleName(text);
    row->addWidget(button);
    return button;
}

FlowLayout* EditorFrame::addRow() const {
    auto* row = new FlowLayout;
    layout->addLayout(row);
    return row;
}

void EditorFrame::addMeasuring(const QString& hereTip, const QString& hereHint, const QString& againTip) const {
    const EditorFrame f = *this;
    FlowLayout* row = addRow();
    QPushButton* here = addButton("maximize", QObject::tr("Measure here"), "measure-here", hereTip, row);
    QObject::connect(here, &QPushButton::clicked, body, [f, hereHint] {
        PhotoGesture gesture;
        gesture.hint = hereHint;
        gesture.marksArea = true;
        gesture.done = [f](const PhotoDrag& drag) { measure(f, drag.area()); };
        f.session.ask(std::move(gesture));
    });
    QPushButton* again = addButton("redo-2", QObject::tr("Measure again"), "measure-again", againTip, row);
    QObject::connect(again, &QPushButton::clicked, body, [f] { measure(f, {}); });
}

}  // namespace dimhem::ui
