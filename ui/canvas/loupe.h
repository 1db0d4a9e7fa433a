// Both sides at actual size about the pointer, next to each other, while a key is held.
#pragma once

#include <QImage>
#include <QPainter>
#include <optional>

#include "ui/canvas/tool.h"

namespace dimhem::ui {

class Loupe {
public:
    static constexpr int sidePx = 220;  // of the screen, each side

    void setHeld(bool held);
    bool isHeld() const { return held_; }
    // The part of the photo it wants to see about a place, within the photo; empty while it is not held.
    base::Rect wanted(base::Point place, base::Size photo, double devicePixelRatio) const;
    void put(const QImage& before, const QImage& after);
    void paint(QPainter& painter, QPointF pointer, QSize view, const QString& beforeName,
               const QString& afterName) const;

private:
    bool held_ = false;
    QImage before_, after_;
};

}  // namespace dimhem::ui
