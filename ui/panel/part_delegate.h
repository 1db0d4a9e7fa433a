// How a part looks in the list of Where: a tiny plate of it, its name, how it combines, whether it is inverted, and its
// switch; and what a press on each of these does.
#pragma once

#include <QStyledItemDelegate>

namespace dimhem::ui {

class PartDelegate final : public QStyledItemDelegate {
    Q_OBJECT

public:
    using QStyledItemDelegate::QStyledItemDelegate;
    static int rowHeight();

    enum class Place { nothing, combine, invert, onOff };
    static Place placeAt(const QRect& row, const QModelIndex& index, QPoint at);
    static QRect rectOf(const QRect& row, Place place);

Q_SIGNALS:
    void combineWanted(const QModelIndex& index, QPoint global);

protected:
    QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const override;
    void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override;
    bool editorEvent(QEvent* event, QAbstractItemModel* model, const QStyleOptionViewItem& option,
                     const QModelIndex& index) override;
    bool helpEvent(QHelpEvent* event, QAbstractItemView* view, const QStyleOptionViewItem& option,
                   const QModelIndex& index) override;
    QWidget* createEditor(QWidget* parent, const QStyleOptionViewItem& option, const QModelIndex& index) const override;
    void setEditorData(QWidget* editor, const QModelIndex& index) const override;
    void setModelData(QWidget* editor, QAbstractItemModel* model, const QModelIndex& index) const override;
    void updateEditorGeometry(QWidget* editor, const QStyleOptionViewItem& option,
                              const QModelIndex& index) const override;
};

}  // namespace dimhem::ui
