// A field for a name or a number: what is typed counts with Return or when the field is left; Esc gives it up. After
// Return nothing has the focus, and the window gives it to the photo: the next key is not typed into the field.
#pragma once

#include <QLineEdit>

namespace dimhem::ui {

class EntryField final : public QLineEdit {
    Q_OBJECT

public:
    explicit EntryField(const QString& text, QWidget* parent = nullptr);
    void typeFirst(const QString& text);  // takes the focus with this typed into it

Q_SIGNALS:
    void entered();  // only where something was typed
    void givenUp();

protected:
    bool event(QEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
};

// A field for a new name over a widget, gone when it is done; `renamed` gets the name where it is another.
EntryField* renameField(const QString& name, const QRect& place, QWidget* over,
                        std::function<void(const QString&)> renamed);

// Digits are keys of the window as well. In a control that holds a number they begin that number where keys led to it
// or a press chose it, but not after a drag by hand: then the next key is meant for the photo.
void takeDigits(QWidget& control, bool takes);
bool takesDigits(const QWidget& control);                         // at first yes
bool beginsNumber(const QWidget& control, const QKeyEvent& key);  // a digit or a sign, where it takes them

}  // namespace dimhem::ui
