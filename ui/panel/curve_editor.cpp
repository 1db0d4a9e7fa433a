#include <QPushButton>
#include <algorithm>
#include <cmath>

#include "core/colour/srgb.h"
#include "core/task/probe.h"
#include "ui/bound/bound_slider.h"
#include "ui/control/curve_field.h"
#include "ui/control/segmented.h"
#include "ui/control/tone_rest.h"
#include "ui/panel/adjustment_editor.h"
#include "ui/session/photo_reading.h"

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

// Press on a tone in the photo and drag up or down: the curve is bent there. The tone is read in the background; the
// hand may have gone on by then, or let go.
struct Bend {
    std::shared_ptr<ControlGesture> gesture;
    std::optional<double> tone;  // read
    double upPx = 0;
    bool released = false;
};

QString askerOf(const EditorFrame& f) {
    return QString("curve/%1").arg(f.use);
}

bool isAsking(const EditorFrame& f) {
    return f.session.asked() && f.session.asked()->asker == askerOf(f);
}

PhotoGesture bending(const EditorFrame& f, int curve, std::size_t mostPoints) {
    PhotoGesture asked;
    asked.asker = askerOf(f);
    asked.hint = QObject::tr("Press on a tone and drag up or down");
    asked.stays = true;
    const auto bend = std::make_shared<std::shared_ptr<Bend>>();  // the drag in hand
    const auto show = [f, curve, mostPoints](Bend& b) {
        if (!b.tone) return;
        f.preview(*b.gesture, [&](adjust::Settings& next) {
            adjust::Table& points = next.tables[static_cast<std::size_t>(curve)];
            points = CurveField::bentAt(points, *b.tone, b.upPx * tonesPerPx, mostPoints);
        });
        if (b.released) b.gesture->commit();
    };
    const auto read = [f, curve, show](const std::shared_ptr<Bend>& b, base::Point place) {
        // The tone as it arrives at this correction, which the curve will act on.
        render::Comparison arriving;
        arriving.stopBefore = f.correction;
        readInBackground(
            f.session,
            [renderer = f.session.sharedRenderer(), document = f.session.document(), arriving, place] {
                return task::colourAt(*renderer, render::Sequence(document, arriving), place, 2);
            },
            [curve, show, b](const std::optional<colour::LinearRgb>& colour) {
                if (colour && std::isfinite(colour->r + colour->g + colour->b))
                    b->tone = toneOn(curve, colour::encodedFromLinear(*colour));
                show(*b);
            });
    };
    asked.moved = [f, bend, show, read](const PhotoDrag& drag) {
        if (!*bend) {
            *bend = std::make_shared<Bend>();
            (*bend)->gesture = f.gesture(f.step(QObject::tr("bend on the photo")));
            read(*bend, drag.from);
        }
        (*bend)->upPx = drag.upPx;
        show(**bend);
    };
    asked.done = [bend, show](const PhotoDrag& drag) {
        if (!*bend) return;
        (*bend)->upPx = drag.upPx;
        (*bend)->released = true;
        show(**bend);
        bend->reset();
    };
    asked.givenUp = [bend] {
        if (*bend) (*bend)->gesture->giveUp();
        bend->reset();
    };
    return asked;
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
    const QString shortNames[] = {QObject::tr("Tone"), QObject::tr("All"), QObject::tr("R"), QObject::tr("G"),
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
    const auto gesture = f.gesture(f.step(QObject::tr("move point")));
    QObject::connect(field, &CurveField::changed, f.body, [f, gesture, table](const adjust::Table& points) {
        f.preview(*gesture, [&](adjust::Settings& next) { next.tables[table] = points; });
    });
    QObject::connect(field, &CurveField::finished, f.body, [gesture] { gesture->commit(); });
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
    auto* rest = new ToneRest(field, [field](QPointF at) { return field->toneAt(at); });
    QObject::connect(rest, &ToneRest::rests, f.body, [f, curve](double from, double to) {
        render::Shine shine{.of = render::Shine::Of::tones, .from = from, .to = to};
        shine.channel = curve >= firstChannel ? static_cast<render::Shine::Channel>(1 + curve - firstChannel)
                                              : render::Shine::Channel::luminance;
        shine.tones = render::Shine::Tones::arriving;
        f.session.setShine(shine);
    });
    QObject::connect(rest, &ToneRest::goes, f.body, [f] { f.session.setShine({}); });
    f.layout->addWidget(field);

    FlowLayout* row = f.addRow();
    QPushButton* bend = f.addButton(
        "pipette", QObject::tr("Drag on the photo"), "bend-on-photo",
        QObject::tr("Click, then press on a tone in the photo and drag up or down to bend the curve there."), row);
    bend->setCheckable(true);
    bend->setChecked(isAsking(f));
    QObject::connect(bend, &QPushButton::clicked, f.body, [f, curve, most](bool on) {
        on ? f.session.ask(bending(f, curve, most)) : f.session.stopAsking();
    });
    QObject::connect(&f.session, &Session::askedChanged, bend, [f, bend] { bend->setChecked(isAsking(f)); });
    QPushButton* straight = f.addButton("undo-2", QObject::tr("Reset curve"), "straight-curve",
                                        QObject::tr("Makes this curve the straight line again."), row);
    QObject::connect(straight, &QPushButton::clicked, f.body, [f, table] {
        f.edit(f.step(QObject::tr("reset curve")), [&](adjust::Settings& next) {
            next.tables[table].assign(f.kind.tables[table].neutral.begin(), f.kind.tables[table].neutral.end());
        });
    });
}

}  // namespace dimhem::ui
