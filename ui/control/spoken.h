// What a screen reader is told of the program's own controls: a role, and where there is one a value.
//
// A control that is not one of Qt's inherits Spoken beside QWidget; installSpoken() makes Qt ask it. Its name and
// description are its widget's accessibleName and accessibleDescription.
#pragma once

#include <QAccessible>
#include <optional>

namespace dimhem::ui {

struct SpokenValue {
    double value, least, most, step;
};

class Spoken {
public:
    virtual ~Spoken() = default;
    virtual QAccessible::Role spokenRole() const = 0;
    virtual std::optional<SpokenValue> spokenValue() const { return std::nullopt; }
    virtual void setSpokenValue(double) {}  // by a person
    virtual bool isSpokenAsChosen() const { return false; }
};

void installSpoken();

// To be called when the value or whether it is chosen has changed.
void sayChanged(QWidget* control);

}  // namespace dimhem::ui
