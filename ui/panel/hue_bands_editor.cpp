#include <QPushButton>
#include <QToolButton>
#include <algorithm>
#include <cmath>

#include "core/adjust/hue_bands.h"
#include "core/colour/srgb.h"
#include "core/mask/colour_range.h"
#include "core/task/probe.h"
#include "ui/control/icon.h"
#include "ui/control/range_strip.h"
#include "ui/control/segmented.h"
#include "ui/panel/adjustment_editor.h"
#include "ui/panel/bound_slider.h"

namespace dimhem::ui {

namespace {

using adjust::bandColumns;

double* rowOf(adjust::Settings& settings, int band) {
    return settings.tables[0].data() + static_cast<std::ptrdiff_t>(band) * bandColumns;
}

int bandsIn(const EditorFrame& f) {
    return f.settings() ? static_cast<int>(f.settings()->tables[0].size() / bandColumns) : 0;
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
        choices.append(
            {count > 4 ? QString::number(i + 1) : name, QObject::tr("Band %1: %2").arg(i + 1).arg(name.toLower())});
    }
    QHBoxLayout* row = f.addRow();
    auto* which = new Segmented(QObject::tr("Band"), choices, f.body);
    which->setObjectName("band");
    which->setCurrent(band);
    QObject::connect(which, &Segmented::chosen, f.body, [f](int chosen) {
        f.state.chosen[f.use] = chosen;
        f.rebuild();
    });
    row->addWidget(which, 1);
}

void addBand(const EditorFrame& f, int count) {
    adjust::Settings next = *f.settings();
    const double middle = std::remainder(60.0 * count, 360.0);  // the next sixth of the circle
    next.tables[0].insert(next.tables[0].end(), {middle - 40, middle - 20, middle + 20, middle + 40, 0, 0, 0});
    f.state.chosen[f.use] = count;
    f.commit(next, f.step(QObject::tr("add a band")));
}

void removeBand(const EditorFrame& f, int band) {
    adjust::Settings next = *f.settings();
    const auto from = next.tables[0].begin() + static_cast<std::ptrdiff_t>(band) * bandColumns;
    next.tables[0].erase(from, from + bandColumns);
    f.state.chosen[f.use] = std::max(0, band - 1);
    f.commit(next, f.step(QObject::tr("remove a band")));
}

// The band goes to the hues of a place; an area also sets how wide it is.
void takeBand(const EditorFrame& f, int band, const PhotoDrag& drag) {
    render::Comparison arriving;
    arriving.stopBefore = f.session.selectedCorrection();
    const auto hues = task::huesIn(f.session.renderer(), render::Sequence(f.session.document(), arriving), drag.area());
    if (!f.settings() || band >= bandsIn(f)) return;
    if (!hues) {
        f.session.say(QObject::tr("There is no colour there: greys have no hue."));
        return;
    }
    constexpr double narrowest = 3, widest = 60;  // degrees to each side
    adjust::Settings next = *f.settings();
    double* p = rowOf(next, band);
    const double half = drag.far ? std::clamp(hues->spreadDeg, narrowest, widest) : (p[2] - p[1]) / 2;
    const double low = drag.far ? half : p[1] - p[0], high = drag.far ? half : p[3] - p[2];
    const double middle = hues->middleDeg > 300 ? hues->middleDeg - 360 : hues->middleDeg;
    const double points[4] = {middle - half - low, middle - half, middle + half, middle + half + high};
    std::copy(points, points + 4, p);
    f.commit(next, f.step(QObject::tr("band from the photo")));
}

void addBandButtons(const EditorFrame& f, int band, int count) {
    QHBoxLayout* row = f.addRow();
    QPushButton* add = f.addButton("plus", QObject::tr("Band"), "add-band", QObject::tr("Another band of hues."), row);
    add->setEnabled(static_cast<std::size_t>(count) < f.kind.tables[0].mostRows);
    QObject::connect(add, &QPushButton::clicked, f.body, [f, count] { addBand(f, count); });
    if (count == 0) {
        row->addStretch(1);
        return;
    }
    QPushButton* pick = f.addButton(
        "pipette", QObject::tr("From the photo"), "pick-band",
        QObject::tr("Then press on the colour in the photo, or drag over it: the band goes to the hues there."), row);
    QObject::connect(pick, &QPushButton::clicked, f.body, [f, band] {
        PhotoGesture gesture;
        gesture.hint = QObject::tr("Press on the colour, or drag over it");
        gesture.marksArea = true;
        gesture.done = [f, band](const PhotoDrag& drag) { takeBand(f, band, drag); };
        f.session.ask(std::move(gesture));
    });
    row->addStretch(1);
    QToolButton* remove = iconButton("x", QObject::tr("Remove this band"), QObject::tr("Remove this band"), f.body);
    remove->setObjectName("remove-band");
    QObject::connect(remove, &QAbstractButton::clicked, f.body, [f, band] { removeBand(f, band); });
    row->addWidget(remove);
}

void addBandStrip(const EditorFrame& f, int band) {
    auto* strip = new RangeStrip(RangeStrip::Scale::hue, QObject::tr("Hues of the band"), f.body);
    strip->setObjectName("band-hues");
    QObject::connect(strip, &RangeStrip::changed, f.body, [f, band](const mask::Range& range) {
        if (band >= bandsIn(f)) return;
        adjust::Settings next = *f.settings();
        std::copy(range.points.begin(), range.points.end(), rowOf(next, band));
        f.session.setGlare(render::Glare{f.session.selectedCorrection(), f.use, static_cast<std::size_t>(band)});
        f.preview(next);
    });
    QObject::connect(strip, &RangeStrip::finished, f.body, [f] {
        f.session.setGlare(std::nullopt);
        f.commitPreview(f.step(QObject::tr("band")));
    });
    f.onRefresh([f, strip, band] {
        if (band < bandsIn(f)) strip->setRange(rangeOf(*f.settings(), band));
    });
    QObject::connect(&f.session, &Session::pointerChanged, strip, [f, strip] {
        const auto& p = f.session.pointer();
        const bool hasHue = p && task::chromaOf(p->arriving) > 0.02;
        strip->setMark(hasHue ? std::optional(mask::hslHueDeg(p->arriving.r, p->arriving.g, p->arriving.b))
                              : std::nullopt);
    });
    f.layout->addWidget(strip);
}

}  // namespace

void buildHueBandsEditor(const EditorFrame& f) {
    const int count = bandsIn(f);
    const int band = std::clamp(f.state.chosen.value(f.use, 0), 0, std::max(0, count - 1));
    if (count > 0) {
        addBandChoice(f, band, count);
        addBandStrip(f, band);
        for (const std::size_t column : {adjust::bandHue, adjust::bandSaturation, adjust::bandLightness}) {
            const base::ParamSpec& spec = f.kind.tables[0].columns[column];
            auto* slider = boundSlider(spec, f.step(words(spec.label).toLower()), f.session, f.body,
                                       [f, band, column](const document::Document&, double value) {
                                           adjust::Settings next = *f.settings();
                                           if (band < bandsIn(f)) rowOf(next, band)[column] = value;
                                           return f.with(next);
                                       });
            slider->setObjectName("band-" + words(spec.id));
            f.onRefresh([f, slider, band, column] {
                if (band < bandsIn(f))
                    slider->setValue(f.settings()->tables[0][static_cast<std::size_t>(band) * bandColumns + column]);
            });
            f.layout->addWidget(slider);
        }
        f.addParameter(0);
    }
    addBandButtons(f, band, count);
}

}  // namespace dimhem::ui
