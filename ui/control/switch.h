// A small two-position switch for on and off.
#pragma once

#include <QAbstractButton>
#include <QPainter>

namespace dimhem::ui {

// Its picture alone, in the middle of a rectangle.
void paintSwitch(QPainter& painter, const QRectF& rect, bool on, bool focused);

class Switch final : public QAbstractButton {
    Q_OBJECT

public:
    Switch(const QString& name, const QString& tip, QWidget* parent = nullptr);
    QSize sizeHint() const override;

protected:
    void paintEvent(QPaintEvent* event) override;
};

}  // namespace dimhem::ui
