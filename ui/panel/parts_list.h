// The list of the parts of the selected correction's mask, as long as it is: select, order, name, combine, remove.
#pragma once

#include <QTimer>
#include <QWidget>

#include "ui/session/small_pictures.h"

class QMenu;

namespace dimhem::ui {

class ItemList;
class PartsModel;

class PartsList final : public QWidget {
    Q_OBJECT

public:
    PartsList(Session& session, const SmallPictures& pictures, QWidget* parent);
    void refresh();

private:
    void choose(const QList<int>& rows, int current);
    void moveBefore(const QList<mask::PartId>& ids, int place);
    void remove(const QList<mask::PartId>& ids);
    void copyTo(document::Id correction);
    void showMenu(QPoint global);
    void showCombineMenu(int row, QPoint global);
    void addCombineActions(QMenu& menu, int row);

    Session& session_;
    PartsModel* model_;
    ItemList* list_;
    QTimer hover_;  // the part pointed at is shown alone after a moment
    mask::PartId pointedAt_ = 0;
};

}  // namespace dimhem::ui
