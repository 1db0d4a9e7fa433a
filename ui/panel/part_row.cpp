#include "ui/panel/part_row.h"

#include <QApplication>
#include <QContextMenuEvent>
#include <QHBoxLayout>
#include <QMenu>
#include <QPainter>
#include <QToolButton>

#include "core/document/edits.h"
#include "ui/control/entry_field.h"
#include "ui/control/icon.h"
#include "ui/control/switch.h"
#include "ui/control/theme.h"
#include "ui/session/key_table.h"

namespace dimhem::ui {

namespace {

constexpr int heightPx = 34;
constexpr QRect plateRect(4, 6, 33, 22);
constexpr int nameLeft = 43;

struct CombineChoice {
    mask::Combine combine;
    const char* icon;
    QString label, tip;
};

QList<CombineChoice> combineChoices() {
    return {{mask::Combine::add, "squares-unite", QObject::tr("Add"), QObject::tr("Adds to the parts above it")},
            {mask::Combine::subtract, "squares-subtract", QObject::tr("Subtract"),
             QObject::tr("Takes away from the parts above it")},
            {mask::Combine::overlap, "squares-intersect", QObject::tr("Overlap"),
             QObject::tr("Keeps what the parts above it share with it")}};
}

}  // namespace

PartRow::PartRow(Session& session, const mask::Part& part, QWidget* parent)
    : QWidget(parent), session_(session), part_(part.id), name_(QString::fromStdString(part.name)) {
    setObjectName(QString("part-%1").arg(part_));
    setFixedHeight(heightPx);
    setFocusPolicy(Qt::TabFocus);
    setAccessibleName(tr("Mask part %1").arg(name_));
    setToolTip(
        tr("%1\nPoint at it to see it alone; double click to rename, drag to reorder; Delete removes it.").arg(name_));

    auto* combine = new QToolButton(this);
    combine->setObjectName(QString("combine-%1").arg(part_));
    combine->setPopupMode(QToolButton::InstantPopup);
    combine->setFocusPolicy(Qt::TabFocus);
    auto* menu = new QMenu(combine);
    for (const CombineChoice& choice : combineChoices()) {
        QAction* action = menu->addAction(icon(choice.icon), tr("%1: %2").arg(choice.label, choice.tip));
        connect(action, &QAction::triggered, this, [this, choice] {
            change(tr("change how part combines"), [choice](mask::Part& p) { p.combine = choice.combine; });
        });
        if (choice.combine != part.combine) continue;
        combine->setIcon(icon(choice.icon));
        combine->setToolTip(choice.label + ". " + choice.tip + ".");
        combine->setAccessibleName(tr("Combine: %1").arg(choice.label));
    }
    combine->setMenu(menu);
    combine->setVisible(!part.shape->isZone());  // it takes the place of the mask above it

    canInvert_ = !part.shape->isZone();
    invert_ = iconButton("contrast", tr("Invert %1").arg(name_),
                         withKey(tr("Invert: inside becomes outside"), "invert"), this);
    invert_->setObjectName(QString("invert-%1").arg(part_));
    invert_->setCheckable(true);
    invert_->setChecked(part.flipped);
    connect(invert_, &QAbstractButton::clicked, this,
            [this](bool on) { change(tr("invert part"), [on](mask::Part& p) { p.flipped = on; }); });
    auto* enabled = new Switch(tr("%1 on").arg(name_), tr("This part on or off"), this);
    enabled->setObjectName(QString("enabled-%1").arg(part_));
    enabled->setChecked(part.enabled);
    connect(enabled, &QAbstractButton::clicked, this, [this](bool on) {
        change(on ? tr("switch part on") : tr("switch part off"), [on](mask::Part& p) { p.enabled = on; });
    });

    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(nameLeft, 0, 2, 0);
    layout->setSpacing(0);
    layout->addStretch(1);
    layout->addWidget(combine);
    layout->addWidget(invert_);
    layout->addWidget(enabled);
    showInvert();
}

// The button is there where it says something, or may be wanted: it takes room from the name.
void PartRow::showInvert() {
    invert_->setVisible(canInvert_ && (invert_->isChecked() || session_.selectedPart() == part_ || underMouse()));
    update();
}

bool PartRow::isSpokenAsChosen() const {
    return session_.selectedPart() == part_;
}

void PartRow::setPlate(const QImage& plate) {
    plate_ = plate;
    update();
}

void PartRow::change(const QString& stepName, const std::function<void(mask::Part&)>& change) {
    session_.edit(stepName, [&](const document::Document& d) {
        return document::withPart(d, session_.selectedCorrection(), part_, change);
    });
}

int PartRow::firstButtonX() const {
    int x = width();
    for (const QAbstractButton* button : findChildren<QAbstractButton*>()) {
        if (button->isVisible()) x = std::min(x, button->x());
    }
    return x;
}

void PartRow::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    if (session_.selectedPart() == part_) {
        painter.setPen(Qt::NoPen);
        painter.setBrush(QColor(theme::raised));
        painter.drawRoundedRect(rect(), 4, 4);
    }
    if (hasFocus()) {
        painter.setPen(QColor(theme::quiet));
        painter.setBrush(Qt::NoBrush);
        painter.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 4, 4);
    }
    painter.fillRect(plateRect, Qt::black);
    if (!plate_.isNull()) {
        painter.setRenderHint(QPainter::SmoothPixmapTransform);
        const QSize fitted = plate_.size().scaled(plateRect.size(), Qt::KeepAspectRatio);
        QRect target(QPoint(), fitted);
        target.moveCenter(plateRect.center());
        painter.drawImage(target, plate_);
    }
    painter.setPen(QColor(theme::edge));
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(plateRect);
    painter.setPen(QColor(theme::text));
    const QRect nameRect(nameLeft, 0, firstButtonX() - nameLeft - 3, height());
    painter.drawText(nameRect, Qt::AlignVCenter, fontMetrics().elidedText(name_, Qt::ElideRight, nameRect.width()));
}

