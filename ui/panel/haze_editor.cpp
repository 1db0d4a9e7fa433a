#include <QLabel>
#include <QPushButton>
#include <cmath>

#include "core/adjust/haze.h"
#include "core/mask/haze_depth.h"
#include "core/task/probe.h"
#include "ui/panel/adjustment_editor.h"
#include "ui/session/photo_reading.h"

namespace dimhem::ui {

namespace {

QString wordsOf(const adjust::Settings& settings) {
    const auto air = adjust::airLightOf(settings);
    const auto least = adjust::leastHaze(settings);
    if (!air || !least) return QObject::tr("Looking for the haze in the photo ...");
    const auto percent = [](double v) { return QString::number(std::lround(100 * v)); };
    QString text =
        QObject::tr("Air light, linear: %1, %2, %3 %.").arg(percent(air->r), percent(air->g), percent(air->b));
    const bool hasNear = !settings.tables[static_cast<std::size_t>(adjust::HazeTable::near)].empty();
    if (*least > adjust::muchHaze && !hasNear)
        text += QObject::tr(" Haze is found even on the clearest places: mark one that has none.");
    return text;
}

using Mark = adjust::Settings (*)(adjust::Settings, double, double);

// What follows from a mark is measured in the background.
void askForMark(const EditorFrame& f, const QString& hint, const QString& step, Mark mark) {
    PhotoGesture gesture;
    gesture.hint = hint;
    gesture.done = [f, step, mark](const PhotoDrag& drag) {
        f.edit(f.step(step),
               [&](adjust::Settings& next) { next = mark(next, std::round(drag.from.x), std::round(drag.from.y)); });
    };
    f.session.ask(std::move(gesture));
}

void pickAirLight(const EditorFrame& f, base::Point place) {
    render::Comparison arriving;
    arriving.stopBefore = f.correction;
    readInBackground(
        f.session,
        [renderer = f.session.sharedRenderer(), document = f.session.document(), arriving, place] {
            return task::colourAt(*renderer, render::Sequence(document, arriving), place, 7);
        },
        [f](const std::optional<colour::LinearRgb>& air) {
            if (!air || !std::isfinite(air->r + air->g + air->b)) return;
            f.edit(f.step(QObject::tr("pick the air light")),
                   [&](adjust::Settings& next) { next = adjust::withAirLight(next, *air); });
        });
}

// The correction kept to what lies far, by a part of its mask.
void addDepthPart(const EditorFrame& f) {
    FlowLayout* row = f.addRow();
    QPushButton* only = f.addButton("haze-depth", QObject::tr("Only what lies far"), "only-far",
                                    QObject::tr("Adds a part to the mask that keeps the correction to what is deep in "
                                                "haze. Its plate view shows where that is."),
                                    row);
    QObject::connect(only, &QPushButton::clicked, f.body, [f] {
        f.session.edit(QObject::tr("only what lies far"), [&](const document::Document& d) {
            const document::Correction* correction = document::findCorrection(d, f.correction);
            if (!correction) return document::withCorrection(d, f.correction, [](document::Correction&) {});
            const bool narrows = correction->mask.startsEverywhere || !correction->mask.parts.empty();
            return document::withNewPart(d, f.correction, mask::HazeDepth::kindInfo.makeFor({}),
                                         narrows ? mask::Combine::overlap : mask::Combine::add)
                .document;
        });
    });
}

}  // namespace

void buildHazeEditor(const EditorFrame& f) {
    for (std::size_t i = 0; i < f.kind.params.size(); ++i) f.addParameter(i);
    auto* says = new QLabel(f.body);
    says->setObjectName("haze-found");
    says->setProperty("quiet", true);
    says->setWordWrap(true);
    f.onRefresh([f, says] {
        if (f.settings()) says->setText(wordsOf(*f.settings()));
    });
    f.layout->addWidget(says);
    FlowLayout* airRow = f.addRow();
    QPushButton* pick =
        f.addButton("pipette", QObject::tr("Pick air light"), "pick-air",
                    QObject::tr("Click, then press on the palest haze, far away but not above it."), airRow);
    QObject::connect(pick, &QPushButton::clicked, f.body, [f] {
        PhotoGesture gesture;
        gesture.hint = QObject::tr("Press on the palest haze");
        gesture.done = [f](const PhotoDrag& drag) { pickAirLight(f, drag.from); };
        f.session.ask(std::move(gesture));
    });
    QPushButton* find = f.addButton("maximize", QObject::tr("Find light"), "find-air",
                                    QObject::tr("Looks for the air light in the whole photo, as it is now."), airRow);
    QObject::connect(find, &QPushButton::clicked, f.body, [f] {
        f.edit(f.step(QObject::tr("find the air light")), [](adjust::Settings& next) {
            next.tables[static_cast<std::size_t>(adjust::HazeTable::colour)].clear();
            next.tables[static_cast<std::size_t>(adjust::HazeTable::measured)].clear();
        });
    });
    FlowLayout* marks = f.addRow();
    QPushButton* near =
        f.addButton("plus", QObject::tr("Near"), "mark-near",
                    QObject::tr("Click, then press on a place without haze: it is left as it is."), marks);
    QObject::connect(near, &QPushButton::clicked, f.body, [f] {
        askForMark(f, QObject::tr("Press on a place without haze"), QObject::tr("near mark"), adjust::withNearMark);
    });
    QPushButton* far = f.addButton(
        "plus", QObject::tr("Far"), "mark-far",
        QObject::tr("Click, then press on a place in thick haze: 85 % of its light counts as haze."), marks);
    QObject::connect(far, &QPushButton::clicked, f.body, [f] {
        askForMark(f, QObject::tr("Press on a place in thick haze"), QObject::tr("far mark"), adjust::withFarMark);
    });
    FlowLayout* wayRow = f.addRow();
    QPushButton* way =
        f.addButton("linear-gradient", QObject::tr("Distance"), "mark-distance",
                    QObject::tr("Click, then drag from the nearest ground to the skyline: half of the haze is "
                                "taken from what is usual so far away."),
                    wayRow);
    QObject::connect(way, &QPushButton::clicked, f.body, [f] {
        PhotoGesture gesture;
        gesture.hint = QObject::tr("Drag from the nearest ground to the skyline");
        gesture.done = [f](const PhotoDrag& drag) {
            if (!drag.far) return;
            f.edit(f.step(QObject::tr("set distance")),
                   [&](adjust::Settings& next) { next = adjust::withDistance(next, drag.from, drag.to); });
        };
        f.session.ask(std::move(gesture));
    });
    QPushButton* none = f.addButton("x", QObject::tr("No marks"), "no-marks",
                                    QObject::tr("Removes all marks and the distance."), wayRow);
    QObject::connect(none, &QPushButton::clicked, f.body, [f] {
        f.edit(f.step(QObject::tr("remove marks")), [](adjust::Settings& next) { next = adjust::withoutMarks(next); });
    });
    addDepthPart(f);
}

}  // namespace dimhem::ui
