#include <QPushButton>
#include <QToolButton>
#include <algorithm>
#include <cmath>
#include <functional>

#include "core/adjust/hue_bands.h"
#include "core/colour/hsl.h"
#include "core/colour/srgb.h"
#include "core/mask/colour_range.h"
#include "core/task/probe.h"
#include "ui/bound/bound_slider.h"
#include "ui/bound/stay_in_sight.h"
#include "ui/control/icon.h"
#include "ui/control/range_strip.h"
#include "ui/control/segmented.h"
#include "ui/panel/adjustment_editor.h"
#include "ui/session/photo_reading.h"

namespace dimhem::ui {

namespace {

using adjust::bandColumns;

double* rowOf(adjust::Settings& settings, int band) {
    return settings.tables[0].data() + static_cast<std::ptrdiff_t>(band) * bandColumns;
}

int bandsIn(const EditorFrame& f) {
    return f.settings() ? static_cast<int>(f.settings()->tables[0].size() / bandColumns) : 0;
}

bool hasBand(const adjust::Settings& settings, int band) {
    return static_cast<std::size_t>(band + 1) * bandColumns <= settings.tables[0].size();
}

mask::Range rangeOf(const adjust::Settings& settings, int band) {
    const double* p = settings.tables[0].data() + static_cast<std::ptrdiff_t>(band) * bandColumns;
    return {{p[0], p[1], p[2], p[3]}};
}

// A name by where the middle of the band lies.
QString nameOf(const mask::Range& range) {
    static const QString names[] = {QObject::tr("Red"),  QObject::tr("Yellow"), QObject::tr("Green"),
                                    QObject::tr("Cyan"), QObject::tr("Blue"),   QObject::tr("Magenta")};
    const double middle = (range.points[1] + range.points[2]) / 2;
    const int sector = static_cast<int>(std::floor((middle + 30 + 720) / 60)) % 6;
    return names[sector];
}

void addBandChoice(const EditorFrame& f, int band, int count) {
    QList<Segmented::Choice> choices;
    for (int i = 0; i < count; ++i) {
        const QString name = nameOf(rangeOf(*f.settings(), i));
        choices.append({count > 3 ? QString::number(i + 1) : name, QObject::tr("Band %1: %2").arg(i + 1).arg(name)});
    }
    FlowLayout* row = f.addRow();
    auto* which = new Segmented(QObject::tr("Band"), choices, f.body);
    which->setObjectName("band");
    which->setCurrent(band);
    QObject::connect(which, &Segmented::chosen, f.body, [f](int chosen) {
        f.session.leaveInSight({});
        f.state.chosen[f.use] = chosen;
        f.rebuild();
    });
    row->addWidget(which);
}

void addBand(const EditorFrame& f, int count) {
    f.state.chosen[f.use] = count;
    f.edit(f.step(QObject::tr("add a band")), [count](adjust::Settings& next) {
        const double middle = std::remainder(60.0 * count, 360.0);  // the next sixth of the circle
        next.tables[0].insert(next.tables[0].end(),
                              {middle - 40, middle - 20, middle + 20, middle + 40, 0, 0, 0, 0, 0});
    });
}

void removeBand(const EditorFrame& f, int band) {
    f.state.chosen[f.use] = std::max(0, band - 1);
    f.edit(f.step(QObject::tr("remove a band")), [band](adjust::Settings& next) {
        if (!hasBand(next, band)) return;
        const auto from = next.tables[0].begin() + static_cast<std::ptrdiff_t>(band) * bandColumns;
        next.tables[0].erase(from, from + bandColumns);
    });
}

// The band goes to the hues of a place; an area also sets how wide it is.
void placeBand(adjust::Settings& next, int band, const task::Hues& hues, bool isArea) {
    if (!hasBand(next, band)) return;
    constexpr double narrowest = 3, widest = 60;  // degrees to each side
    double* p = rowOf(next, band);
    const double half = isArea ? std::clamp(hues.spreadDeg, narrowest, widest) : (p[2] - p[1]) / 2;
    const double low = isArea ? half : p[1] - p[0], high = isArea ? half : p[3] - p[2];
    const double middle = hues.middleDeg > 300 ? hues.middleDeg - 360 : hues.middleDeg;
    const double points[4] = {middle - half - low, middle - half, middle + half, middle + half + high};
    std::copy(points, points + 4, p);
}

// The hues of a place of the picture as it arrives at the correction; where it has none, that is said.
void readHues(const EditorFrame& f, const base::Rect& area, const std::function<void(const task::Hues&)>& then) {
    render::Comparison arriving;
    arriving.stopBefore = f.correction;
    readInBackground(
        f.session,
        [renderer = f.session.sharedRenderer(), document = f.session.document(), arriving, area] {
            return task::huesIn(*renderer, render::Sequence(document, arriving), area);
        },
        [f, then](const std::optional<task::Hues>& hues) {
            if (!hues) return f.session.say(QObject::tr("There is no colour there: greys have no hue."));
            then(*hues);
        });
}

void takeBand(const EditorFrame& f, int band, const PhotoDrag& drag) {
    readHues(f, drag.area(), [f, band, isArea = drag.far](const task::Hues& hues) {
        f.edit(f.step(QObject::tr("pick band on the photo")),
               [&](adjust::Settings& next) { placeBand(next, band, hues, isArea); });
    });
}

void addBandButtons(const EditorFrame& f, int band, int count) {
    FlowLayout* row = f.addRow();
    QPushButton* add =
        f.addButton("plus", QObject::tr("Add band"), "add-band", QObject::tr("Another band of hues."), row);
    add->setEnabled(static_cast<std::size_t>(count) < f.kind.tables[0].mostRows);
    QObject::connect(add, &QPushButton::clicked, f.body, [f, count] { addBand(f, count); });
    if (count == 0) {
        return;
    }
    QPushButton* pick = f.addButton(
        "pipette", QObject::tr("Pick on photo"), "pick-band",
        QObject::tr("Click, then press on the colour in the photo, or drag over it: the band goes to the hues there."),
        row);
    QObject::connect(pick, &QPushButton::clicked, f.body, [f, band] {
        PhotoGesture gesture;
        gesture.hint = QObject::tr("Press on the colour, or drag over it");
        gesture.marksArea = true;
        gesture.done = [f, band](const PhotoDrag& drag) { takeBand(f, band, drag); };
        f.session.ask(std::move(gesture));
    });
    QToolButton* remove = iconButton("x", QObject::tr("Remove this band"), QObject::tr("Remove this band"), f.body);
    remove->setObjectName("remove-band");
    QObject::connect(remove, &QAbstractButton::clicked, f.body, [f, band] { removeBand(f, band); });
    row->addWidget(remove);
}

// The thing's own hue, pressed on the photo: what is reflected on it is bent towards that.
void takeTowards(const EditorFrame& f, int band, const PhotoDrag& drag) {
    readHues(f, drag.area(), [f, band](const task::Hues& hues) {
        f.edit(f.step(QObject::tr("bend towards a hue")), [&](adjust::Settings& next) {
            if (!hasBand(next, band)) return;
            double* row = rowOf(next, band);
            row[adjust::bandTowards] = std::fmod(hues.middleDeg + 360, 360);
            if (row[adjust::bandBend] == 0) row[adjust::bandBend] = 70;
        });
    });
}

void addTowardsButton(const EditorFrame& f, int band) {
    FlowLayout* row = f.addRow();
    QPushButton* pick = f.addButton(
        "pipette", QObject::tr("Its own hue"), "pick-towards",
        QObject::tr("Click, then press where the thing shows its own colour: the band is bent towards that hue."), row);
    QObject::connect(pick, &QPushButton::clicked, f.body, [f, band] {
        PhotoGesture gesture;
        gesture.hint = QObject::tr("Press where the thing shows its own colour");
        gesture.marksArea = true;
        gesture.done = [f, band](const PhotoDrag& drag) { takeTowards(f, band, drag); };
        f.session.ask(std::move(gesture));
    });
}

void addBandStrip(const EditorFrame& f, int band) {
    auto* strip = new RangeStrip(RangeStrip::Scale::hue, QObject::tr("Hues of the band"), f.body);
    strip->setObjectName("band-hues");
    const auto gesture = f.gesture(f.step(QObject::tr("change band")));
    QObject::connect(strip, &RangeStrip::changed, f.body, [f, gesture, band](const mask::Range& range) {
        f.session.setGlare(render::Glare{f.correction, f.use, static_cast<std::size_t>(band)});
        f.preview(*gesture, [&](adjust::Settings& next) {
            if (hasBand(next, band)) std::copy(range.points.begin(), range.points.end(), rowOf(next, band));
        });
    });
    QObject::connect(strip, &RangeStrip::finished, f.body, [f, gesture] {
        f.session.setGlare(std::nullopt);
        gesture->commit();
    });
    f.onRefresh([f, strip, band] {
        if (band < bandsIn(f)) strip->setRange(rangeOf(*f.settings(), band));
    });
    QObject::connect(&f.session, &Session::pointerChanged, strip, [f, strip] {
        const auto& p = f.session.pointer();
        const bool hasHue = p && task::chromaOf(p->arriving) > 0.02;
        strip->setMark(hasHue ? std::optional(colour::hslHueDeg(p->arriving)) : std::nullopt);
    });
    f.layout->addWidget(strip);
}

void addStaysInSight(const EditorFrame& f, int band) {
    const Session::LeftInSight hues{{f.correction, f.use, static_cast<std::size_t>(band)}, 0};
    const QString tip =
        QObject::tr("The band's hues glare in the photo while you look round, until it is pressed again.");
    f.addRow()->addWidget(stayInSightButton(f.session, hues, tip, f.body));
}

}  // namespace

void buildHueBandsEditor(const EditorFrame& f) {
    const int count = bandsIn(f);
    const int band = std::clamp(f.state.chosen.value(f.use, 0), 0, std::max(0, count - 1));
    if (count > 0) {
        addBandChoice(f, band, count);
        addBandStrip(f, band);
        addStaysInSight(f, band);
        for (const std::size_t column :
             {adjust::bandHue, adjust::bandSaturation, adjust::bandLightness, adjust::bandTowards, adjust::bandBend}) {
            const base::ParamSpec& spec = f.kind.tables[0].columns[column];
            auto* slider = boundSlider(spec, f.step(words(spec.label)), f.session, {f.correction, 0}, f.body,
                                       [f, band, column](const document::Document& document, double value) {
                                           return f.with(document, [&](adjust::Settings& next) {
                                               if (hasBand(next, band)) rowOf(next, band)[column] = value;
                                           });
                                       });
            slider->setObjectName("band-" + idText(spec.id));
            f.onRefresh([f, slider, band, column] {
                if (band < bandsIn(f))
                    slider->setValue(f.settings()->tables[0][static_cast<std::size_t>(band) * bandColumns + column]);
            });
            f.layout->addWidget(slider);
        }
        addTowardsButton(f, band);
        f.addParameter(0);
    }
    addBandButtons(f, band, count);
}

}  // namespace dimhem::ui
