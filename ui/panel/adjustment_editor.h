// Controls of adjustments that sliders alone do not serve: curves, bands, tables, and picking from the photo.
//
// One builder for each such kind, listed in adjustment_editor.cpp; every other kind has a slider for each parameter.
#pragma once

#include <QBoxLayout>
#include <QHash>
#include <functional>

#include "core/document/edits.h"
#include "ui/bound/bound_slider.h"
#include "ui/control/flow_layout.h"
#include "ui/session/colour_watch.h"
#include "ui/session/session.h"

class QPushButton;

namespace dimhem::ui {

// What the panel remembers beside the document.
struct EditorState {
    double leavePct = 10;             // of a cast, when a neutral is picked
    QHash<document::Id, int> chosen;  // of an adjustment, the row or table that is being edited
};

class ControlGesture;

struct EditorFrame {
    Session& session;
    const ColourWatch& colours;
    EditorState& state;
    QBoxLayout* layout;
    QWidget* body;
    document::Id correction, use;
    const adjust::AdjustmentKind& kind;
    std::function<void(std::function<void()>)> onRefresh;  // called whenever the document has changed
    std::function<void(std::function<void()>)> onColours;  // called whenever other colours lie under the mask
    std::function<void()> rebuild;                         // the panel built anew, soon
    std::function<void(std::size_t)> addParameter;         // the usual slider or switch of a parameter

    // The settings as they are now; null where the adjustment is gone.
    const adjust::Settings* settings() const;
    // A version with other settings: `change` is made to those it has.
    using Change = std::function<void(adjust::Settings&)>;
    document::DocumentPtr with(const document::Document& document, const Change& change) const;
    void edit(const QString& step, const Change& change) const;
    // The same, with what lay under the mask when it was measured.
    void editMeasured(const QString& step, const Change& change,
                      const std::optional<document::MeasuredUnder>& under) const;
    // For one control: preview(gesture, change) as it moves, then its commit().
    std::shared_ptr<ControlGesture> gesture(const QString& step) const;
    void preview(ControlGesture& gesture, const Change& change) const;
    QString step(const QString& what) const;  // "Tone curve: what"

    QPushButton* addButton(const QString& icon, const QString& text, const QString& objectName, const QString& tip,
                           QLayout* row) const;
    FlowLayout* addRow() const;
    // "Measure here", a drag over a place, and "Again", under the mask: both in the background.
    void addMeasuring(const QString& hereTip, const QString& hereHint, const QString& againTip) const;
};

using EditorBuilder = void (*)(const EditorFrame&);
EditorBuilder editorOf(const adjust::AdjustmentKind& kind);  // null: sliders alone

// The builders.
void buildCurveEditor(const EditorFrame& frame);
void buildHueBandsEditor(const EditorFrame& frame);
void buildInkTableEditor(const EditorFrame& frame);
void buildMatchEditor(const EditorFrame& frame);
void buildNoiseEditor(const EditorFrame& frame);
void buildBandingEditor(const EditorFrame& frame);
void buildGrainEditor(const EditorFrame& frame);
void buildDetailEditor(const EditorFrame& frame);
void buildHazeEditor(const EditorFrame& frame);
void buildVeilEditor(const EditorFrame& frame);
void buildShadowEditor(const EditorFrame& frame);
void buildLineFillEditor(const EditorFrame& frame);
void buildWhiteBalanceEditor(const EditorFrame& frame);
void buildColourBalanceEditor(const EditorFrame& frame);
void buildSpillEditor(const EditorFrame& frame);

}  // namespace dimhem::ui
