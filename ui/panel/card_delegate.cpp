#include "ui/panel/card_delegate.h"

#include <QApplication>
#include <QMouseEvent>

#include "ui/control/stitch.h"
#include "ui/control/switch.h"
#include "ui/control/theme.h"
#include "ui/panel/item_painting.h"
#include "ui/panel/sequence_model.h"

namespace dimhem::ui {

namespace {

// Where things stand on a card.
struct Places {
    QRect picture, name, onOff, detail;
    QLineF thread;

    Places(const QRect& card, bool hasSwitch) {
        const int edge = theme::scaled(7), line = QFontMetrics(QApplication::font()).height() + theme::scaled(3);
        picture =
            QRect(card.x() + edge, card.y() + edge, theme::scaled(60), card.height() - 2 * edge - theme::scaled(6));
        const int left = picture.right() + edge, right = card.right() - theme::scaled(5);
        name = QRect(left, card.y() + theme::scaled(5), right - left, line);
        onOff = hasSwitch ? QRect(left - 2, name.bottom() + 1, theme::scaled(30), line + theme::scaled(4)) : QRect();
        const int detailLeft = hasSwitch ? onOff.right() + 4 : left;
        detail = QRect(detailLeft, name.bottom() + 2, right - detailLeft, line);
        const int y = card.bottom() - theme::scaled(6);
        thread = QLineF(card.x() + theme::scaled(9), y, card.right() - theme::scaled(9), y);
    }
};

// Along the top of the cards it holds, with an end at the first and the last.
void paintBracket(QPainter& painter, const QRect& card, const QModelIndex& index) {
    const int bits = index.data(SequenceModel::bracketRole).toInt();
    if (bits == 0) return;
    const int gap = theme::scaled(4), inset = theme::scaled(10), end = theme::scaled(5), y = card.top() + 2;
    const bool fromLeft = bits & SequenceModel::fromLeft, toRight = bits & SequenceModel::toRight;
    const int left = fromLeft ? card.left() - gap : card.left() + inset,
              right = toRight ? card.right() + gap : card.right() - inset;
    painter.setRenderHint(QPainter::Antialiasing, false);
    painter.setPen(QPen(QColor(index.data(SequenceModel::isUnderOffRole).toBool() ? theme::quiet : theme::bright), 2));
    painter.drawLine(left, y, right, y);
    if (!fromLeft) painter.drawLine(left, y, left, y + end);
    if (!toRight) painter.drawLine(right, y, right, y + end);
}

// Half of a ring at the side where the counterpart stands, whose card has the other half.
void paintPair(QPainter& painter, const QRect& card, const QModelIndex& index) {
    const int way = index.data(SequenceModel::pairRole).toInt();
    if (way == 0) return;
    const double radius = theme::scaled(7);
    const QPointF centre(way > 0 ? card.right() + 1 : card.left(), card.center().y());
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(index.data(SequenceModel::threadRole).value<QColor>(), 2));
    painter.drawArc(QRectF(centre.x() - radius, centre.y() - radius, 2 * radius, 2 * radius),
                    way > 0 ? 90 * 16 : -90 * 16, 180 * 16);
}

bool hasSwitch(const QModelIndex& index) {
    return index.flags() & Qt::ItemIsUserCheckable;
}

}  // namespace

QSize CardDelegate::cardSize() {
    const int lines = 2 * (QFontMetrics(QApplication::font()).height() + theme::scaled(3));
    return {theme::scaled(164), lines + theme::scaled(24)};
}

QSize CardDelegate::sizeHint(const QStyleOptionViewItem&, const QModelIndex&) const {
    return cardSize();
}

void CardDelegate::paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const {
    const bool isWorkedOn = index.data(SequenceModel::isWorkedOnRole).toBool();
    const bool isOff = hasSwitch(index) && (index.data(Qt::CheckStateRole).toInt() != Qt::Checked ||
                                            index.data(SequenceModel::isUnderOffRole).toBool());
    const Places at(option.rect, hasSwitch(index));
    painter->save();
    paintGround(*painter, option, isWorkedOn);
    painter->setOpacity(isOff ? 0.45 : 1);
    paintPicture(*painter, at.picture, index.data(Qt::DecorationRole).value<QImage>());
    painter->setOpacity(1);
    QFont font = option.font;
    font.setWeight(isWorkedOn ? QFont::DemiBold : QFont::Normal);
    painter->setFont(font);
    painter->setPen(QColor(isOff ? theme::quiet : theme::text));
    painter->drawText(
        at.name, Qt::AlignVCenter,
        QFontMetrics(font).elidedText(index.data(Qt::DisplayRole).toString(), Qt::ElideRight, at.name.width()));
    painter->setFont(option.font);
    painter->setPen(QColor(theme::quiet));
    painter->drawText(at.detail, Qt::AlignVCenter, index.data(SequenceModel::detailRole).toString());
    if (hasSwitch(index)) paintSwitch(*painter, at.onOff, index.data(Qt::CheckStateRole).toInt() == Qt::Checked, false);
    if (const auto thread = index.data(SequenceModel::threadRole).value<QColor>(); thread.isValid()) {
        painter->setPen(stitchPen(thread));
        painter->drawLine(at.thread);
    }
    paintPair(*painter, option.rect, index);
    paintBracket(*painter, option.rect, index);
    painter->restore();
}

// A press on the switch is the switch's alone: it selects nothing.
bool CardDelegate::editorEvent(QEvent* event, QAbstractItemModel* model, const QStyleOptionViewItem& option,
                               const QModelIndex& index) {
    if (!hasSwitch(index) || event->type() != QEvent::MouseButtonRelease) return false;
    const auto& mouse = *static_cast<QMouseEvent*>(event);
    if (mouse.button() != Qt::LeftButton || !Places(option.rect, true).onOff.contains(mouse.pos())) return false;
    const bool isOn = index.data(Qt::CheckStateRole).toInt() == Qt::Checked;
    return model->setData(index, isOn ? Qt::Unchecked : Qt::Checked, Qt::CheckStateRole);
}

QWidget* CardDelegate::createEditor(QWidget* parent, const QStyleOptionViewItem&, const QModelIndex&) const {
    return nameField(parent);
}

void CardDelegate::setEditorData(QWidget* editor, const QModelIndex& index) const {
    setNameFrom(editor, index);
}

void CardDelegate::setModelData(QWidget* editor, QAbstractItemModel* model, const QModelIndex& index) const {
    takeName(editor, model, index);
}

void CardDelegate::updateEditorGeometry(QWidget* editor, const QStyleOptionViewItem& option,
                                        const QModelIndex& index) const {
    editor->setGeometry(Places(option.rect, hasSwitch(index)).name.adjusted(-6, -3, 2, 3));
}

}  // namespace dimhem::ui
