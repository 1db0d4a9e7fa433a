// The bar above the photo: files, undo, how the photo is compared and how the mask is shown, and the zoom.
#pragma once

#include <QWidget>

#include "ui/session/session.h"

class QAction;
class QLabel;
class QMenu;
class QToolButton;

namespace dimhem::ui {

class CompareMenu;
class EntryField;
class Segmented;
class ValueSlider;

// The actions the bar shows as buttons; the window owns them.
struct LookActions {
    QMenu* menu;
    QAction *open, *save, *exportPicture, *undo, *redo, *fit, *actualSize;
};

class LookBar final : public QWidget {
    Q_OBJECT

public:
    LookBar(Session& session, const LookActions& actions, QWidget* parent);
    void setZoom(double zoom, bool fit);
    void openMenu();
    CompareMenu& compareMenu() { return *against_; }

Q_SIGNALS:
    void zoomWanted(double screenPixels);  // for one pixel of the photo

protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    void refresh();
    void showShort();
    bool isFitting_ = false;
    Session& session_;
    QToolButton* menu_;
    void takeZoom();  // as it was typed
    QLabel *name_, *saved_;
    EntryField* zoom_;
    QString zoomShown_;
    CompareMenu* against_;
    QToolButton* againstButton_;
    Segmented *compare_, *maskView_;
    ValueSlider *tint_, *gain_;  // of the tint and the change view, there while it is shown
};

}  // namespace dimhem::ui
