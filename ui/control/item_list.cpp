#include "ui/control/item_list.h"

#include <QApplication>
#include <QContextMenuEvent>
#include <QDragMoveEvent>
#include <QMimeData>
#include <QPainter>
#include <QScrollBar>
#include <algorithm>

#include "ui/control/stitch.h"
#include "ui/control/theme.h"

namespace dimhem::ui {

ItemList::ItemList(Qt::Orientation along, QWidget* parent) : QListView(parent), along_(along) {
    setFlow(isAcross() ? QListView::LeftToRight : QListView::TopToBottom);
    setWrapping(false);
    setSelectionMode(QAbstractItemView::ExtendedSelection);
    setEditTriggers(QAbstractItemView::DoubleClicked | QAbstractItemView::EditKeyPressed);
    setDragEnabled(true);  // so that a press on one of several selected keeps them until it is let go of
    setMouseTracking(true);
    setFrameShape(QFrame::NoFrame);
    setHorizontalScrollMode(QAbstractItemView::ScrollPerPixel);
    setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
    setResizeMode(QListView::Adjust);
    viewport()->setAutoFillBackground(false);
    (isAcross() ? verticalScrollBar() : horizontalScrollBar())->setEnabled(false);
    isAcross() ? setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff)
               : setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    constexpr int scrollMs = 20;
    edgeScroll_.setInterval(scrollMs);
    connect(&edgeScroll_, &QTimer::timeout, this, [this] {
        constexpr int scrollPx = 8;
        QScrollBar* bar = isAcross() ? horizontalScrollBar() : verticalScrollBar();
        const bool back = isAcross() ? draggedTo_.x() < width() / 2 : draggedTo_.y() < height() / 2;
        bar->setValue(bar->value() + (back ? -scrollPx : scrollPx));
        dragTo(draggedTo_);
    });
}

QList<int> ItemList::selectedRows() const {
    QList<int> rows;
    for (const QModelIndex& index : selectedIndexes()) rows.append(index.row());
    std::ranges::sort(rows);
    return rows;
}

void ItemList::select(const QList<int>& rows, int current) {
    isGiven_ = true;
    QItemSelection selection;
    for (const int row : rows) selection.select(model()->index(row, 0), model()->index(row, 0));
    selectionModel()->select(selection, QItemSelectionModel::ClearAndSelect);
    selectionModel()->setCurrentIndex(model()->index(current, 0), QItemSelectionModel::NoUpdate);
    isGiven_ = false;
    isChosen_ = false;
    viewport()->update();
}

int ItemList::wholeLength() const {
    int length = 0;
    for (int row = 0; row < model()->rowCount(); ++row) {
        const QSize size = sizeHintForIndex(model()->index(row, 0));
        length += (isAcross() ? size.width() : size.height()) + 2 * spacing();
    }
    return length;
}

void ItemList::selectionChanged(const QItemSelection& selected, const QItemSelection& deselected) {
    QListView::selectionChanged(selected, deselected);
    isChosen_ = isChosen_ || !isGiven_;
}

// At the end of each press and key, not later: what is shown by then would take its place.
void ItemList::tellChoice() {
    if (std::exchange(isChosen_, false)) Q_EMIT chosen(selectedRows(), currentIndex().row());
}

bool ItemList::canMove(int row) const {
    return row >= 0 && model()->index(row, 0).flags() & Qt::ItemIsDragEnabled;
}

QList<int> ItemList::movable(const QList<int>& rows) const {
    QList<int> out;
    std::ranges::copy_if(rows, std::back_inserter(out), [this](int row) { return canMove(row); });
    return out;
}

int ItemList::placeAt(QPoint at) const {
    int row = 0;
    for (; row < model()->rowCount(); ++row) {
        const QPoint middle = visualRect(model()->index(row, 0)).center();
        if (canMove(row) && (isAcross() ? at.x() < middle.x() : at.y() < middle.y())) return row;
    }
    while (row > 0 && !canMove(row - 1)) --row;
    return row;
}

// The middle half of an item, where one alone is dragged onto another.
int ItemList::itemHeldOver(QPoint at) const {
    const QModelIndex index = dropsOn_ ? indexAt(at) : QModelIndex();
    if (!canMove(index.row()) || index.row() == pressedRow_ || movable(selectedRows()).size() > 1) return -1;
    const QRect item = visualRect(index);
    const double along =
        isAcross() ? double(at.x() - item.left()) / item.width() : double(at.y() - item.top()) / item.height();
    return along > 0.25 && along < 0.75 ? index.row() : -1;
}

