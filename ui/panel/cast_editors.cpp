// Picking from the photo for white balance, colour balance and spill suppression.
#include <QPushButton>
#include <cmath>

#include "core/adjust/colour_balance.h"
#include "core/adjust/spill_suppression.h"
#include "core/adjust/white_balance.h"
#include "core/colour/srgb.h"
#include "core/task/masked_colours.h"
#include "core/task/probe.h"
#include "ui/bound/bound_slider.h"
#include "ui/panel/adjustment_editor.h"
#include "ui/session/photo_reading.h"

namespace dimhem::ui {

namespace {

constexpr base::ParamSpec leaveSpec = {
    .id = "leave",
    .label = "Cast to keep",
    .unit = "%",
    .max = 50,
    .neutral = 10,
    .tip = "How much of the cast a pick leaves: what is wholly neutral soon looks false."};

// The mean colour of an area as it arrives at the correction, then `use(colour)`; tells the person where there is none.
void readArriving(const EditorFrame& f, const PhotoDrag& drag, std::function<void(const colour::LinearRgb&)> use) {
    render::Comparison arriving;
    arriving.stopBefore = f.correction;
    readInBackground(
        f.session,
        [renderer = f.session.sharedRenderer(), document = f.session.document(), arriving, area = drag.area()] {
            return task::meanColourIn(*renderer, render::Sequence(document, arriving), area);
        },
        [f, use = std::move(use)](const std::optional<colour::LinearRgb>& colour) {
            if (!colour) {
                f.session.say(QObject::tr("That place lies outside the photo."));
            } else if (!std::isfinite(colour->r + colour->g + colour->b)) {
                f.session.say(QObject::tr("The photo has no valid colour at that place."));
            } else {
                use(*colour);
            }
        });
}

PhotoGesture asking(const QString& hint, std::function<void(const PhotoDrag&)> done) {
    PhotoGesture gesture;
    gesture.hint = hint;
    gesture.marksArea = true;
    gesture.done = std::move(done);
    return gesture;
}

void addNeutralPicker(const EditorFrame& f) {
    auto* leave = new ValueSlider(leaveSpec, f.body);
    leave->setObjectName("leave");
    leave->setValue(f.state.leavePct);
    QObject::connect(leave, &ValueSlider::changed, f.body, [f](double pct) { f.state.leavePct = pct; });
    FlowLayout* row = f.addRow();
    QPushButton* pick = f.addButton(
        "pipette", QObject::tr("Pick a neutral"), "pick-neutral",
        QObject::tr(
            "Click, then press on something in the photo that should be neutral, or drag over it. Esc gives up."),
        row);
    f.layout->addWidget(leave);
    QObject::connect(pick, &QPushButton::clicked, f.body, [f] {
        f.session.ask(
            asking(QObject::tr("Press on what should be neutral, or drag over it"), [f](const PhotoDrag& drag) {
                readArriving(f, drag, [f](const colour::LinearRgb& colour) {
                    f.edit(QObject::tr("pick a neutral"),
                           [&](adjust::Settings& next) { next = f.kind.neutralising(colour, f.state.leavePct / 100); });
                });
            }));
    });
}

void addAllParameters(const EditorFrame& f) {
    for (std::size_t i = 0; i < f.kind.params.size(); ++i) f.addParameter(i);
}

void setScreen(const EditorFrame& f, double hue, const QString& step) {
    f.edit(f.step(step), [&](adjust::Settings& next) {
        for (std::size_t i = 0; i < f.kind.params.size(); ++i) {
            if (f.kind.params[i].id == "screen") next.values[i] = hue;
            if (f.kind.params[i].id == "amount" && next.values[i] == 0) next.values[i] = 100;
        }
    });
}

}  // namespace

void buildWhiteBalanceEditor(const EditorFrame& f) {
    addAllParameters(f);
    addNeutralPicker(f);
}

void buildColourBalanceEditor(const EditorFrame& f) {
    addAllParameters(f);
    addNeutralPicker(f);
}

void buildSpillEditor(const EditorFrame& f) {
    addAllParameters(f);
    FlowLayout* row = f.addRow();
    QPushButton* pick = f.addButton(
        "pipette", QObject::tr("Pick the screen"), "pick-screen",
        QObject::tr("Click, then press on the screen, or on the spot with the strongest spill, in the photo."), row);
    QObject::connect(pick, &QPushButton::clicked, f.body, [f] {
        f.session.ask(asking(QObject::tr("Press on the screen's colour"), [f](const PhotoDrag& drag) {
            readArriving(f, drag, [f](const colour::LinearRgb& colour) {
                setScreen(f, adjust::screenHueOf(colour::encodedFromLinear(colour)), QObject::tr("pick the screen"));
            });
        }));
    });
    QPushButton* find = f.addButton("maximize", QObject::tr("Find colour"), "find-screen",
                                    QObject::tr("Takes the strongest colour of the photo for the screen's."), row);
    QObject::connect(find, &QPushButton::clicked, f.body, [f] {
        readInBackground(
            f.session, [renderer = f.session.sharedRenderer()] { return task::commonScreenHue(*renderer); },
            [f](const std::optional<double>& hue) {
                if (hue) {
                    setScreen(f, *hue, QObject::tr("find the screen"));
                } else {
                    f.session.say(QObject::tr("No strong colour was found in this photo."));
                }
            });
    });
}

}  // namespace dimhem::ui
