#include "ui/control/entry_field.h"

#include <QKeyEvent>
#include <QPointer>

namespace dimhem::ui {

EntryField::EntryField(const QString& text, QWidget* parent) : QLineEdit(text, parent) {
    connect(this, &QLineEdit::editingFinished, this, [this] {
        if (!isModified()) return;
        setModified(false);
        Q_EMIT entered();
    });
}

void EntryField::typeFirst(const QString& text) {
    setFocus();
    setText(text);
    setModified(true);
}

bool EntryField::event(QEvent* event) {
    // Esc is a key of the window as well; here it is the field's.
    if (event->type() == QEvent::ShortcutOverride && static_cast<QKeyEvent*>(event)->key() == Qt::Key_Escape) {
        event->accept();
        return true;
    }
    return QLineEdit::event(event);
}

void EntryField::keyPressEvent(QKeyEvent* event) {
    if (event->key() != Qt::Key_Escape) {
        const QPointer<EntryField> still = this;
        QLineEdit::keyPressEvent(event);
        if (still && (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter)) clearFocus();
        return;
    }
    setModified(false);
    Q_EMIT givenUp();
}

EntryField* renameField(const QString& name, const QRect& place, QWidget* over,
                        std::function<void(const QString&)> renamed) {
    auto* field = new EntryField(name, over);
    field->setGeometry(place);
    field->selectAll();
    field->show();
    field->setFocus();
    QObject::connect(field, &EntryField::entered, over, [field, name, renamed = std::move(renamed)] {
        const QString typed = field->text().trimmed();
        if (!typed.isEmpty() && typed != name) renamed(typed);
    });
    QObject::connect(field, &EntryField::givenUp, field, &QObject::deleteLater);
    QObject::connect(field, &QLineEdit::editingFinished, field, &QObject::deleteLater);
    return field;
}

static constexpr char leavesDigits[] = "leavesDigits";

void takeDigits(QWidget& control, bool takes) {
    control.setProperty(leavesDigits, !takes);
}

bool takesDigits(const QWidget& control) {
    return !control.property(leavesDigits).toBool();
}

bool beginsNumber(const QWidget& control, const QKeyEvent& key) {
    const QString text = key.text();
    const bool isPlain = !(key.modifiers() & (Qt::ControlModifier | Qt::AltModifier));
    return takesDigits(control) && isPlain && !text.isEmpty() &&
           (text[0].isDigit() || QStringLiteral("+-").contains(text[0]));
}

}  // namespace dimhem::ui
