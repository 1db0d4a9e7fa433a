#include "ui/panel/notes_line.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QToolButton>

#include "core/colour/lab.h"
#include "ui/control/theme.h"

namespace dimhem::ui {

namespace {

QString rgb(const colour::EncodedRgb& c) {
    const auto channel = [](double v) { return QString::number(std::clamp(v, -9.99, 99.9) * 255, 'f', 0); };
    return QString("%1 %2 %3").arg(channel(c.r), channel(c.g), channel(c.b));
}

}  // namespace

NotesLine::NotesLine(Session& session, QWidget* parent)
    : QWidget(parent),
      session_(session),
      state_(new QLabel(this)),
      pointer_(new QLabel(this)),
      cancel_(new QToolButton(this)) {
    setFixedHeight(28);
    state_->setProperty("quiet", true);
    pointer_->setToolTip(
        tr("Under the pointer: place, the photo as it was, the result (red, green, blue of 255), and the result's tone "
           "L*"));
    cancel_->setText(tr("Cancel"));
    cancel_->setAccessibleName(tr("Cancel the work"));
    cancel_->setToolTip(tr("Stop; nothing is lost"));
    cancel_->hide();
    connect(cancel_, &QAbstractButton::clicked, this, &NotesLine::cancelWanted);
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(12, 0, 12, 0);
    layout->addWidget(state_);
    layout->addWidget(cancel_);
    layout->addStretch(1);
    layout->addWidget(pointer_);
    connect(&session_, &Session::opened, this, &NotesLine::refresh);
    refresh();
}

void NotesLine::refresh() {
    QStringList notes;
    if (session_.isOpen()) {
        const base::Size size = session_.renderer().photo().size();
        notes << tr("%1 × %2 px").arg(size.width).arg(size.height)
              << tr("%1 Mpx").arg(size.width * 1e-6 * size.height, 0, 'f', 1)
              << tr("zoom %1 %").arg(zoom_ * 100, 0, 'f', zoom_ < 0.1 ? 1 : 0)
              << (rendering_ ? tr("rendering") : tr("up to date"));
    }
    if (!job_.isEmpty()) notes << job_;
    state_->setText(notes.join(QString("  ·  ")));
    if (!session_.isOpen()) pointer_->clear();
}

void NotesLine::setZoom(double zoom) {
    zoom_ = zoom;
    refresh();
}

void NotesLine::setRendering(bool rendering) {
    if (rendering == rendering_) return;
    rendering_ = rendering;
    refresh();
}

void NotesLine::setJob(const QString& job) {
    job_ = job;
    cancel_->setVisible(!job.isEmpty());
    refresh();
}

void NotesLine::showPointer(const PointerColours& colours) {
    const double tone = colour::labFromEncoded(colours.after).l;
    pointer_->setText(tr("%1, %2    was %3    now %4    L* %5")
                          .arg(static_cast<int>(colours.place.x))
                          .arg(static_cast<int>(colours.place.y))
                          .arg(rgb(colours.before), rgb(colours.after))
                          .arg(tone, 0, 'f', 1));
}

void NotesLine::clearPointer() {
    pointer_->clear();
}

void NotesLine::paintEvent(QPaintEvent*) {
    QPainter(this).fillRect(rect(), QColor(theme::bar));
}

}  // namespace dimhem::ui