void PartRow::mousePressEvent(QMouseEvent* event) {
    pressedY_ = event->pos().y();
    dragging_ = false;
}

void PartRow::mouseMoveEvent(QMouseEvent* event) {
    if (!(event->buttons() & Qt::LeftButton)) return;
    const int by = event->pos().y() - pressedY_;
    if (std::abs(by) >= QApplication::startDragDistance()) dragging_ = true;
    if (!dragging_) return;
    dragPlaces_ = qRound(static_cast<double>(by) / heightPx);
    Q_EMIT draggedBy(dragPlaces_);
}

void PartRow::mouseReleaseEvent(QMouseEvent*) {
    // Selected when let go of: the rows are built anew then, and a drag would be lost.
    if (!std::exchange(dragging_, false)) {
        session_.selectPart(part_);
        return;
    }
    Q_EMIT draggedBy(std::nullopt);
    if (dragPlaces_ != 0) moveBy(dragPlaces_);
}

void PartRow::mouseDoubleClickEvent(QMouseEvent*) {
    rename();
}

void PartRow::rename() {
    renameField(name_, {nameLeft - 6, 5, width() - nameLeft - 60, 24}, this, [this](const QString& name) {
        change(tr("rename part"), [&](mask::Part& p) { p.name = name.toStdString(); });
    });
}

void PartRow::moveBy(int places) {
    const auto& parts = session_.correction()->mask.parts;
    const auto at =
        std::find_if(parts.begin(), parts.end(), [this](const auto& p) { return p->id == part_; }) - parts.begin();
    const auto to = std::clamp<std::ptrdiff_t>(at + places, 0, static_cast<std::ptrdiff_t>(parts.size()) - 1);
    if (to == at) return;
    session_.edit(tr("move part"), [&](const document::Document& d) {
        return document::withPartMoved(d, session_.selectedCorrection(), part_, static_cast<std::size_t>(to));
    });
}

void PartRow::copyTo(document::Id correction) {
    document::Id copy = 0;
    session_.edit(tr("copy part"), [&](const document::Document& d) {
        const document::Added added = document::withCopyOfPart(d, session_.selectedCorrection(), part_, correction);
        copy = added.id;
        return added.document;
    });
    if (copy && correction == session_.selectedCorrection()) session_.selectPart(copy);
}

void PartRow::remove() {
    session_.edit(tr("remove part"), [&](const document::Document& d) {
        return document::withoutPart(d, session_.selectedCorrection(), part_);
    });
    session_.sayOfStep(tr("Removed a part of the mask."));
}

// Delete on a part removes the part; without a word here the window would take the key for the correction.
bool PartRow::event(QEvent* event) {
    if (event->type() == QEvent::ShortcutOverride && static_cast<QKeyEvent*>(event)->key() == Qt::Key_Delete) {
        event->accept();
        return true;
    }
    return QWidget::event(event);
}

void PartRow::keyPressEvent(QKeyEvent* event) {
    const bool alt = event->modifiers() & Qt::AltModifier;
    if (event->key() == Qt::Key_Delete) {
        remove();
    } else if (event->key() == Qt::Key_F2) {
        rename();
    } else if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Space) {
        session_.selectPart(part_);
    } else if (alt && event->key() == Qt::Key_Up) {
        moveBy(-1);
    } else if (alt && event->key() == Qt::Key_Down) {
        moveBy(1);
    } else {
        QWidget::keyPressEvent(event);
    }
}

void PartRow::contextMenuEvent(QContextMenuEvent* event) {
    QMenu menu;
    menu.addAction(tr("Rename"), this, &PartRow::rename);
    menu.addAction(tr("Move up\tAlt+Up"), this, [this] { moveBy(-1); });
    menu.addAction(tr("Move down\tAlt+Down"), this, [this] { moveBy(1); });
    menu.addAction(tr("Duplicate"), this, [this] { copyTo(session_.selectedCorrection()); });
    QMenu* others = menu.addMenu(tr("Copy to"));
    for (const auto& correction : session_.document()->corrections) {
        if (correction->id == session_.selectedCorrection()) continue;
        others->addAction(QString::fromStdString(correction->name), this, [this, id = correction->id] { copyTo(id); });
    }
    others->setEnabled(!others->isEmpty());
    menu.addSeparator();
    menu.addAction(tr("Remove\tDelete"), this, &PartRow::remove);
    menu.exec(event->globalPos());
}

void PartRow::enterEvent(QEnterEvent*) {
    session_.setHoveredPart(part_);
    showInvert();
}

void PartRow::leaveEvent(QEvent*) {
    session_.setHoveredPart(0);
    showInvert();
}

}  // namespace dimhem::ui
