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

    void makeRoomy();  // wider buttons, for bars
    QWidget* button(int index) const;
    int current() const;
    void setCurrent(int index);  // without a signal

Q_SIGNALS:
    void chosen(int index);  // by the person

private:
    QButtonGroup* group_;
};

}  // namespace dimhem::ui
