// A button without words whose name stands in a line near by while it is pointed at or in focus. In focus by keys it
// shows its tip as well.
#pragma once

#include <QToolButton>

class QLabel;

namespace dimhem::ui {

class NamedButton final : public QToolButton {
    Q_OBJECT

public:
    // `usual` is what the line says else.
    NamedButton(QLabel* line, const QString& usual, const QString& name, QWidget* parent);

protected:
    bool event(QEvent* event) override;

private:
    QLabel* line_;
    QString usual_, name_;
};

}  // namespace dimhem::ui
