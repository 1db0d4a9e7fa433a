#include <QPushButton>
#include <algorithm>

#include "core/colour/srgb.h"
#include "core/task/probe.h"
#include "ui/control/curve_field.h"
#include "ui/control/segmented.h"
#include "ui/panel/adjustment_editor.h"
#include "ui/panel/bound_slider.h"

namespace dimhem::ui {

namespace {

constexpr double tonesPerPx = 0.25;  // of the hand on the photo
constexpr int firstChannel = 2;      // of the curves: luminance, all three, red, green, blue

// The tone of a colour on the axis of a curve, 0..100.
double toneOn(int curve, const colour::EncodedRgb& c) {
    const double channels[] = {c.r, c.g, c.b};
    const double tone = curve >= firstChannel
                            ? channels[curve - firstChannel]
                            : colour::encodedFromLinear(colour::luminance(colour::linearFromEncoded(c)));
    return std::clamp(tone * 100, 0.0, 100.0);
}

QList<double> histogramOf(int curve, const task::MaskedColours* colours) {
    if (!colours) return {};
    const auto& bins = curve >= firstChannel ? colours->before.channels[static_cast<std::size_t>(curve - firstChannel)]
                                             : colours->before.tones;
    return {bins.begin(), bins.end()};
}

// Press on a tone in the photo and drag up or down: the curve is bent there.
PhotoGesture bending(const EditorFrame& f, int curve, std::size_t mostPoints) {
    PhotoGesture gesture;
    gesture.hint = QObject::tr("Press on a tone and drag up or down");
    gesture.stays = true;
    const auto start = std::make_shared<std::optional<std::pair<adjust::Table, double>>>();
    gesture.moved = [f, curve, start, mostPoints](const PhotoDrag& drag) {
        const adjust::Settings* settings = f.settings();
        if (!settings) return;
        const auto table = static_cast<std::size_t>(curve);
        if (!*start) {
            // The tone as it arrives at this correction, which the curve will act on.
            render::Comparison arriving;
            arriving.stopBefore = f.session.selectedCorrection();
            const auto colour =
                task::colourAt(f.session.renderer(), render::Sequence(f.session.document(), arriving), drag.from, 2);
            if (!colour) return;
            *start = {settings->tables[table], toneOn(curve, colour::encodedFromLinear(*colour))};
        }
        adjust::Settings next = *settings;
        next.tables[table] = CurveField::bentAt((*start)->first, (*start)->second, drag.upPx * tonesPerPx, mostPoints);
        f.preview(next);
    };
    gesture.done = [f, start](const PhotoDrag&) {
        if (*start) f.commitPreview(f.step(QObject::tr("bent on the photo")));
        start->reset();
    };
    gesture.givenUp = [f, start] {
        start->reset();
        f.session.setSliding(false);
        f.session.dropPreview();
    };
    return gesture;
}

// The curve to begin with: the first that is not straight.
int firstBent(const EditorFrame& f) {
    for (std::size_t i = 0; f.settings() && i < f.kind.tables.size(); ++i) {
        const adjust::Table& points = f.settings()->tables[i];
        if (!std::equal(points.begin(), points.end(), f.kind.tables[i].neutral.begin(), f.kind.tables[i].neutral.end()))
            return static_cast<int>(i);
    }
    return 0;
}

}  // namespace

void buildCurveEditor(const EditorFrame& f) {
    const int curve = f.state.chosen.value(f.use, firstBent(f));
    f.state.chosen[f.use] = curve;
    const auto table = static_cast<std::size_t>(curve);
    QList<Segmented::Choice> choices;
    const QString shortNames[] = {QObject::tr("Light"), QObject::tr("All"), QObject::tr("R"), QObject::tr("G"),
                                  QObject::tr("B")};
    for (std::size_t i = 0; i < f.kind.tables.size(); ++i)
        choices.append({shortNames[i], words(f.kind.tables[i].label) + ": " + words(f.kind.tables[i].tip)});
    auto* which = new Segmented(QObject::tr("Curve of"), choices, f.body);
    which->setObjectName("curve-of");
    which->setCurrent(curve);
    QObject::connect(which, &Segmented::chosen, f.body, [f](int chosen) {
        f.session.stopAsking();
        f.state.chosen[f.use] = chosen;
        f.rebuild();
    });
    f.layout->addWidget(which);

    const std::size_t most = f.kind.tables[table].mostRows;
    auto* field = new CurveField(words(f.kind.tables[table].label), most, f.body);
    field->setObjectName("curve");
    QObject::connect(field, &CurveField::changed, f.body, [f, table](const adjust::Table& points) {
        if (!f.settings()) return;
        adjust::Settings next = *f.settings();
        next.tables[table] = points;
        f.preview(next);
    });
    QObject::connect(field, &CurveField::finished, f.body, [f] { f.commitPreview(f.step(QObject::tr("point"))); });
    const auto showPoints = [f, field, table] {
        if (const adjust::Settings* settings = f.settings()) field->setPoints(settings->tables[table]);
    };
    f.onRefresh(showPoints);
    QObject::connect(&f.session, &Session::pictureChanged, field, showPoints);
    f.onColours([f, field, curve] { field->setHistogram(histogramOf(curve, f.colours.colours())); });
    QObject::connect(&f.session, &Session::pointerChanged, field, [f, field, curve] {
        const auto& pointer = f.session.pointer();
        field->setMark(pointer ? std::optional(toneOn(curve, pointer->arriving)) : std::nullopt);
    });
    f.layout->addWidget(field);

    QHBoxLayout* row = f.addRow();
    QPushButton* bend =
        f.addButton("pipette", QObject::tr("On the photo"), "bend-on-photo",
                    QObject::tr("Then press on a tone in the photo and drag up or down to bend the curve there."), row);
    bend->setCheckable(true);
    bend->setChecked(f.session.asked() != nullptr);
    QObject::connect(bend, &QPushButton::clicked, f.body, [f, curve, most](bool on) {
        on ? f.session.ask(bending(f, curve, most)) : f.session.stopAsking();
    });
    QObject::connect(&f.session, &Session::askedChanged, bend, [f, bend] { bend->setChecked(f.session.asked()); });
    QPushButton* straight = f.addButton("undo-2", QObject::tr("Straight"), "straight-curve",
                                        QObject::tr("This curve back to the straight line."), row);
    QObject::connect(straight, &QPushButton::clicked, f.body, [f, table] {
        if (!f.settings()) return;
        adjust::Settings next = *f.settings();
        next.tables[table].assign(f.kind.tables[table].neutral.begin(), f.kind.tables[table].neutral.end());
        f.commit(next, f.step(QObject::tr("straight")));
    });
    row->addStretch(1);
}

}  // namespace dimhem::ui
