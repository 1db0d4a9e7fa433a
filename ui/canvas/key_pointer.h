// A pointer that is moved by the cursor keys while the photo has the focus, and pressed with Space: what a hand can do
// on the photo, keys can.
//
// It stands at a place of the view, from the first cursor key on until the mouse moves again. Shift moves it further,
// Alt by one pixel; while Space is held the modifiers are the tool's.
#pragma once

#include <QKeyEvent>
#include <QPainter>
#include <QPointF>
#include <optional>

namespace dimhem::ui {

class KeyPointer {
public:
    // Whether the key moves the pointer, presses it or lets go of it.
    enum class Does { nothing, moves, presses, releases };
    Does takeKey(const QKeyEvent& event, bool pressed, QSize view);

    bool isThere() const { return at_.has_value(); }
    bool isPressed() const { return pressed_; }
    QPointF at() const { return at_.value_or(QPointF()); }
    // How far the view has to be moved so that there is some of the photo about the pointer.
    QPointF pan(QSize view) const;
    void moveBy(QPointF by);  // with the view
    void leave();

    void paint(QPainter& painter) const;

private:
    std::optional<QPointF> at_;
    bool pressed_ = false;
};

}  // namespace dimhem::ui
