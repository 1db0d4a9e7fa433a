// Where: the mask of the selected correction. How it starts, its parts from top to bottom, and the settings of the
// part that is selected.
#pragma once

#include "ui/panel/panel_frame.h"
#include "ui/session/small_pictures.h"

class QVBoxLayout;

namespace dimhem::ui {

class PartsList;

class WherePanel final : public PanelFrame {
    Q_OBJECT

public:
    WherePanel(Session& session, const SmallPictures& pictures, QWidget* parent);
    void openPartSheet();

private:
    void refresh();
    QString structure() const;
    void build(QVBoxLayout* layout, QWidget* body) override;
    void saveFromBody() override;
    void addStart(QVBoxLayout* layout, QWidget* body);
    void addPartButtons(QVBoxLayout* layout, QWidget* body);
    void addPartSettings(QVBoxLayout* layout, QWidget* body);
    void addRefine(QVBoxLayout* layout, QWidget* body);

    Session& session_;
    PartsList* parts_;  // one for all bodies: it is not built anew under the hand that drags in it
};

}  // namespace dimhem::ui