void ItemList::dragTo(QPoint at) {
    draggedTo_ = at;
    dropBefore_ = placeAt(at);
    dropOn_ = itemHeldOver(at);
    const int nearPx = theme::scaled(40), place = isAcross() ? at.x() : at.y(),
              length = isAcross() ? width() : height();
    const bool atEnd = place < nearPx || place > length - nearPx;
    if (atEnd != edgeScroll_.isActive()) atEnd ? edgeScroll_.start() : edgeScroll_.stop();
    viewport()->update();
}

void ItemList::endDrag() {
    edgeScroll_.stop();
    dropBefore_.reset();
    dropOn_ = -1;
    pressedRow_ = -1;
    viewport()->update();
}

void ItemList::mousePressEvent(QMouseEvent* event) {
    endDrag();
    if (event->button() == Qt::LeftButton) {
        pressedAt_ = event->pos();
        pressedRow_ = indexAt(event->pos()).row();
    }
    QListView::mousePressEvent(event);
    tellChoice();
}

void ItemList::mouseMoveEvent(QMouseEvent* event) {
    if (!(event->buttons() & Qt::LeftButton)) {
        QListView::mouseMoveEvent(event);
        Q_EMIT pointedAt(indexAt(event->pos()).row());
        return;
    }
    if (!canMove(pressedRow_)) return;
    const int way = (event->pos() - pressedAt_).manhattanLength();
    if (dropBefore_ || way >= QApplication::startDragDistance()) dragTo(event->pos());
}

void ItemList::mouseReleaseEvent(QMouseEvent* event) {
    if (!dropBefore_) {
        QListView::mouseReleaseEvent(event);
        pressedRow_ = -1;
        tellChoice();
        return;
    }
    const int before = *dropBefore_, row = pressedRow_, on = dropOn_;
    endDrag();
    if (!canMove(row)) return;  // what was dragged has gone meanwhile
    if (on >= 0) {
        Q_EMIT dropWanted(row, on, event->globalPosition().toPoint());
        return;
    }
    const QList<int> selected = movable(selectedRows());
    Q_EMIT moveWanted(selected.contains(row) ? selected : QList{row}, before);
}

void ItemList::leaveEvent(QEvent* event) {
    QListView::leaveEvent(event);
    Q_EMIT pointedAt(-1);
}

// By Tab it is worked with keys, Space among them; after a click Space drags the photo as before.
void ItemList::focusInEvent(QFocusEvent* event) {
    setProperty("takesSpace", event->reason() == Qt::TabFocusReason || event->reason() == Qt::BacktabFocusReason);
    QListView::focusInEvent(event);
    viewport()->update();
}

// Delete removes what is selected here; without a word about it the window would take the key for something else.
bool ItemList::event(QEvent* event) {
    if (event->type() == QEvent::ShortcutOverride) {
        const auto& key = *static_cast<QKeyEvent*>(event);
        if (key.key() == Qt::Key_Delete || (key.key() == Qt::Key_Escape && dropBefore_)) {
            event->accept();
            return true;
        }
    }
    return QListView::event(event);
}

void ItemList::moveBy(int places) {
    const QList<int> rows = movable(selectedRows());
    if (rows.isEmpty()) return;
    const int before = places < 0 ? rows.front() - 1 : rows.back() + 2;
    if (before < 0 || before > model()->rowCount() || !canMove(places < 0 ? before : before - 1)) return;
    Q_EMIT moveWanted(rows, before);
}

void ItemList::rename(int row) {
    const QModelIndex index = model()->index(row, 0);
    if (index.flags() & Qt::ItemIsEditable && state() != EditingState) edit(index);
}

