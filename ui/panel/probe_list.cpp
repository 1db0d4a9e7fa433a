#include "ui/panel/probe_list.h"
#include "ui/control/combo_box.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QScrollArea>
#include <QToolButton>
#include <QVBoxLayout>
#include <cmath>
#include <numbers>

#include "core/colour/ciede2000.h"
#include "core/document/edits.h"
#include "ui/control/flow_layout.h"
#include "ui/control/fold.h"
#include "ui/control/icon.h"
#include "ui/control/segmented.h"
#include "ui/session/key_table.h"
#include "ui/session/preferences.h"

namespace dimhem::ui {

namespace {

constexpr int mostListPx = 200;

QString shown(double value, int decimals) {
    return QString::number(value, 'f', decimals);
}

}  // namespace

QString probeWords(const task::ProbeColour& c) {
    switch (probeTerms()) {
        case ProbeTerms::rgb:
            return QObject::tr("%1 %2 %3")
                .arg(shown(255 * c.mean.r, 0), shown(255 * c.mean.g, 0), shown(255 * c.mean.b, 0));
        case ProbeTerms::percent:
            return QObject::tr("%1 %2 %3 %")
                .arg(shown(100 * c.mean.r, 1), shown(100 * c.mean.g, 1), shown(100 * c.mean.b, 1));
        case ProbeTerms::lab:
            return QObject::tr("%1, %2, %3").arg(shown(c.lab.l, 1), shown(c.lab.a, 1), shown(c.lab.b, 1));
        case ProbeTerms::hueChroma: {
            const double deg = std::atan2(c.lab.b, c.lab.a) * 180 / std::numbers::pi;
            return QObject::tr("%1°, chroma %2")
                .arg(shown(deg < 0 ? deg + 360 : deg, 0), shown(std::hypot(c.lab.a, c.lab.b), 1));
        }
    }
    return {};
}

ProbeList::ProbeList(Session& session, ProbeWatch& probes, QWidget* parent)
    : QWidget(parent), session_(session), probes_(probes) {
    setObjectName("probes");
    fold_ = new Fold(tr("Probes"), "probes",
                     withKey(tr("What places of the photo measured before, and measure now"), "drop-probe"), this);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(12, 0, 12, 4);
    layout->addWidget(fold_);
    auto* terms = new Segmented(tr("Terms of the probes"),
                                {{tr("RGB"), tr("Red, green and blue, 0 to 255")},
                                 {tr("%"), tr("Red, green and blue in percent")},
                                 {tr("L*a*b*"), tr("CIELAB: tone, red or green, yellow or blue")},
                                 {tr("hue"), tr("The angle of the hue in a*b* and the chroma")}},
                                fold_->body());
    terms->setObjectName("probe-terms");
    terms->setCurrent(static_cast<int>(probeTerms()));
    connect(terms, &Segmented::chosen, this, [this](int index) {
        setProbeTerms(static_cast<ProbeTerms>(index));
        refresh();
    });
    auto* top = new FlowLayout;
    top->setSpacing(4);
    top->addWidget(terms);
    auto* add = iconButton("plus", tr("Add a probe"),
                           withKey(tr("Press on the photo, or drag over an area of it"), "drop-probe"), fold_->body());
    add->setObjectName("add-probe");
    connect(add, &QAbstractButton::clicked, this, &ProbeList::askForArea);
    top->addWidget(add);
    fold_->rows()->setSpacing(2);
    fold_->rows()->addLayout(top);
    scroll_ = new QScrollArea(fold_->body());
    scroll_->setWidgetResizable(true);
    scroll_->setFrameShape(QFrame::NoFrame);
    scroll_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    fold_->rows()->addWidget(scroll_);
    connect(&session_, &Session::opened, this, &ProbeList::rebuild);
    connect(&session_, &Session::documentChanged, this, &ProbeList::rebuild, Qt::QueuedConnection);
    connect(&probes_, &ProbeWatch::changed, this, &ProbeList::refresh);
    rebuild();
}

void ProbeList::askForArea() {
    if (!session_.isOpen()) return;
    PhotoGesture gesture;
    gesture.hint = tr("Press where the probe is to be, or drag over an area");
    gesture.marksArea = true;
    gesture.done = [this](const PhotoDrag& drag) {
        if (!drag.far) return probes_.add(drag.from);
        if (session_.document()->probes.size() >= document::mostProbes) return probes_.add(drag.from);  // says so
        document::Probe probe;
        probe.area = drag.area();
        session_.edit(tr("add probe"), [&](const document::Document& d) { return document::withNewProbe(d, probe); });
    };
    session_.ask(std::move(gesture));
}

void ProbeList::change(std::size_t index, const QString& step, const std::function<void(document::Probe&)>& change) {
    if (!session_.isOpen() || index >= session_.document()->probes.size()) return;
    document::Probe probe = session_.document()->probes[index];
    change(probe);
    session_.edit(step, [&](const document::Document& d) { return document::withProbe(d, index, probe); });
}

QWidget* ProbeList::sizeChoice(std::size_t index, QWidget* parent) {
    auto* size = new ComboBox(parent);
    size->setObjectName(QString("probe-size-%1").arg(index + 1));
    size->setAccessibleName(tr("Size of probe %1").arg(index + 1));
    size->setToolTip(tr("The side of the square that is averaged, in pixels of the photo"));
    const document::Probe& probe = session_.document()->probes[index];
    if (probe.area) size->addItem(tr("area"), 0);
    for (const int px : document::probeSizes) size->addItem(tr("%1 px").arg(px), px);
    size->setCurrentIndex(probe.area ? 0 : size->findData(probe.sizePx));
    connect(size, &QComboBox::activated, this, [this, index, size](int at) {
        const int px = size->itemData(at).toInt();
        if (px == 0) return;
        change(index, tr("change probe size"), [px](document::Probe& p) {
            if (p.area) p.place = {(p.area->x0 + p.area->x1) / 2.0, (p.area->y0 + p.area->y1) / 2.0};
            p.area.reset();
            p.sizePx = px;
        });
    });
    return size;
}

QWidget* ProbeList::rowOf(std::size_t index) {
    auto* row = new QWidget(list_);
    auto* lines = new QVBoxLayout(row);
    lines->setContentsMargins(0, 2, 0, 2);
    lines->setSpacing(0);
    auto* head = new FlowLayout;
    head->setSpacing(2);
    auto* number = new QLabel(QString::number(index + 1), row);
    number->setProperty("heading", true);
    QWidget* size = sizeChoice(index, row);
    number->setFixedHeight(size->sizeHint().height());
    head->addWidget(number);
    head->addWidget(size);
    auto* neutral = new QToolButton(row);
    neutral->setText(tr("neutral"));
    neutral->setCheckable(true);
    neutral->setChecked(session_.document()->probes[index].neutral);
    neutral->setObjectName(QString("probe-neutral-%1").arg(index + 1));
    neutral->setAccessibleName(tr("Probe %1 is on something neutral").arg(index + 1));
    neutral->setToolTip(tr("Known to have no colour of its own: the cast dial marks what it has"));
    connect(neutral, &QAbstractButton::clicked, this, [this, index](bool on) {
        change(index, tr("mark probe neutral"), [on](document::Probe& p) { p.neutral = on; });
    });
    head->addWidget(neutral);
    QToolButton* remove = iconButton("x", tr("Remove probe %1").arg(index + 1), tr("Remove this probe"), row);
    remove->setIconSize({12, 12});
    remove->setObjectName(QString("remove-probe-%1").arg(index + 1));
    connect(remove, &QAbstractButton::clicked, this, [this, index] {
        session_.edit(tr("remove probe"),
                      [=](const document::Document& d) { return document::withoutProbe(d, index); });
    });
    head->addWidget(remove);
    lines->addLayout(head);
    Row figures{new QLabel(row), new QLabel(row)};
    figures.before->setProperty("quiet", true);
    for (QLabel* label : {figures.before, figures.after}) {
        label->setWordWrap(true);
        lines->addWidget(label);
    }
    figures.after->setObjectName(QString("probe-after-%1").arg(index + 1));
    rows_.append(figures);
    return row;
}

void ProbeList::addPair(QVBoxLayout* layout) {
    auto* row = new QWidget(list_);
    auto* line = new QHBoxLayout(row);
    line->setContentsMargins(0, 4, 0, 0);
    line->setSpacing(4);
    const auto choice = [&](int which) {
        auto* combo = new ComboBox(row);
        for (std::size_t i = 0; i < built_.size(); ++i) combo->addItem(QString::number(i + 1));
        combo->setCurrentIndex(static_cast<int>(std::min(chosen_[which], built_.size() - 1)));
        combo->setAccessibleName(which == 0 ? tr("First probe of the pair") : tr("Second probe of the pair"));
        connect(combo, &QComboBox::activated, this, [this, which](int index) {
            chosen_[which] = static_cast<std::size_t>(index);
            refreshPair();
        });
        line->addWidget(combo);
        return combo;
    };
    one_ = choice(0);
    other_ = choice(1);
    apart_ = new QLabel(row);
    apart_->setObjectName("probes-apart");
    apart_->setWordWrap(true);
    apart_->setToolTip(tr("CIEDE2000 between the two probes: before, and now"));
    line->addWidget(apart_, 1);
    layout->addWidget(row);
}

void ProbeList::rebuild() {
    setVisible(session_.isOpen());
    const std::vector<document::Probe> now =
        session_.isOpen() ? session_.document()->probes : std::vector<document::Probe>();
    // Rows are of what can be chosen in them; where a probe stands does not matter.
    const auto isAlike = [](const document::Probe& a, const document::Probe& b) {
        return a.sizePx == b.sizePx && a.area.has_value() == b.area.has_value() && a.neutral == b.neutral;
    };
    if (!list_ || !std::ranges::equal(now, built_, isAlike)) {
        rows_.clear();
        one_ = other_ = nullptr;
        apart_ = nullptr;
        built_ = now;
        list_ = new QWidget;  // the one before goes with it
        auto* layout = new QVBoxLayout(list_);
        layout->setContentsMargins(0, 0, 0, 0);
        layout->setSpacing(0);
        for (std::size_t i = 0; i < built_.size(); ++i) layout->addWidget(rowOf(i));
        if (built_.size() > 1) addPair(layout);
        // Eight of them are taller than the panel.
        scroll_->setWidget(list_);
        scroll_->setVisible(!built_.empty());
        scroll_->setFixedHeight(std::min(list_->sizeHint().height() + 2, mostListPx));
    }
    refresh();
}

void ProbeList::refresh() {
    const auto& readings = probes_.readings();
    for (qsizetype i = 0; i < rows_.size(); ++i) {
        const auto index = static_cast<std::size_t>(i);
        if (index >= readings.size()) continue;  // being read
        const auto& reading = readings[index];
        rows_[i].before->setText(reading ? tr("was %1").arg(probeWords(reading->before)) : tr("outside the photo"));
        rows_[i].after->setText(
            reading ? tr("now %1, difference %2").arg(probeWords(reading->after), shown(reading->difference, 1))
                    : QString());
    }
    fold_->setSummary(built_.empty() ? tr("none") : QString::number(built_.size()));
    refreshPair();
}

void ProbeList::refreshPair() {
    if (!apart_) return;
    const auto& readings = probes_.readings();
    const auto at = [&](const QComboBox* combo) -> const task::ProbeReading* {
        const auto index = static_cast<std::size_t>(combo->currentIndex());
        return index < readings.size() && readings[index] ? &*readings[index] : nullptr;
    };
    const task::ProbeReading *one = at(one_), *other = at(other_);
    apart_->setText(one && other ? tr("apart %1, now %2")
                                       .arg(shown(colour::ciede2000(one->before.lab, other->before.lab), 1),
                                            shown(colour::ciede2000(one->after.lab, other->after.lab), 1))
                                 : QString());
}

}  // namespace dimhem::ui
