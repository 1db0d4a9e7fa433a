// Where: the mask of the selected correction. How it starts, its parts from top to bottom, and the settings of the
// part that is selected.
#pragma once

#include "ui/panel/panel_frame.h"
#include "ui/session/small_pictures.h"

class QBoxLayout;

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
    void addStart(QBoxLayout* layout, QWidget* body);
    void addRows(QBoxLayout* layout, QWidget* body);
    void addPartButtons(QBoxLayout* layout, QWidget* body);
    void addPartSettings(QBoxLayout* layout, QWidget* body);
    void addBrushSettings(QBoxLayout* layout, QWidget* body);
    void addGradientSettings(QBoxLayout* layout, QWidget* body);
    void showPlates();

    Session& session_;
    const SmallPictures& pictures_;
    QList<PartRow*> rows_;
};

}  // namespace dimhem::ui
