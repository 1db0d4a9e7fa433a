// A list whose items are selected, one or several, put in another order by drag or keys, named in place, switched on
// and off and removed: the cards of the sequence, the parts of a mask. What the items are is the model's, how they look
// the delegate's.
//
// A click gives it the focus; Delete, F2, Alt and arrows, Space (on or off), Shift+F10 (the menu) and Enter (back to
// the photo) act on what is selected. Letters and signs stay keys of the window. Items can be dragged where their flags
// allow it.
#pragma once

#include <QListView>
#include <QTimer>
#include <optional>

namespace dimhem::ui {

class ItemList final : public QListView {
    Q_OBJECT

public:
    ItemList(Qt::Orientation along, QWidget* parent);

    QList<int> selectedRows() const;                   // in their order
    void select(const QList<int>& rows, int current);  // without a signal
    void rename(int row);                              // in place, where it has a name that can be changed
    // A drop on the middle of an item is a drop on it; else all are between two.
    void setDropsOn(bool on) { dropsOn_ = on; }
    // Text from elsewhere can be dropped on items.
    void setTakesText(bool takes);
    // The length along which all items are in sight.
    int wholeLength() const;

Q_SIGNALS:
    void chosen(const QList<int>& rows, int current);  // by the person
    void moveWanted(const QList<int>& rows, int before);
    void dropWanted(int row, int on, QPoint global);  // one item on the middle of another, where that is asked for
    void textDropped(const QMimeData* data, int on, QPoint global);  // -1: on none; the data go when this returns
    void removeWanted(const QList<int>& rows);
    void menuWanted(QPoint global);
    void pointedAt(int row);  // -1: at none

protected:
    bool event(QEvent* event) override;
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void focusInEvent(QFocusEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void contextMenuEvent(QContextMenuEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dragMoveEvent(QDragMoveEvent* event) override;
    void dragLeaveEvent(QDragLeaveEvent* event) override;
    void dropEvent(QDropEvent* event) override;
    void selectionChanged(const QItemSelection& selected, const QItemSelection& deselected) override;

private:
    bool isAcross() const { return along_ == Qt::Horizontal; }
    bool canMove(int row) const;
    QList<int> movable(const QList<int>& rows) const;
    int placeAt(QPoint at) const;  // before which row a drop there would go
    int itemHeldOver(QPoint at) const;
    void dragTo(QPoint at);
    void endDrag();
    void moveBy(int places);
    void tellChoice();

    Qt::Orientation along_;
    QPoint pressedAt_;
    int pressedRow_ = -1;
    std::optional<int> dropBefore_;  // while something is dragged
    int dropOn_ = -1;                // on whose middle it is held; -1: between two
    bool dropsOn_ = false;
    QPoint draggedTo_;
    QTimer edgeScroll_;
    bool isChosen_ = false;  // since it was told last
    bool isGiven_ = false;   // the selection comes from elsewhere: nothing is told of it
};

}  // namespace dimhem::ui
