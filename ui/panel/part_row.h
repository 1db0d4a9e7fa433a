// One part in the list of Where: a tiny plate of it, its name, how it combines, flip, and its switch.
#pragma once

#include <QImage>
#include <QWidget>

#include "ui/control/spoken.h"
#include "ui/session/session.h"

namespace dimhem::ui {

class PartRow final : public QWidget, public Spoken {
    Q_OBJECT

public:
    PartRow(Session& session, const mask::Part& part, QWidget* parent);
    mask::PartId part() const { return part_; }
    QAccessible::Role spokenRole() const override { return QAccessible::ListItem; }
    bool isSpokenAsChosen() const override;
    void setPlate(const QImage& plate);

Q_SIGNALS:
    // While it is dragged: over how many rows it would go, down or, below 0, up; nothing once it is let go of.
    void draggedBy(std::optional<int> places);

protected:
    bool event(QEvent* event) override;
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void contextMenuEvent(QContextMenuEvent* event) override;
    void enterEvent(QEnterEvent* event) override;
    void leaveEvent(QEvent* event) override;

private:
    void showInvert();
    int firstButtonX() const;
    void rename();
    void moveBy(int places);
    void copyTo(document::Id correction);
    void remove();
    void change(const QString& stepName, const std::function<void(mask::Part&)>& change);

    Session& session_;
    mask::PartId part_;
    QString name_;
    QImage plate_;
    class QToolButton* invert_;
    bool canInvert_ = true, dragging_ = false;
    int pressedY_ = 0;
    int dragPlaces_ = 0;  // how many rows down it would go
};

}  // namespace dimhem::ui
