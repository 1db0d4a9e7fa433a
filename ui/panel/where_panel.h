// Where: the mask of the selected correction. How it starts, its parts from top to bottom, and the settings of the
// part that is selected.
#pragma once

#include <QPointer>

#include "ui/panel/panel_frame.h"
#include "ui/session/small_pictures.h"

class QVBoxLayout;

namespace dimhem::ui {

class PartRow;

class WherePanel final : public PanelFrame {
    Q_OBJECT

public:
    WherePanel(Session& session, const SmallPictures& pictures, QWidget* parent);

private:
    void refresh();
    QString structure() const;
    void build(QVBoxLayout* layout, QWidget* body) override;
    void addStart(QVBoxLayout* layout, QWidget* body);
    void addRows(QVBoxLayout* layout, QWidget* body);
    void addPartButtons(QVBoxLayout* layout, QWidget* body);
    void addPartSettings(QVBoxLayout* layout, QWidget* body);
    void addRefine(QVBoxLayout* layout, QWidget* body);
    void showPlates();
    void markDrop(const PartRow* row, std::optional<int> places);

    Session& session_;
    const SmallPictures& pictures_;
    QList<PartRow*> rows_;
    QPointer<QWidget> mark_;  // where a dragged row would go
};

}  // namespace dimhem::ui
