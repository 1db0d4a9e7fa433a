// The sequence: cards from Photo to Result in the order the corrections act, and New.
#pragma once

#include <QWidget>

#include "core/document/clip.h"
#include "ui/session/small_pictures.h"

class QMenu;
class QMimeData;
class QPushButton;

namespace dimhem::ui {

class ItemList;
class SequenceModel;

class SequencePanel final : public QWidget {
    Q_OBJECT

public:
    SequencePanel(Session& session, const SmallPictures& pictures, QWidget* parent);

    void removeSelected();  // all that are selected
    void openNewMenu();
    void openStarters();
    void toggleSelected();

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    void refresh();
    void showSelection();
    void choose(const QList<int>& rows, int current);
    void remove(const QList<document::Id>& ids);
    void moveBefore(const QList<document::Id>& ids, int place);  // of the corrections as they stand
    void rename();
    void showCardMenu(QPoint global);
    void showDropMenu(const document::Clip& dropped, document::Id on, QPoint global);
    void takeDropped(const QMimeData* data, document::Id on, QPoint global);
    void addMaskMenu(QMenu& menu, document::Id id);
    void addInsideMenu(QMenu& menu, document::Id id);
    void addThreadMenu(QMenu& menu);
    QMenu* newMenu();

    Session& session_;
    SequenceModel* model_;
    ItemList* list_;
    QPushButton* new_;
};

}  // namespace dimhem::ui
