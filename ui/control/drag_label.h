// A heading that can be taken hold of and dragged to another place of its list.
#pragma once

#include <QLabel>

namespace dimhem::ui {

class DragLabel final : public QLabel {
    Q_OBJECT

public:
    using QLabel::QLabel;

Q_SIGNALS:
    void dragged(QPoint global);
    void dropped(QPoint global);

protected:
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;

private:
    QPoint pressedAt_;
    bool dragging_ = false;
};

}  // namespace dimhem::ui
