// A small two-position switch for on and off.
#pragma once

#include <QAbstractButton>

namespace dimhem::ui {

class Switch final : public QAbstractButton {
    Q_OBJECT

public:
    Switch(const QString& name, const QString& tip, QWidget* parent = nullptr);
    QSize sizeHint() const override { return {28, 24}; }

protected:
    void paintEvent(QPaintEvent* event) override;
};

}  // namespace dimhem::ui
