#include "ui/panel/part_delegate.h"

#include <QApplication>
#include <QHelpEvent>
#include <QMouseEvent>
#include <QToolTip>
#include <QWidget>

#include "ui/control/icon.h"
#include "ui/control/switch.h"
#include "ui/control/theme.h"
#include "ui/panel/item_painting.h"
#include "ui/panel/parts_model.h"
#include "ui/session/key_table.h"

namespace dimhem::ui {

namespace {

QRect plateOf(const QRect& row) {
    const int edge = theme::scaled(5);
    return {row.x() + 4, row.y() + edge, theme::scaled(33), row.height() - 2 * edge};
}

// Inverting is offered where it says something, or may be wanted: it takes room from the name.
bool showsInvert(const QStyleOptionViewItem& option, const QModelIndex& index) {
    if (index.data(PartsModel::isZoneRole).toBool()) return false;
    return index.data(PartsModel::flippedRole).toBool() ||
           option.state & (QStyle::State_Selected | QStyle::State_MouseOver);
}

QRect nameOf(const QStyleOptionViewItem& option, const QModelIndex& index) {
    const QRect& row = option.rect;
    const int left = plateOf(row).right() + theme::scaled(6);
    const bool isZone = index.data(PartsModel::isZoneRole).toBool();
    const PartDelegate::Place first = isZone                       ? PartDelegate::Place::onOff
                                      : showsInvert(option, index) ? PartDelegate::Place::invert
                                                                   : PartDelegate::Place::combine;
    return {left, row.y(), PartDelegate::rectOf(row, first).left() - left - 3, row.height()};
}

}  // namespace

int PartDelegate::rowHeight() {
    return theme::rowHeight() + theme::scaled(8);
}

QRect PartDelegate::rectOf(const QRect& row, Place place) {
    const int wide = theme::scaled(24), onOff = theme::scaled(30);
    switch (place) {
        case Place::nothing: break;
        case Place::onOff: return {row.right() - onOff - 1, row.y(), onOff, row.height()};
        case Place::combine: return {row.right() - onOff - wide - 1, row.y(), wide, row.height()};
        case Place::invert: return {row.right() - onOff - 2 * wide - 1, row.y(), wide, row.height()};
    }
    return {};
}

PartDelegate::Place PartDelegate::placeAt(const QRect& row, const QModelIndex& index, QPoint at) {
    if (rectOf(row, Place::onOff).contains(at)) return Place::onOff;
    if (index.data(PartsModel::isZoneRole).toBool()) return Place::nothing;  // it takes the place of the mask above it
    if (rectOf(row, Place::invert).contains(at)) return Place::invert;
    return rectOf(row, Place::combine).contains(at) ? Place::combine : Place::nothing;
}

QSize PartDelegate::sizeHint(const QStyleOptionViewItem&, const QModelIndex&) const {
    return {theme::scaled(120), rowHeight()};
}

void PartDelegate::paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const {
    painter->save();
    paintGround(*painter, option, index.data(PartsModel::isWorkedOnRole).toBool());
    const QRect plate = plateOf(option.rect), name = nameOf(option, index);
    const bool isOn = index.data(Qt::CheckStateRole).toInt() == Qt::Checked;
    painter->setRenderHint(QPainter::Antialiasing, false);
    painter->fillRect(plate, Qt::black);
    paintPicture(*painter, plate, index.data(Qt::DecorationRole).value<QImage>());
    painter->setPen(QColor(theme::edge));
    painter->setBrush(Qt::NoBrush);
    painter->drawRect(plate);
    painter->setPen(QColor(isOn ? theme::text : theme::quiet));
    painter->setFont(option.font);
    painter->drawText(
        name, Qt::AlignVCenter,
        option.fontMetrics.elidedText(index.data(Qt::DisplayRole).toString(), Qt::ElideRight, name.width()));
    // Where there is room, what kind it is, unless its name says so.
    const QString text = index.data(Qt::DisplayRole).toString(), kind = index.data(PartsModel::kindRole).toString();
    const int spare = name.width() - option.fontMetrics.horizontalAdvance(text) - theme::scaled(12);
    if (!text.contains(kind, Qt::CaseInsensitive) && option.fontMetrics.horizontalAdvance(kind) <= spare) {
        painter->setPen(QColor(theme::quiet));
        painter->drawText(name, Qt::AlignVCenter | Qt::AlignRight, kind);
    }
    const auto paintIcon = [&](Place place, const char* iconName) {
        const int side = theme::scaled(16);
        QRect at(0, 0, side, side);
        at.moveCenter(rectOf(option.rect, place).center());
        icon(iconName).paint(painter, at);
    };
    if (!index.data(PartsModel::isZoneRole).toBool()) {
        paintIcon(Place::combine, combineChoices()[index.data(PartsModel::combineRole).toInt()].icon);
        const bool isFlipped = index.data(PartsModel::flippedRole).toBool();
        if (showsInvert(option, index)) {
            if (isFlipped) {
                painter->setPen(Qt::NoPen);
                painter->setBrush(QColor(theme::edge));
                const QRect at = rectOf(option.rect, Place::invert);
                painter->drawRoundedRect(at.adjusted(1, 4, -1, -4), 4, 4);
            }
            paintIcon(Place::invert, "contrast");
        }
    }
    paintSwitch(*painter, rectOf(option.rect, Place::onOff), isOn, false);
    painter->restore();
}

bool PartDelegate::editorEvent(QEvent* event, QAbstractItemModel* model, const QStyleOptionViewItem& option,
                               const QModelIndex& index) {
    if (event->type() != QEvent::MouseButtonRelease) return false;
    const auto& mouse = *static_cast<QMouseEvent*>(event);
    if (mouse.button() != Qt::LeftButton) return false;
    switch (placeAt(option.rect, index, mouse.pos())) {
        case Place::nothing: return false;
        case Place::onOff: {
            const bool isOn = index.data(Qt::CheckStateRole).toInt() == Qt::Checked;
            return model->setData(index, isOn ? Qt::Unchecked : Qt::Checked, Qt::CheckStateRole);
        }
        case Place::invert:
            return model->setData(index, !index.data(PartsModel::flippedRole).toBool(), PartsModel::flippedRole);
        case Place::combine: Q_EMIT combineWanted(index, mouse.globalPosition().toPoint()); return true;
    }
    return false;
}

bool PartDelegate::helpEvent(QHelpEvent* event, QAbstractItemView* view, const QStyleOptionViewItem& option,
                             const QModelIndex& index) {
    QString tip;
    if (event->type() == QEvent::ToolTip && index.isValid()) {
        switch (placeAt(option.rect, index, event->pos())) {
            case Place::nothing: break;
            case Place::onOff: tip = tr("This part on or off"); break;
            case Place::invert: tip = withKey(tr("Invert: inside becomes outside"), "invert"); break;
            case Place::combine: {
                const CombineChoice choice = combineChoices()[index.data(PartsModel::combineRole).toInt()];
                tip = tr("%1. %2. Press to change it.").arg(choice.label, choice.tip);
            }
        }
    }
    if (tip.isEmpty()) return QStyledItemDelegate::helpEvent(event, view, option, index);
    QToolTip::showText(event->globalPos(), tip);
    return true;
}

QWidget* PartDelegate::createEditor(QWidget* parent, const QStyleOptionViewItem&, const QModelIndex&) const {
    return nameField(parent);
}

void PartDelegate::setEditorData(QWidget* editor, const QModelIndex& index) const {
    setNameFrom(editor, index);
}

void PartDelegate::setModelData(QWidget* editor, QAbstractItemModel* model, const QModelIndex& index) const {
    takeName(editor, model, index);
}

void PartDelegate::updateEditorGeometry(QWidget* editor, const QStyleOptionViewItem& option,
                                        const QModelIndex& index) const {
    editor->setGeometry(nameOf(option, index).adjusted(-6, 4, 2, -4));
}

}  // namespace dimhem::ui
