// Controls side by side, as many as fit into a line; what does not begins the next line.
#pragma once

#include <QLayout>

namespace dimhem::ui {

class FlowLayout final : public QLayout {
    Q_OBJECT

public:
    explicit FlowLayout(QWidget* parent = nullptr);
    ~FlowLayout() override;

    void addItem(QLayoutItem* item) override { items_.append(item); }
    int count() const override { return static_cast<int>(items_.size()); }
    QLayoutItem* itemAt(int index) const override { return items_.value(index); }
    QLayoutItem* takeAt(int index) override;
    Qt::Orientations expandingDirections() const override { return {}; }
    bool hasHeightForWidth() const override { return true; }
    int heightForWidth(int width) const override;
    QSize sizeHint() const override;
    QSize minimumSize() const override;  // the widest of them alone
    void setGeometry(const QRect& rect) override;

private:
    int laidOut(const QRect& rect, bool move) const;  // the height it takes
    QList<QLayoutItem*> items_;
};

}  // namespace dimhem::ui
