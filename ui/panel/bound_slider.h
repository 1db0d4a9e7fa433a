// Sliders and switches that edit the document: each drag is one named step, and grips stay away while it lasts.
#pragma once

#include "core/document/edits.h"
#include "ui/control/value_slider.h"
#include "ui/session/session.h"

namespace dimhem::ui {

// `changed(document, value)` gives the version with the value in it.
template <class Changed>
ValueSlider* boundSlider(const base::ParamSpec& spec, const QString& stepName, Session& session, QWidget* parent,
                         Changed changed) {
    auto* slider = new ValueSlider(spec, parent);
    QObject::connect(slider, &ValueSlider::changed, &session, [&session, changed](double value) {
        session.setSliding(true);
        session.preview(changed(*session.document(), value));
    });
    QObject::connect(slider, &ValueSlider::finished, &session, [&session, stepName] {
        session.setSliding(false);
        session.commitPreview(stepName);
    });
    return slider;
}

inline QString words(std::string_view text) {
    return QString::fromUtf8(text.data(), static_cast<qsizetype>(text.size()));
}

}  // namespace dimhem::ui
