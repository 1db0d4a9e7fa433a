// What the settings of several kinds of part are made of.
#pragma once

#include <QVBoxLayout>

#include "core/mask/range.h"
#include "ui/bound/bound_slider.h"
#include "ui/control/labelled_row.h"
#include "ui/control/range_strip.h"
#include "ui/part/part_settings.h"

class QLabel;

namespace dimhem::ui {

void addLabelled(const SettingsBuilder& b, const QString& text, QWidget* control);
QLabel* addHint(const SettingsBuilder& b, const QString& text);

// The settings that are rarely changed, folded away; the builder for what goes into it.
SettingsBuilder addMore(const SettingsBuilder& b);

// The part shown alone while one looks round; nothing for a limit, which is no part.
void addStaysInSight(const SettingsBuilder& b);

// On which picture something is measured.
void addMeasured(const SettingsBuilder& b, const std::function<mask::Seen()>& current,
                 const std::function<void(mask::Seen)>& choose);

// The part's shape, or its limit, in a version, as the kind the settings are built for; null where it is gone.
template <class T>
std::shared_ptr<const T> shapeIn(const SettingsBuilder& b, const document::Document& document) {
    const document::Correction* correction = document::findCorrection(document, b.target.correction);
    const mask::Part* part = correction ? mask::findPart(correction->mask, b.target.part) : nullptr;
    return part ? std::dynamic_pointer_cast<const T>(part->*b.target.of) : nullptr;
}

// As it is now.
template <class T>
std::shared_ptr<const T> shapeOf(const SettingsBuilder& b) {
    return b.session.isOpen() ? shapeIn<T>(b, *b.session.document()) : nullptr;
}

// A version with the shape made anew by `change(shape)`; as it is where the part is gone.
template <class T, class Change>
document::DocumentPtr withShape(const SettingsBuilder& b, const document::Document& document, const Change& change) {
    return document::withPart(document, b.target.correction, b.target.part, [&](mask::Part& part) {
        mask::ShapePtr& made = part.*b.target.of;
        if (const auto shape = std::dynamic_pointer_cast<const T>(made)) made = change(*shape);
    });
}

template <class T, class Change>
void editShape(const SettingsBuilder& b, const QString& step, const Change& change) {
    b.session.edit(step, [&](const document::Document& d) { return withShape<T>(b, d, change); });
}

// A slider of one number of the shape's values: `values(shape)` gives a copy to change, `made` a shape of it.
template <class T, class Values>
void addSlider(const SettingsBuilder& b, const base::ParamSpec& spec, double Values::*member,
               const std::function<Values(const T&)>& values,
               const std::function<mask::ShapePtr(const Values&)>& made) {
    auto* slider = boundSlider(spec, QObject::tr("change part: %1").arg(words(spec.label)), b.session, b.target, b.body,
                               [b, member, values, made](const document::Document& document, double value) {
                                   return withShape<T>(b, document, [&](const T& shape) {
                                       Values changed = values(shape);
                                       changed.*member = value;
                                       return made(changed);
                                   });
                               });
    slider->setObjectName("part-" + idText(spec.id));
    b.onRefresh([b, slider, member, values] {
        if (const auto shape = shapeOf<T>(b)) slider->setValue(values(*shape).*member);
    });
    b.layout->addWidget(slider);
}

// A strip of one range of the shape's values.
template <class T, class Values>
RangeStrip* addStrip(const SettingsBuilder& b, RangeStrip::Scale scale, const QString& name, const QString& objectName,
                     const QString& step, mask::Range Values::*member) {
    auto* strip = new RangeStrip(scale, name, b.body);
    strip->setObjectName(objectName);
    const auto gesture = controlGesture(b.session, step, b.target);
    QObject::connect(strip, &RangeStrip::changed, &b.session, [b, gesture, member](const mask::Range& range) {
        gesture->preview([&](const document::Document& base) {
            return withShape<T>(b, base, [&](const T& shape) {
                Values changed = shape.values();
                changed.*member = range;
                return std::make_shared<T>(changed);
            });
        });
    });
    QObject::connect(strip, &RangeStrip::finished, &b.session, [gesture] { gesture->commit(); });
    b.onRefresh([b, strip, member] {
        if (const auto shape = shapeOf<T>(b)) strip->setRange(shape->values().*member);
    });
    b.layout->addWidget(strip);
    return strip;
}

// The same for a shape whose values say it; `chosen` is called after the step.
template <class T>
void addMeasuredOf(const SettingsBuilder& b, const QString& step, const std::function<void(mask::Seen)>& chosen = {}) {
    addMeasured(
        b,
        [b] {
            const auto shape = shapeOf<T>(b);
            return shape ? shape->values().seen : mask::Seen::photo;
        },
        [b, step, chosen](mask::Seen seen) {
            editShape<T>(b, step, [seen](const T& shape) {
                auto values = shape.values();
                values.seen = seen;
                return std::make_shared<T>(values);
            });
            if (chosen) chosen(seen);
        });
}

}  // namespace dimhem::ui
