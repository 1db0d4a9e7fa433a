// What: the adjustments of the selected correction, each built from its own description. With the photo itself
// selected: its facts.
#pragma once

#include <QSet>

#include "ui/panel/adjustment_editor.h"
#include "ui/panel/panel_frame.h"
#include "ui/session/measuring_watch.h"
#include "ui/session/noise_watch.h"
#include "ui/session/probe_watch.h"
#include "ui/session/session.h"

class QBoxLayout;

namespace dimhem::ui {

class WhatPanel final : public PanelFrame {
    Q_OBJECT

public:
    WhatPanel(Session& session, ColourWatch& colours, const NoiseWatch& noise, ProbeWatch& probes,
              const MeasuringWatch& measuring, QWidget* parent);
    void openAdjustmentSheet();
    // Whose name the pointer is on, or that holds the focus by its name's buttons; 0: none.
    document::Id adjustmentPointedAt() const;

private:
    struct Heading {
        document::Id id;
        QWidget* row;
    };
    void refresh();
    QString structure() const;
    void build(QVBoxLayout* layout, QWidget* body) override;
    void addBracket(QBoxLayout* layout, QWidget* body, document::Id bracket);
    void addBlending(QBoxLayout* layout, QWidget* body);
    void addBlend(QBoxLayout* layout, QWidget* body);
    void addCleanEdge(QBoxLayout* layout, QWidget* body);
    void addMixing(QBoxLayout* layout, QWidget* body);
    void addAdjustment(QBoxLayout* layout, QWidget* body, const document::AdjustmentUse& use);
    void addParameters(QBoxLayout* layout, QWidget* body, const document::AdjustmentUse& use);
    void addParameter(QBoxLayout* layout, QWidget* body, const document::AdjustmentUse& use, std::size_t param);
    void addMeasuredNote(QBoxLayout* layout, QWidget* body, document::Id id);
    void refreshSoon();
    void addAdjustmentButton(QBoxLayout* layout, QWidget* body);
    void addKind(const adjust::AdjustmentKind& kind);
    void showAdded();
    std::size_t placeAt(QPoint global) const;  // among the adjustments
    void markDrop(QPoint global);
    void drop(document::Id id, QPoint global);
    double valueOf(document::Id use, std::size_t param) const;

    Session& session_;
    const ColourWatch& colours_;
    const MeasuringWatch& measuring_;
    QSet<document::Id> folded_;
    EditorState editing_;
    QList<Heading> headings_;  // of the adjustments, as they stand
    document::Id added_ = 0;   // the adjustment that has just been added; 0: none
    QPointer<QWidget> mark_;   // where a dragged one would go
    QList<std::function<void()>> colourRefreshers_;
};

}  // namespace dimhem::ui
