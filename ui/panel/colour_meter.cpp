#include "ui/panel/colour_meter.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QVBoxLayout>
#include <cmath>

#include "core/colour/ciede2000.h"
#include "core/colour/lab.h"
#include "ui/control/cast_dial.h"
#include "ui/control/flow_layout.h"
#include "ui/control/fold.h"
#include "ui/control/histogram.h"
#include "ui/control/segmented.h"
#include "ui/control/tone_rest.h"

namespace dimhem::ui {

namespace {

colour::Lab meanOf(const task::Colours& colours) {
    return {colours.lab.mean[0], colours.lab.mean[1], colours.lab.mean[2]};
}

double castOf(const colour::Lab& lab) {
    return std::hypot(lab.a, lab.b);
}

QString shown(double value, int decimals = 1) {
    return QString::number(value, 'f', decimals);
}

// Words in which each case is a whole sentence of its own, for whoever translates them.
QString castWords(const colour::Lab& was, const colour::Lab& is) {
    constexpr double aCast = 3, hardly = 1;  // CIELAB chroma
    const double before = castOf(was), after = castOf(is);
    const QString from = castDirection(was), to = castDirection(is);
    if (before > aCast && after <= hardly)
        return QObject::tr("Cast %1 %2, now grey: no colour is left").arg(shown(before), from);
    if (before > aCast && was.a * is.a + was.b * is.b < 0)
        return QObject::tr("Cast %1 %2, now past neutral: %3 %4").arg(shown(before), from, shown(after), to);
    if (from.isEmpty() && to.isEmpty()) return QObject::tr("No cast before or after");
    if (from.isEmpty()) return QObject::tr("No cast before, now %1 %2").arg(shown(after), to);
    if (to.isEmpty()) return QObject::tr("Cast %1 %2, now none").arg(shown(before), from);
    if (from == to) return QObject::tr("Cast %1 to %2 %3").arg(shown(before), shown(after), to);
    return QObject::tr("Cast %1 %2 to %3 %4").arg(shown(before), from, shown(after), to);
}

}  // namespace

QString meterWords(const task::MaskedColours& colours) {
    const colour::Lab was = meanOf(colours.before), is = meanOf(colours.after);
    QStringList lines{QObject::tr("L* %1 to %2, difference %3")
                          .arg(shown(was.l, 0), shown(is.l, 0), shown(colour::ciede2000(was, is))),
                      castWords(was, is)};
    constexpr double newlyPct = 0.5;
    const auto newly = [&](check::Fault fault) { return colours.newlyPct[static_cast<std::size_t>(fault)]; };
    if (newly(check::Fault::clipped) > newlyPct)
        lines << QObject::tr("%1 % newly clipped").arg(shown(newly(check::Fault::clipped)));
    if (newly(check::Fault::blocked) > newlyPct)
        lines << QObject::tr("%1 % newly blocked").arg(shown(newly(check::Fault::blocked)));
    return lines.join('\n');
}

QString meterWords(const task::MaskedNoise& noise) {
    QStringList lines{QObject::tr("Noise %1 to %2, in colour %3 to %4 levels")
                          .arg(shown(noise.before.luminance), shown(noise.after.luminance), shown(noise.before.colour),
                               shown(noise.after.colour))};
    if (noise.beside) lines << QObject::tr("Noise beside it %1 levels").arg(shown(*noise.beside));
    if (noise.before.hazePct && noise.after.hazePct)
        lines << QObject::tr("Haze %1 to %2 %").arg(shown(*noise.before.hazePct, 0), shown(*noise.after.hazePct, 0));
    return lines.join('\n');
}

ColourMeter::ColourMeter(Session& session, ColourWatch& colours, const NoiseWatch& noise, const ProbeWatch& probes,
                         QWidget* parent)
    : QWidget(parent), session_(session), colours_(colours), noise_(noise), probes_(probes) {
    fold_ = new Fold(tr("Colours"), "colours", tr("Tones and colours, before and after"), this, Fold::First::open);
    QWidget* body = fold_->body();
    channel_ = new Segmented(
        tr("Channel of the histogram"),
        {{tr("L*"), tr("Tone")}, {tr("R"), tr("Red")}, {tr("G"), tr("Green")}, {tr("B"), tr("Blue")}}, body);
    channel_->setObjectName("histogram-channel");
    where_ = new Segmented(tr("Where the colours are counted"),
                           {{tr("mask"), tr("Under the mask, before this correction and after it")},
                            {tr("whole"), tr("The whole photo, before all corrections and after them")}},
                           body);
    where_->setObjectName("histogram-where");
    histogram_ = new Histogram(tr("Histogram"), body);
    dial_ = new CastDial(body);
    words_ = new QLabel(body);
    words_->setObjectName("meter-words");
    words_->setProperty("quiet", true);
    words_->setWordWrap(true);
    words_->setAlignment(Qt::AlignTop);
    auto* choices = new FlowLayout;
    choices->setSpacing(4);
    choices->addWidget(channel_);
    choices->addWidget(where_);
    auto* figures = new QHBoxLayout;
    figures->setSpacing(8);
    figures->addWidget(dial_, 0, Qt::AlignTop);
    figures->addWidget(words_, 1);
    fold_->rows()->setSpacing(4);
    fold_->rows()->addLayout(choices);
    fold_->rows()->addWidget(histogram_);
    fold_->rows()->addLayout(figures);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(12, 4, 12, 2);
    layout->addWidget(fold_);
    connect(channel_, &Segmented::chosen, this, &ColourMeter::refresh);
    connect(where_, &Segmented::chosen, this, [this](int index) { colours_.setWantsWhole(index == 1); });
    connect(histogram_, &Histogram::shines, this, &ColourMeter::shine);
    connect(histogram_, &Histogram::shinesNoMore, this, [this] { session_.setShine({}); });
    auto* rest = new ToneRest(histogram_, [this](QPointF at) { return std::optional(at.x() / histogram_->width()); });
    connect(rest, &ToneRest::rests, this, &ColourMeter::shine);
    connect(rest, &ToneRest::goes, this, [this] { session_.setShine({}); });
    connect(&session_, &Session::pointerChanged, this, &ColourMeter::markPointer);
    connect(&colours_, &ColourWatch::changed, this, &ColourMeter::refresh);
    connect(&noise_, &NoiseWatch::changed, this, &ColourMeter::refresh);
    connect(&probes_, &ProbeWatch::changed, this, &ColourMeter::refresh);
    connect(&session_, &Session::selectionChanged, this, &ColourMeter::refresh);
    connect(&session_, &Session::opened, this, &ColourMeter::refresh);
    refresh();
}

QString ColourMeter::text() const {
    return words_->text();
}

void ColourMeter::shine(double from, double to) {
    render::Shine shine;
    shine.of = render::Shine::Of::tones;
    shine.channel = static_cast<render::Shine::Channel>(channel_->current());
    shine.from = from;
    shine.to = to;
    shine.underMask = where_->current() == 0;
    session_.setShine(shine);
}

// Where the colour under the pointer stands, as it is now.
void ColourMeter::markPointer() {
    const auto& pointer = session_.pointer();
    if (!pointer) return histogram_->setMark(std::nullopt);
    const colour::EncodedRgb& c = pointer->after;
    const double tones[] = {colour::labFromEncoded(c).l / 100, c.r, c.g, c.b};
    histogram_->setMark(std::clamp(tones[channel_->current()], 0.0, 1.0));
}

void ColourMeter::refreshTones(const task::MaskedColours* colours) {
    if (!colours) return histogram_->setTones(std::nullopt);
    const auto bins = [this](const task::Colours& c) {
        const int channel = channel_->current();
        return channel == 0 ? c.lightness : c.channels[static_cast<std::size_t>(channel - 1)];
    };
    const auto lost = [](const task::Colours& c, check::Fault fault) {
        return c.faultPct[static_cast<std::size_t>(fault)];
    };
    Histogram::Tones tones;
    tones.before = bins(colours->before);
    tones.after = bins(colours->after);
    tones.lowPct = lost(colours->after, check::Fault::blocked);
    tones.highPct = lost(colours->after, check::Fault::clipped);
    histogram_->setTones(std::move(tones));
}

void ColourMeter::refresh() {
    setVisible(session_.isOpen() && session_.correction());
    const bool whole = where_->current() == 1;
    const task::MaskedColours* colours = whole ? colours_.whole() : colours_.colours();
    refreshTones(colours);
    if (colours) {
        dial_->setCast(meanOf(colours->before), meanOf(colours->after));
    } else {
        dial_->setCast(std::nullopt, std::nullopt);
    }
    std::optional<colour::Lab> known;
    for (std::size_t i = 0; session_.isOpen() && i < probes_.readings().size(); ++i) {
        const auto& probes = session_.document()->probes;
        if (i < probes.size() && probes[i].neutral && probes_.readings()[i]) known = probes_.readings()[i]->after.lab;
    }
    dial_->setNeutral(known);
    QString words = colours                 ? meterWords(*colours)
                    : colours_.isUpToDate() ? tr("The mask covers nothing yet.")
                                            : tr("The colours under the mask are being read…");
    if (colours && !whole && noise_.noise()) words += "\n" + meterWords(*noise_.noise());
    words_->setText(words);
    fold_->setSummary(words.section('\n', 0, 0));
    dial_->setAccessibleDescription(words);
    setAccessibleDescription(words);
}

}  // namespace dimhem::ui
