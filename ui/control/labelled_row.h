// A row of a panel that is not a slider: the name of a choice at the left, its control at the right, or below it where
// there is no room beside it.
#pragma once

#include <QWidget>

class QBoxLayout;
class QLabel;

namespace dimhem::ui {

class LabelledRow final : public QWidget {
    Q_OBJECT

public:
    // A control that expands takes the rest of the row; any other stands at its right edge.
    LabelledRow(const QString& label, QWidget* control, QWidget* parent);
    QSize minimumSizeHint() const override;

protected:
    void resizeEvent(QResizeEvent* event) override;
    bool event(QEvent* event) override;

private:
    void arrange();

    QBoxLayout* layout_;
    QLabel* label_;
    QWidget* control_;
};

}  // namespace dimhem::ui
