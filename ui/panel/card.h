// One card of the sequence: a small picture of the masked area, name, switch, strength, and the thread line.
#pragma once

#include <QImage>
#include <QWidget>

#include "ui/control/spoken.h"

namespace dimhem::ui {

class Switch;

class Card final : public QWidget, public Spoken {
    Q_OBJECT

public:
    // Cards of the photo and the result have no switch.
    Card(const QString& name, bool isCorrection, QWidget* parent);

    void setPicture(const QImage& picture);
    void setState(const QString& name, const QString& detail, bool enabled, bool selected, bool alsoSelected,
                  const QColor& thread);
    void rename();
    QAccessible::Role spokenRole() const override { return QAccessible::ListItem; }
    bool isSpokenAsChosen() const override { return selected_ || alsoSelected_; }
    QSize sizeHint() const override { return {isCorrection_ ? 164 : 150, 60}; }

Q_SIGNALS:
    void pressed(Qt::KeyboardModifiers modifiers);
    void renamed(const QString& name);
    void switched(bool on);
    void dragged(QPoint global);  // while the card is held and moved
    void dropped(QPoint global);
    void moveWanted(int places);  // along the sequence
    void removeWanted();
    void menuWanted(QPoint global);

protected:
    bool event(QEvent* event) override;
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void contextMenuEvent(QContextMenuEvent* event) override;

private:
    bool isCorrection_;
    QString name_, detail_;
    QImage picture_;
    QColor thread_;
    bool selected_ = false, alsoSelected_ = false, enabled_ = true;
    Switch* switch_ = nullptr;
    QPoint pressedAt_;
    bool dragging_ = false;
};

}  // namespace dimhem::ui
