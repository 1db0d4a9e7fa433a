#include "ui/control/spoken.h"

#include <QAccessibleWidget>
#include <QWidget>

namespace dimhem::ui {

namespace {

class SpokenWidget final : public QAccessibleWidget, public QAccessibleValueInterface {
public:
    SpokenWidget(QWidget* widget, Spoken* spoken) : QAccessibleWidget(widget, spoken->spokenRole()), spoken_(spoken) {}

    void* interface_cast(QAccessible::InterfaceType type) override {
        if (type == QAccessible::ValueInterface && spoken_->spokenValue())
            return static_cast<QAccessibleValueInterface*>(this);
        return QAccessibleWidget::interface_cast(type);
    }
    QAccessible::State state() const override {
        QAccessible::State state = QAccessibleWidget::state();
        state.selected = spoken_->isSpokenAsChosen();
        return state;
    }
    QVariant currentValue() const override { return number(&SpokenValue::value); }
    QVariant minimumValue() const override { return number(&SpokenValue::least); }
    QVariant maximumValue() const override { return number(&SpokenValue::most); }
    QVariant minimumStepSize() const override { return number(&SpokenValue::step); }
    void setCurrentValue(const QVariant& value) override { spoken_->setSpokenValue(value.toDouble()); }

private:
    QVariant number(double SpokenValue::*which) const {
        const auto value = spoken_->spokenValue();
        return value ? QVariant((*value).*which) : QVariant();
    }
    Spoken* spoken_;
};

QAccessibleInterface* spokenOf(const QString&, QObject* object) {
    auto* widget = qobject_cast<QWidget*>(object);
    auto* spoken = dynamic_cast<Spoken*>(object);
    return widget && spoken ? new SpokenWidget(widget, spoken) : nullptr;
}

}  // namespace

void installSpoken() {
    QAccessible::installFactory(&spokenOf);
}

void sayChanged(QWidget* control) {
    if (!QAccessible::isActive()) return;
    if (const auto* spoken = dynamic_cast<Spoken*>(control); spoken && spoken->spokenValue()) {
        QAccessibleValueChangeEvent event(control, spoken->spokenValue()->value);
        QAccessible::updateAccessibility(&event);
    }
}

}  // namespace dimhem::ui
