// One choice out of a few, as buttons side by side.
#pragma once

#include <QWidget>

class QButtonGroup;

namespace dimhem::ui {

class Segmented final : public QWidget {
    Q_OBJECT

public:
    struct Choice {
        QString label, tip;
    };
    Segmented(const QString& name, const QList<Choice>& choices, QWidget* parent = nullptr);

    // One button with what is chosen, that opens the choices: where there is no room for all of them.
    void setShort(bool isShort);
    void makeRoomy();  // wider buttons, for bars
    QWidget* button(int index) const;
    int current() const;
    void setCurrent(int index);  // without a signal

Q_SIGNALS:
    void chosen(int index);  // by the person

private:
    void showChosen();

    QButtonGroup* group_;
    class QToolButton* short_ = nullptr;
};

}  // namespace dimhem::ui
