#include "ui/panel/hem_line.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QToolButton>
#include <algorithm>

#include "core/task/mend.h"
#include "ui/session/key_table.h"

namespace dimhem::ui {

namespace {

QString percent(double value) {
    return QObject::tr("%1 %").arg(value, 0, 'f', value < 9.95 ? 1 : 0);
}

QString kindName(check::FindingKind kind) {
    switch (kind) {
        case check::FindingKind::spill: return QObject::tr("Spill");
        case check::FindingKind::shortfall: return QObject::tr("Short");
        case check::FindingKind::gap: return QObject::tr("Gap");
        case check::FindingKind::speck: return QObject::tr("Speck");
    }
    return {};
}

QString mendName(check::FindingKind kind) {
    switch (kind) {
        case check::FindingKind::gap: return QObject::tr("Fill it");
        case check::FindingKind::speck: return QObject::tr("Remove it");
        case check::FindingKind::spill:
        case check::FindingKind::shortfall: return QObject::tr("Pull to the edge");
    }
    return {};
}

QString gradualWords(const task::HemReport& report) {
    const auto count = report.findings.size();
    if (count == 0) return QObject::tr("a gradient has no edge to check");
    return count == 1 ? QObject::tr("a figure stands in the gradient's way")
                      : QObject::tr("%1 figures stand in the gradient's way").arg(count);
}

}  // namespace

HemLine::HemLine(HemWatch& hem, QWidget* parent)
    : QWidget(parent),
      hem_(hem),
      title_(new QLabel(this)),
      state_(new QLabel(this)),
      found_(new QLabel(this)),
      next_(new QToolButton(this)),
      map_(new QToolButton(this)),
      mend_(new QPushButton(this)) {
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(2);
    title_->setProperty("quiet", true);
    title_->setFixedWidth(title_->fontMetrics().horizontalAdvance(tr("Hem …")) + 2);
    layout->addWidget(title_);
    layout->addSpacing(6);
    state_->setObjectName("hem-state");
    layout->addWidget(state_);
    spill_ = addCount("hem-spill", tr("Share of the mask that lies past the edge. Click for the next such place."),
                      check::FindingKind::spill);
    short_ =
        addCount("hem-short", tr("Share of the mask that is missing up to the edge. Click for the next such place."),
                 check::FindingKind::shortfall);
    gaps_ = addCount("hem-gaps", tr("Missed spots within the mask. Click for the next."), check::FindingKind::gap);
    specks_ =
        addCount("hem-specks", tr("Stray spots outside the mask. Click for the next."), check::FindingKind::speck);
    map_->setText(tr("Error map"));
    map_->setObjectName("hem-map");
    map_->setCheckable(true);
    map_->setAccessibleName(tr("Error map of spill and short"));
    setKeyTip(map_, tr("Shows spill (orange) and short (blue) over the photo (%1)"), {"error-map"});
    connect(map_, &QAbstractButton::toggled, &hem_, &HemWatch::setShowsMap);
    layout->addWidget(map_);
    found_->setObjectName("hem-finding");
    layout->addWidget(found_);
    mend_->setObjectName("hem-mend");
    mend_->setFocusPolicy(Qt::TabFocus);
    connect(mend_, &QAbstractButton::clicked, &hem_, &HemWatch::mend);
    layout->addWidget(mend_);
    next_->setText(tr("Next"));
    next_->setObjectName("hem-next");
    next_->setAccessibleName(tr("Next finding"));
    setKeyTip(next_, tr("Next place to look at (%1)"), {"next-finding"});
    connect(next_, &QAbstractButton::clicked, &hem_, [this] { hem_.step(1); });
    layout->addWidget(next_);
    connect(&hem_, &HemWatch::changed, this, &HemLine::refresh);
    connect(&hem_, &HemWatch::stepped, this, &HemLine::refresh);
    refresh();
}

QString HemLine::inWords() const {
    const task::HemReport* report = hem_.report();
    if (!report) return tr("The hem check has no figures yet.");
    if (!spill_->isVisibleTo(this)) return tr("Hem check: %1.").arg(state_->text());
    return tr("Hem check: spill %1, short %2, %3 gaps, %4 specks.")
        .arg(percent(report->spillPct), percent(report->shortPct))
        .arg(report->gaps)
        .arg(report->specks);
}

QToolButton* HemLine::addCount(const QString& objectName, const QString& tip, check::FindingKind kind) {
    auto* button = new QToolButton(this);
    button->setObjectName(objectName);
    button->setToolTip(tip);
    button->setFocusPolicy(Qt::TabFocus);
    connect(button, &QAbstractButton::clicked, &hem_, [this, kind] { hem_.step(1, kind); });
    layout()->addWidget(button);
    return button;
}

void HemLine::refresh() {
    const task::HemReport* report = hem_.report();
    const bool measured = report && report->measured;
    title_->setText(hem_.isUpToDate() ? tr("Hem") : tr("Hem …"));
    QStringList parts;
    if (report) {
        for (const std::string& part : report->ofParts) parts << QString::fromStdString(part);
    }
    title_->setToolTip(
        parts.empty()
            ? tr("How well the selected mask keeps to the edge, from the photo and the mask alone")
            : tr("Gradients and wires are not checked. The figures are those of: %1.").arg(parts.join(tr(", "))));
    const bool tooThin = measured && report->unmeasuredPct > task::mostUnmeasuredPct;
    state_->setVisible(!measured || tooThin);
    const bool isOutOfDate = !measured && !hem_.isUpToDate();  // it says what was so before
    state_->setText(!report || isOutOfDate ? tr("–")
                    : report->paints       ? tr("what is filled or painted is not checked")
                    : report->isGradual    ? gradualWords(*report)
                    : !measured            ? tr("the mask has no edge to check")
                                           : tr("this edge is too soft or too fine to check"));
    const auto show = [&](QToolButton* button, bool visible, const QString& text, check::FindingKind kind) {
        button->setVisible(visible);
        button->setText(text);
        button->setAccessibleName(text);
        button->setEnabled(visible && std::any_of(report->findings.begin(), report->findings.end(),
                                                  [&](const check::Finding& f) { return f.kind == kind; }));
    };
    const double spill = measured ? report->spillPct : 0, missing = measured ? report->shortPct : 0;
    show(spill_, measured && !tooThin, tr("spill %1").arg(percent(spill)), check::FindingKind::spill);
    show(short_, measured && !tooThin, tr("short %1").arg(percent(missing)), check::FindingKind::shortfall);
    show(gaps_, measured, tr("gaps %1").arg(measured ? report->gaps : 0), check::FindingKind::gap);
    show(specks_, measured, tr("specks %1").arg(measured ? report->specks : 0), check::FindingKind::speck);
    map_->setVisible(measured);
    map_->setChecked(hem_.showsMap());
    const bool any = report && !report->findings.empty() && !isOutOfDate;
    next_->setVisible(any);
    const check::Finding* finding = hem_.finding();
    if (finding && !measured) state_->hide();
    found_->setVisible(finding);
    mend_->setVisible(finding && task::canBeMended(*report, *finding));
    if (finding) {
        found_->setText(tr("%1 %2 of %3 · %4 px²")
                            .arg(finding->isFigure ? tr("Figure") : kindName(finding->kind))
                            .arg(hem_.indexOfFinding() + 1)
                            .arg(report->findings.size())
                            .arg(finding->pixels, 0, 'f', 0));
        mend_->setText(finding->isFigure ? tr("Leave it out") : mendName(finding->kind));
        mend_->setAccessibleName(mend_->text());
        mend_->setToolTip(tr("Adds an outline part that puts this place right"));
    }
    hideWhatHasNoRoom();
}

void HemLine::hideWhatHasNoRoom() {
    for (QWidget* less : {static_cast<QWidget*>(next_), static_cast<QWidget*>(map_), static_cast<QWidget*>(title_),
                          static_cast<QWidget*>(specks_), static_cast<QWidget*>(gaps_)}) {
        layout()->invalidate();
        if (layout()->sizeHint().width() <= room_) return;
        less->hide();
    }
}

void HemLine::fitInto(int width) {
    if (width == room_) return;
    room_ = width;
    title_->show();
    refresh();
}

}  // namespace dimhem::ui