void ItemList::keyPressEvent(QKeyEvent* event) {
    const int back = isAcross() ? Qt::Key_Left : Qt::Key_Up, on = isAcross() ? Qt::Key_Right : Qt::Key_Down;
    const bool isWay = event->key() == back || event->key() == on;
    if (isWay && event->modifiers() & Qt::AltModifier) return moveBy(event->key() == back ? -1 : 1);
    switch (event->key()) {
        case Qt::Key_Delete:
            if (const QList<int> rows = movable(selectedRows()); !rows.isEmpty()) Q_EMIT removeWanted(rows);
            return;
        case Qt::Key_Escape:
            if (!dropBefore_) break;
            endDrag();
            return;
        case Qt::Key_Return:
        case Qt::Key_Enter: clearFocus(); return;
        case Qt::Key_Space: {
            const QModelIndex index = currentIndex();
            if (!(index.flags() & Qt::ItemIsUserCheckable)) break;
            const bool isOn = index.data(Qt::CheckStateRole).toInt() == Qt::Checked;
            model()->setData(index, isOn ? Qt::Unchecked : Qt::Checked, Qt::CheckStateRole);
            return;
        }
        case Qt::Key_F2: return rename(currentIndex().row());
        case Qt::Key_F10:
            if (event->modifiers() != Qt::ShiftModifier) break;
            if (canMove(currentIndex().row()))
                Q_EMIT menuWanted(viewport()->mapToGlobal(visualRect(currentIndex()).center()));
            return;
        case Qt::Key_Left:
        case Qt::Key_Right:
        case Qt::Key_Up:
        case Qt::Key_Down:
        case Qt::Key_Home:
        case Qt::Key_End:
            QListView::keyPressEvent(event);
            tellChoice();
            return;
        case Qt::Key_A:
            if (event->modifiers() != Qt::ControlModifier) break;
            selectAll();
            tellChoice();
            return;
        default: break;
    }
    event->ignore();
}

void ItemList::contextMenuEvent(QContextMenuEvent* event) {
    const QModelIndex index = event->reason() == QContextMenuEvent::Mouse ? indexAt(event->pos()) : currentIndex();
    if (!canMove(index.row())) return;
    if (!selectedRows().contains(index.row())) {
        setCurrentIndex(index);
        tellChoice();
    }
    Q_EMIT menuWanted(event->reason() == QContextMenuEvent::Mouse
                          ? event->globalPos()
                          : viewport()->mapToGlobal(visualRect(index).center()));
}

void ItemList::wheelEvent(QWheelEvent* event) {
    if (!isAcross()) {
        event->ignore();  // it is as long as its items: what it stands in scrolls
        return;
    }
    const QPoint turned = event->angleDelta();
    horizontalScrollBar()->setValue(horizontalScrollBar()->value() - (turned.x() + turned.y()) / 2);
    event->accept();
}

void ItemList::setTakesText(bool takes) {
    setAcceptDrops(takes);
    viewport()->setAcceptDrops(takes);
}

// Files are for the window.
void ItemList::dragEnterEvent(QDragEnterEvent* event) {
    if (event->mimeData()->hasText() && !event->mimeData()->hasUrls()) {
        event->acceptProposedAction();
    } else {
        event->ignore();
    }
}

void ItemList::dragMoveEvent(QDragMoveEvent* event) {
    const int row = indexAt(event->position().toPoint()).row();
    dropOn_ = canMove(row) ? row : -1;
    event->acceptProposedAction();
    viewport()->update();
}

void ItemList::dragLeaveEvent(QDragLeaveEvent*) {
    endDrag();
}

void ItemList::dropEvent(QDropEvent* event) {
    const int row = indexAt(event->position().toPoint()).row();
    endDrag();
    event->acceptProposedAction();
    Q_EMIT textDropped(event->mimeData(), canMove(row) ? row : -1,
                       viewport()->mapToGlobal(event->position().toPoint()));
}

void ItemList::paintEvent(QPaintEvent* event) {
    QListView::paintEvent(event);
    if (!dropBefore_ && dropOn_ < 0) return;
    QPainter painter(viewport());
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(stitchPen(QColor(theme::bright), 3));
    if (dropOn_ >= 0) {
        painter.drawRect(visualRect(model()->index(dropOn_, 0)).adjusted(2, 2, -3, -3));
        return;
    }
    const int count = model()->rowCount();
    const QRect beside = visualRect(model()->index(std::min(*dropBefore_, count - 1), 0));
    const bool after = *dropBefore_ >= count;
    if (isAcross()) {
        const int x = after ? beside.right() : beside.left() + 2;
        painter.drawLine(x, 4, x, height() - 4);
    } else {
        const int y = after ? beside.bottom() : beside.top() + 1;
        painter.drawLine(4, y, width() - 4, y);
    }
}

}  // namespace dimhem::ui
