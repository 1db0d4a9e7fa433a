// What cards and rows of parts have in common: their ground, and the field in which they are named.
#pragma once

#include <QModelIndex>
#include <QPainter>
#include <QStyleOptionViewItem>

class QAbstractItemModel;

namespace dimhem::ui {

// The ground of an item, and a line round the one that has the focus or is worked on.
void paintGround(QPainter& painter, const QStyleOptionViewItem& option, bool isWorkedOn);
// A picture as large as it fits, in the middle.
void paintPicture(QPainter& painter, const QRect& place, const QImage& picture);

QWidget* nameField(QWidget* parent);
void setNameFrom(QWidget* field, const QModelIndex& index);
void takeName(QWidget* field, QAbstractItemModel* model, const QModelIndex& index);  // where another was typed

}  // namespace dimhem::ui
