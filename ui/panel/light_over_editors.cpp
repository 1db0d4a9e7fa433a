// Veil and shadow lift: what lies over the photo, told from the photo itself.
#include <QLabel>
#include <QPushButton>
#include <cmath>

#include "core/adjust/shadow_lift.h"
#include "core/adjust/veil.h"
#include "core/adjust/veil_colour.h"
#include "core/task/measuring.h"
#include "core/task/probe.h"
#include "ui/panel/adjustment_editor.h"
#include "ui/session/photo_reading.h"

namespace dimhem::ui {

namespace {

// The kind's own measuring, which may change any setting; where it finds nothing, that is said.
void measureAll(const EditorFrame& f, const QString& step, const QString& nothing) {
    const auto toNeutral = [](document::AdjustmentUse& use) { use.settings = adjust::neutralSettings(*use.kind); };
    readInBackground(
        f.session,
        [renderer = f.session.sharedRenderer(), document = f.session.document(), correction = f.correction, use = f.use,
         toNeutral] {
            // From settings that nothing was measured into: what was found before is no answer.
            const auto anew = document::withAdjustment(*document, correction, use, toNeutral);
            return task::measured(*renderer, anew, correction, use);
        },
        [f, step, nothing](const std::optional<task::Measured>& found) {
            if (!found || !f.settings()) return;
            const adjust::Settings neutral = adjust::neutralSettings(f.kind);
            if (found->settings == neutral) {
                document::MeasuredUnder under = found->under.value_or(document::MeasuredUnder{});
                under.found = false;
                f.editMeasured(
                    f.step(step), [](adjust::Settings&) {}, under);
                return f.session.say(nothing);
            }
            adjust::Settings wanted = *f.settings();
            for (std::size_t i = 0; i < wanted.values.size(); ++i) {
                if (found->settings.values[i] != neutral.values[i]) wanted.values[i] = found->settings.values[i];
            }
            if (wanted == *f.settings()) f.session.say(QObject::tr("It was found as it is set already."));
            f.editMeasured(
                f.step(step), [&](adjust::Settings& next) { next = wanted; }, found->under);
        });
}

void pickVeil(const EditorFrame& f, base::Point place) {
    if (!f.settings()) return;
    const double amount = f.settings()->values[0], density = amount > 0 ? amount / 100 : 1;
    readInBackground(
        f.session,
        [renderer = f.session.sharedRenderer(), document = f.session.document(), correction = f.correction, use = f.use,
         place, density] {
            return adjust::pickedVeil(*task::subjectOf(*renderer, document, correction, use), place, density);
        },
        [f, density](const std::optional<colour::LinearRgb>& colour) {
            if (!colour)
                return f.session.say(
                    QObject::tr("There is no veil under the mask here, or no place without one near it."));
            f.edit(f.step(QObject::tr("pick the veil's light")), [&](adjust::Settings& next) {
                next = adjust::withVeilColour(next, *colour);
                next.values[0] = 100 * density;
            });
        });
}

struct LitAndShaded {
    std::optional<colour::LinearRgb> shaded, lit;
    double coverage = 0;
};

// How many times more light falls on one place than on another of the same stuff that the mask covers.
void gainsBetween(const EditorFrame& f, base::Point shaded, base::Point lit) {
    render::Comparison arriving;
    arriving.stopBefore = f.correction;
    readInBackground(
        f.session,
        [renderer = f.session.sharedRenderer(), document = f.session.document(), correction = f.correction, use = f.use,
         arriving, shaded, lit] {
            const render::Sequence sequence(document, arriving);
            LitAndShaded seen{task::colourAt(*renderer, sequence, shaded, 7),
                              task::colourAt(*renderer, sequence, lit, 7), 0};
            const auto subject = task::subjectOf(*renderer, document, correction, use);
            const int x = std::clamp(static_cast<int>(shaded.x), 0, subject->photoSize().width - 1),
                      y = std::clamp(static_cast<int>(shaded.y), 0, subject->photoSize().height - 1);
            seen.coverage = double{subject->coverage({x, y, x + 1, y + 1}, 0).row(0)[0]};
            return seen;
        },
        [f](const LitAndShaded& seen) {
            if (!seen.shaded || !seen.lit || seen.coverage < 0.2)
                return f.session.say(QObject::tr("Drag from a place that the mask covers to a lit one beside it."));
            // P = J (1 - m + m / k)
            const auto gain = [&](double dark, double light) {
                const double part = (dark / std::max(light, 1e-4) - 1 + seen.coverage) / seen.coverage;
                return 1 / std::clamp(part, 1.0 / 16, 1.0);
            };
            const colour::LinearRgb &dark = *seen.shaded, &light = *seen.lit;
            f.edit(f.step(QObject::tr("two places")), [&](adjust::Settings& next) {
                next = adjust::withGains(next, {gain(dark.r, light.r), gain(dark.g, light.g), gain(dark.b, light.b)});
                if (next.values[0] == 0) next.values[0] = 100;
            });
        });
}

}  // namespace

void buildVeilEditor(const EditorFrame& f) {
    for (std::size_t i = 0; i < f.kind.params.size(); ++i) f.addParameter(i);
    auto* says = new QLabel(f.body);
    says->setObjectName("noise-gain");
    says->setProperty("quiet", true);
    says->setWordWrap(true);
    f.onRefresh([f, says] {
        if (f.settings())
            says->setText(QObject::tr("Where the mask covers all, noise becomes %1 times as strong.")
                              .arg(adjust::noiseGainOf(*f.settings(), 1), 0, 'f', 1));
    });
    f.layout->addWidget(says);
    FlowLayout* row = f.addRow();
    QPushButton* pick =
        f.addButton("pipette", QObject::tr("Pick its light"), "pick-veil",
                    QObject::tr("Click, then press where the veil is dense: its own light is worked out from "
                                "what is seen there and what lies beside it."),
                    row);
    QObject::connect(pick, &QPushButton::clicked, f.body, [f] {
        PhotoGesture gesture;
        gesture.hint = QObject::tr("Press where the veil is dense");
        gesture.done = [f](const PhotoDrag& drag) { pickVeil(f, drag.from); };
        f.session.ask(std::move(gesture));
    });
    QPushButton* find = f.addButton("maximize", QObject::tr("Find light"), "find-veil",
                                    QObject::tr("Finds the veil's light and how dense it is beside its mask."), row);
    QObject::connect(find, &QPushButton::clicked, f.body, [f] {
        measureAll(f, QObject::tr("find the veil's light"),
                   QObject::tr("The mask covers too little, or too evenly, to find a veil under it."));
    });
}

void buildShadowEditor(const EditorFrame& f) {
    for (std::size_t i = 0; i < f.kind.params.size(); ++i) f.addParameter(i);
    FlowLayout* row = f.addRow();
    QPushButton* border = f.addButton("maximize", QObject::tr("From border"), "gains-from-border",
                                      QObject::tr("Measures what each channel lacks from the soft border of the mask, "
                                                  "where it lies on the shadow's own."),
                                      row);
    QObject::connect(border, &QPushButton::clicked, f.body, [f] {
        measureAll(f, QObject::tr("measure from the border"),
                   QObject::tr("No border under the mask fades as a shadow's does: drag between two places instead."));
    });
    QPushButton* places =
        f.addButton("pipette", QObject::tr("Two places"), "gains-from-places",
                    QObject::tr("Click, then drag from a shaded place to a lit one of the same stuff."), row);
    QObject::connect(places, &QPushButton::clicked, f.body, [f] {
        PhotoGesture gesture;
        gesture.hint = QObject::tr("Drag from a shaded place to a lit one of the same stuff");
        gesture.done = [f](const PhotoDrag& drag) { gainsBetween(f, drag.from, drag.to); };
        f.session.ask(std::move(gesture));
    });
}

}  // namespace dimhem::ui
