#include <QLabel>
#include <QPushButton>
#include <algorithm>
#include <cmath>

#include "core/adjust/match_area.h"
#include "core/colour/ciede2000.h"
#include "ui/panel/adjustment_editor.h"
#include "ui/session/photo_reading.h"

namespace dimhem::ui {

namespace {

constexpr double stale = 1;  // CIEDE2000 between what was measured and what is there now

colour::Lab meanOf(const adjust::ColourSpread& spread) {
    return {spread.mean[0], spread.mean[1], spread.mean[2]};
}

struct Measured {
    std::optional<adjust::ColourSpread> reference;
    std::optional<task::MaskedColours> own;
};

bool isFinite(const adjust::ColourSpread& spread) {
    const auto finite = [](double v) { return std::isfinite(v); };
    return std::all_of(spread.mean.begin(), spread.mean.end(), finite) &&
           std::all_of(spread.spread.begin(), spread.spread.end(), finite);
}

void take(const EditorFrame& f, const base::Rect& place, const Measured& measured) {
    if (!f.settings()) return;
    if (!measured.reference) {
        f.session.say(QObject::tr("That place lies outside the photo."));
        return;
    }
    if (!measured.own) {
        f.session.say(QObject::tr("The mask covers nothing yet: paint in what is to be matched first."));
        return;
    }
    const adjust::ColourSpread& own = measured.own->before.lab;
    if (!isFinite(own) || !isFinite(*measured.reference)) {
        f.session.say(QObject::tr("The photo has values there that are no valid colours."));
        return;
    }
    f.edit(f.step(QObject::tr("measure")), [&](adjust::Settings& next) {
        next = f.kind.matching(next,
                               {static_cast<double>(place.x0), static_cast<double>(place.y0),
                                static_cast<double>(place.x1), static_cast<double>(place.y1)},
                               own, *measured.reference);
    });
}

// Measures the reference area and what lies under the mask, as it arrives at this correction; in the background, since
// the mask may have to be found first.
void measure(const EditorFrame& f, const base::Rect& place) {
    const document::Id correction = f.correction;
    readInBackground(
        f.session,
        [renderer = f.session.sharedRenderer(), document = f.session.document(), correction, place] {
            render::Comparison arriving;
            arriving.stopBefore = correction;
            return Measured{task::coloursIn(*renderer, render::Sequence(document, arriving), place),
                            task::maskedColours(*renderer, document, correction)};
        },
        [f, place](const Measured& measured) { take(f, place, measured); });
}

QString differenceWords(const EditorFrame& f) {
    const adjust::Settings* settings = f.settings();
    const auto reference = settings ? adjust::measuredIn(*settings, adjust::MatchTable::reference) : std::nullopt;
    const task::MaskedColours* colours = f.colours.colours();
    if (!reference) return QObject::tr("Mark an area of the photo whose tone and colour the masked area is to have.");
    if (!colours)
        return f.colours.isUpToDate() ? QObject::tr("The mask covers nothing yet.")
                                      : QObject::tr("The colours under the mask are being read…");
    const auto to = [&](const adjust::ColourSpread& from) {
        return QString::number(colour::ciede2000(meanOf(from), meanOf(*reference)), 'f', 1);
    };
    QString text = QObject::tr("Difference of the means: %1 before, %2 after (CIEDE2000)")
                       .arg(to(colours->before.lab), to(colours->after.lab));
    const auto own = adjust::measuredIn(*settings, adjust::MatchTable::own);
    if (own && colour::ciede2000(meanOf(*own), meanOf(colours->before.lab)) > stale)
        text += QObject::tr(". The masked area has changed since: measure it again.");
    return text;
}

}  // namespace

void buildMatchEditor(const EditorFrame& f) {
    f.addParameter(0);
    f.addParameter(1);
    auto* difference = new QLabel(f.body);
    difference->setObjectName("match-difference");
    difference->setProperty("quiet", true);
    difference->setWordWrap(true);
    f.onColours([f, difference] { difference->setText(differenceWords(f)); });
    f.onRefresh([f, difference] { difference->setText(differenceWords(f)); });
    f.layout->addWidget(difference);
    FlowLayout* row = f.addRow();
    QPushButton* mark =
        f.addButton("maximize", QObject::tr("Mark reference"), "mark-reference",
                    QObject::tr("Click, then drag over the area of the photo that is as it should be."), row);
    QObject::connect(mark, &QPushButton::clicked, f.body, [f] {
        PhotoGesture gesture;
        gesture.hint = QObject::tr("Drag over what is as it should be");
        gesture.marksArea = true;
        gesture.done = [f](const PhotoDrag& drag) { measure(f, drag.area()); };
        f.session.ask(std::move(gesture));
    });
    QPushButton* again =
        f.addButton("redo-2", QObject::tr("Measure again"), "measure-again",
                    QObject::tr("Measures both areas again, after the mask or what comes before has changed."), row);
    f.onRefresh([f, again] { again->setEnabled(f.settings() && !f.settings()->tables[0].empty()); });
    QObject::connect(again, &QPushButton::clicked, f.body, [f] {
        if (!f.settings() || f.settings()->tables[0].size() != 4) return;
        const adjust::Table& p = f.settings()->tables[0];
        measure(f, {static_cast<int>(p[0]), static_cast<int>(p[1]), static_cast<int>(p[2]), static_cast<int>(p[3])});
    });
}

}  // namespace dimhem::ui
