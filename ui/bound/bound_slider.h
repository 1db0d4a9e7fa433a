// Controls that edit the document: each drag or run of keys is one gesture of the session, and grips stay away while it
// lasts. What they edit is fixed by its ids when they are made.
#pragma once

#include "core/document/edits.h"
#include "ui/control/value_slider.h"
#include "ui/session/session.h"
#include "ui/text/words.h"

namespace dimhem::ui {

// One control's gesture: begun by its first change, ended when the control says so, by whatever else begins, or with
// the control.
class ControlGesture {
public:
    ControlGesture(Session& session, QString stepName, EditTarget target)
        : session_(session), stepName_(std::move(stepName)), target_(target) {}

    // `change` gives the version with the new value in it, from the one the gesture began with.
    template <class Change>
    void preview(const Change& change) {
        if (!gesture_.isRunning())
            gesture_ = session_.begin({.stepName = stepName_, .target = target_, .hidesGrips = true});
        if (gesture_.isRunning()) gesture_.preview(change(*gesture_.base()));
    }
    void commit() { gesture_.commit(); }
    void giveUp() { gesture_.giveUp(); }
    bool isRunning() const { return gesture_.isRunning(); }

private:
    Session& session_;
    QString stepName_;
    EditTarget target_;
    Gesture gesture_;
};

std::shared_ptr<ControlGesture> controlGesture(Session& session, const QString& stepName, const EditTarget& target);

// `changed(document, value)` gives the version with the value in it.
template <class Changed>
ValueSlider* boundSlider(const base::ParamSpec& spec, const QString& stepName, Session& session,
                         const EditTarget& target, QWidget* parent, Changed changed) {
    auto* slider = new ValueSlider(spec, parent);
    const auto gesture = controlGesture(session, stepName, target);
    QObject::connect(slider, &ValueSlider::changed, &session, [gesture, changed](double value) {
        gesture->preview([&](const document::Document& base) { return changed(base, value); });
    });
    QObject::connect(slider, &ValueSlider::finished, &session, [gesture] { gesture->commit(); });
    return slider;
}

}  // namespace dimhem::ui
