// Numbers to type, in a small sheet beside what they belong to: Return or Enter takes them, Esc or a press elsewhere
// gives them up.
#pragma once

#include <QFrame>
#include <QList>
#include <functional>

class QDoubleSpinBox;

namespace dimhem::ui {

struct Number {
    QString label, unit;
    double value = 0, min = 0, max = 100;
    int decimals = 1;
};

class NumberFields final : public QFrame {
    Q_OBJECT

public:
    // Opens at a place of the screen; `entered` gets the numbers in their order. It goes with its parent.
    static void open(const QString& title, const QList<Number>& numbers, QPoint global, QWidget* parent,
                     std::function<void(const QList<double>&)> entered);

protected:
    bool eventFilter(QObject* object, QEvent* event) override;

private:
    NumberFields(const QString& title, const QList<Number>& numbers, QWidget* parent);
    void enter();

    QList<QDoubleSpinBox*> fields_;
    std::function<void(const QList<double>&)> entered_;
};

}  // namespace dimhem::ui
