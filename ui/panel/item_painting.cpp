#include "ui/panel/item_painting.h"

#include <QAbstractItemModel>

#include "ui/control/entry_field.h"
#include "ui/control/stitch.h"
#include "ui/control/theme.h"

namespace dimhem::ui {

void paintGround(QPainter& painter, const QStyleOptionViewItem& option, bool isWorkedOn) {
    const bool isSelected = option.state & QStyle::State_Selected, hasFocus = option.state & QStyle::State_HasFocus;
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(Qt::NoPen);
    painter.setBrush(QColor(isSelected || isWorkedOn ? theme::raised : theme::panel));
    painter.drawRoundedRect(option.rect, 5, 5);
    if (!isWorkedOn && !hasFocus) return;
    painter.setBrush(Qt::NoBrush);
    painter.setPen(hasFocus ? QPen(QColor(theme::text), 1) : stitchPen(QColor(theme::quiet), 1));
    painter.drawRoundedRect(QRectF(option.rect).adjusted(0.5, 0.5, -0.5, -0.5), 5, 5);
}

void paintPicture(QPainter& painter, const QRect& place, const QImage& picture) {
    if (picture.isNull()) return;
    QRect target(QPoint(), picture.size().scaled(place.size(), Qt::KeepAspectRatio));
    target.moveCenter(place.center());
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    painter.drawImage(target, picture);
}

QWidget* nameField(QWidget* parent) {
    auto* field = new EntryField({}, parent);
    field->setAccessibleName(QObject::tr("Name"));
    return field;
}

void setNameFrom(QWidget* field, const QModelIndex& index) {
    auto* name = static_cast<EntryField*>(field);
    if (name->isModified()) return;
    name->setText(index.data(Qt::EditRole).toString());
    name->selectAll();
}

void takeName(QWidget* field, QAbstractItemModel* model, const QModelIndex& index) {
    const QString typed = static_cast<EntryField*>(field)->text().trimmed();
    if (!typed.isEmpty() && typed != index.data(Qt::EditRole).toString()) model->setData(index, typed, Qt::EditRole);
}

}  // namespace dimhem::ui
