#include "ui/panel/adjustment_editor.h"

#include <QPushButton>

#include "core/adjust/colour_balance.h"
#include "core/adjust/hue_bands.h"
#include "core/adjust/ink_table.h"
#include "core/adjust/match_area.h"
#include "core/adjust/spill_suppression.h"
#include "core/adjust/tone_curve.h"
#include "core/adjust/white_balance.h"
#include "ui/control/icon.h"
#include "ui/panel/bound_slider.h"

namespace dimhem::ui {

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
        {&adjust::matchArea, buildMatchEditor},
        {&adjust::spillSuppression, buildSpillEditor},
    };
    for (const Entry& entry : entries) {
        if (entry.kind == &kind) return entry.build;
    }
    return nullptr;
}

const adjust::Settings* EditorFrame::settings() const {
    const document::Correction* correction = session.isOpen() ? session.correction() : nullptr;
    const document::AdjustmentUse* found = correction ? document::findAdjustment(*correction, use) : nullptr;
    return found ? &found->settings : nullptr;
}

document::DocumentPtr EditorFrame::with(const adjust::Settings& settings) const {
    return document::withAdjustment(*session.document(), session.selectedCorrection(), use,
                                    [&](document::AdjustmentUse& u) { u.settings = settings; });
}

void EditorFrame::preview(const adjust::Settings& settings) const {
    session.setSliding(true);
    session.preview(with(settings));
}

void EditorFrame::commitPreview(const QString& step) const {
    session.setSliding(false);
    session.commitPreview(step);
}

void EditorFrame::commit(const adjust::Settings& settings, const QString& step) const {
    session.commit(with(settings), step);
}

QString EditorFrame::step(const QString& what) const {
    return words(kind.label) + ": " + what;
}

QPushButton* EditorFrame::addButton(const QString& iconName, const QString& text, const QString& objectName,
                                    const QString& tip, QBoxLayout* row) const {
    auto* button = new QPushButton(icon(iconName), text, body);
    button->setObjectName(objectName);
    button->setToolTip(tip);
    button->setAccessibleName(text);
    row->addWidget(button);
    return button;
}

QHBoxLayout* EditorFrame::addRow() const {
    auto* row = new QHBoxLayout;
    row->setContentsMargins(0, 2, 0, 2);
    layout->addLayout(row);
    return row;
}

}  // namespace dimhem::ui
