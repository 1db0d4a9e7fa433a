#include "ui/panel/photo_line.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QToolButton>
#include <algorithm>

#include "core/colour/lab.h"
#include "ui/control/theme.h"
#include "ui/panel/hem_line.h"
#include "ui/panel/notes_line.h"
#include "ui/panel/readout.h"

namespace dimhem::ui {

namespace {

constexpr int heightPx = 24;

QString rgb(const colour::EncodedRgb& c) {
    const auto channel = [](double v) { return QString::number(std::clamp(v, -9.99, 99.9) * 255, 'f', 0); };
    return QString("%1 %2 %3").arg(channel(c.r), channel(c.g), channel(c.b));
}

}  // namespace

PhotoLine::PhotoLine(HemLine* hem, NotesLine* notes, QWidget* parent)
    : QWidget(parent), hem_(hem), readout_(new Readout(this)), job_(new QLabel(this)), cancel_(new QToolButton(this)) {
    setFixedHeight(theme::scaled(heightPx));
    setProperty("help", "hem");
    readout_->setToolTip(
        tr("Under the pointer: the place, the photo as it was and the result (red, green, blue of 255), and the "
           "result's tone L*"));
    job_->setObjectName("job");
    cancel_->setText(tr("Cancel"));
    cancel_->setAccessibleName(tr("Cancel the work"));
    connect(cancel_, &QAbstractButton::clicked, this, &PhotoLine::cancelWanted);
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(10, 0, 10, 0);
    layout->addWidget(hem);
    layout->addWidget(notes, 1);
    layout->addWidget(readout_, 1);
    layout->addWidget(job_);
    layout->addWidget(cancel_);
    setMinimumWidth(1);  // what has no room gives way
    setJob({}, {});
}

void PhotoLine::resizeEvent(QResizeEvent*) {
    hem_->fitInto(width() - 20);
}

void PhotoLine::setJob(const QString& job, const QString& tip) {
    job_->setText(job);
    job_->setVisible(!job.isEmpty());
    cancel_->setToolTip(tip);
    cancel_->setVisible(!tip.isEmpty());
}

void PhotoLine::showPointer(const PointerColours& colours) {
    const QString was = rgb(colours.before), now = rgb(colours.after),
                  tone = QString::number(colour::labFromEncoded(colours.after).l, 'f', 1);
    readout_->setWordings({tr("%1, %2    was %3    now %4    L* %5")
                               .arg(static_cast<int>(colours.place.x))
                               .arg(static_cast<int>(colours.place.y))
                               .arg(was, now, tone),
                           tr("was %1    now %2    L* %3").arg(was, now, tone), tr("%1 to %2").arg(was, now), now});
}

void PhotoLine::clearPointer() {
    readout_->setWordings({});
}

void PhotoLine::paintEvent(QPaintEvent*) {
    QPainter(this).fillRect(rect(), QColor(theme::bar));
}

}  // namespace dimhem::ui
