#include "ui/panel/panel_border.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QScreen>
#include <QSettings>
#include <algorithm>

#include "ui/control/theme.h"

namespace dimhem::ui {

namespace {

constexpr int graspPx = 6;  // wide enough for the hand, narrow enough to cover nothing of the panel's rows
constexpr int narrowDefault = 208, wideDefault = 280, wideScreen = 1900, keyStep = 8;

}  // namespace

PanelBorder::PanelBorder(Edge edge, const QString& settingsKey, QWidget* panel)
    : QWidget(panel), edge_(edge), key_(settingsKey), panel_(panel) {
    setCursor(Qt::SizeHorCursor);
    setFocusPolicy(Qt::TabFocus);
    setAccessibleName(tr("Width of the panel %1").arg(panel->accessibleName()));
    setToolTip(tr("Drag to make the panel wider or narrower; double click for the usual width"));
    const int chosen = QSettings().value(key_).toInt();
    setPanelWidth(chosen > 0 ? chosen : defaultWidth(), false);
}

std::optional<SpokenValue> PanelBorder::spokenValue() const {
    return SpokenValue{static_cast<double>(panel_->width()), static_cast<double>(theme::scaled(least)),
                       static_cast<double>(theme::scaled(most)), keyStep};
}

int PanelBorder::defaultWidth() const {
    return theme::scaled(panel_->screen()->availableGeometry().width() >= wideScreen ? wideDefault : narrowDefault);
}

void PanelBorder::setPanelWidth(int width, bool remembered) {
    // Beside two of them at least a quarter of the screen stays the photo's.
    const int room = panel_->screen()->availableGeometry().width() * 3 / 8;
    width = std::min(std::clamp(width, theme::scaled(least), theme::scaled(most)), std::max(most, room));
    panel_->setFixedWidth(width);
    if (remembered) QSettings().setValue(key_, width);
}

void PanelBorder::place() {
    setGeometry(edge_ == Edge::left ? 0 : panel_->width() - graspPx, 0, graspPx, panel_->height());
    raise();
}

bool PanelBorder::event(QEvent* event) {
    if (event->type() == QEvent::HoverEnter || event->type() == QEvent::HoverLeave ||
        event->type() == QEvent::FocusIn || event->type() == QEvent::FocusOut)
        update();
    return QWidget::event(event);
}

void PanelBorder::paintEvent(QPaintEvent*) {
    if (!underMouse() && !hasFocus()) return;
    QPainter(this).fillRect(edge_ == Edge::left ? QRect(0, 0, 2, height()) : QRect(width() - 2, 0, 2, height()),
                            QColor(hasFocus() ? theme::bright : theme::edge));
}

void PanelBorder::mousePressEvent(QMouseEvent* event) {
    grabbedAt_ = event->globalPosition().toPoint().x();
    grabbedWidth_ = panel_->width();
}

void PanelBorder::mouseMoveEvent(QMouseEvent* event) {
    if (!(event->buttons() & Qt::LeftButton)) return;
    const int by = event->globalPosition().toPoint().x() - grabbedAt_;
    setPanelWidth(grabbedWidth_ + (edge_ == Edge::left ? -by : by), true);
}

void PanelBorder::mouseDoubleClickEvent(QMouseEvent*) {
    QSettings().remove(key_);
    setPanelWidth(defaultWidth(), false);
}

void PanelBorder::keyPressEvent(QKeyEvent* event) {
    if (event->key() != Qt::Key_Left && event->key() != Qt::Key_Right) {
        QWidget::keyPressEvent(event);
        return;
    }
    const bool wider = (event->key() == Qt::Key_Right) == (edge_ == Edge::right);
    setPanelWidth(panel_->width() + (wider ? keyStep : -keyStep), true);
}

}  // namespace dimhem::ui
