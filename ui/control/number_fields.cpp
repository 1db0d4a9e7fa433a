#include "ui/control/number_fields.h"

#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QScreen>

#include "ui/control/theme.h"

namespace dimhem::ui {

void NumberFields::open(const QString& title, const QList<Number>& numbers, QPoint global, QWidget* parent,
                        std::function<void(const QList<double>&)> entered) {
    auto* sheet = new NumberFields(title, numbers, parent);
    sheet->entered_ = std::move(entered);
    sheet->adjustSize();
    QRect place(global, sheet->size());
    const QRect screen = parent->screen()->availableGeometry();
    place.moveRight(std::min(place.right(), screen.right()));
    place.moveBottom(std::min(place.bottom(), screen.bottom()));
    sheet->move(place.topLeft());
    sheet->show();
    sheet->fields_.front()->setFocus(Qt::PopupFocusReason);
    sheet->fields_.front()->selectAll();
}

NumberFields::NumberFields(const QString& title, const QList<Number>& numbers, QWidget* parent)
    : QFrame(parent, Qt::Popup) {
    setObjectName("numbers");
    setFrameShape(QFrame::Box);
    setAttribute(Qt::WA_DeleteOnClose);
    setAccessibleName(title);
    auto* form = new QFormLayout(this);
    form->setContentsMargins(theme::scaled(10), theme::scaled(8), theme::scaled(10), theme::scaled(8));
    auto* head = new QLabel(title, this);
    head->setProperty("quiet", true);
    form->addRow(head);
    for (const Number& number : numbers) {
        auto* field = new QDoubleSpinBox(this);
        field->setRange(number.min, number.max);
        field->setDecimals(number.decimals);
        field->setValue(number.value);
        if (!number.unit.isEmpty()) field->setSuffix(" " + number.unit);
        field->setAccessibleName(number.label);
        field->setToolTip(tr("Return takes the numbers, Esc leaves them as they were."));
        field->installEventFilter(this);
        form->addRow(number.label, field);
        fields_.append(field);
    }
}

bool NumberFields::eventFilter(QObject* object, QEvent* event) {
    if (event->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        if (key == Qt::Key_Return || key == Qt::Key_Enter) {
            enter();
            return true;
        }
        if (key == Qt::Key_Escape) {
            close();
            return true;
        }
    }
    return QFrame::eventFilter(object, event);
}

void NumberFields::enter() {
    QList<double> values;
    for (QDoubleSpinBox* field : fields_) {
        field->interpretText();
        values.append(field->value());
    }
    const auto entered = std::move(entered_);
    close();
    if (entered) entered(values);
}

}  // namespace dimhem::ui
