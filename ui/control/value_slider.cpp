#include "ui/control/value_slider.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QMouseEvent>
#include <QPainter>
#include <cmath>

#include "ui/control/entry_field.h"
#include "ui/control/switch.h"
#include "ui/control/theme.h"

namespace dimhem::ui {

namespace {

constexpr int labelWidth = 88;
constexpr int fieldWidth = 66;
constexpr int endPx = 4;  // of the track left and right of its ends

QString text(std::string_view view) {
    return QString::fromUtf8(view.data(), static_cast<qsizetype>(view.size()));
}

QString shown(const base::ParamSpec& spec, double value) {
    QString number = QString::number(value, 'f', spec.decimals);
    if (spec.neutral == 0 && spec.min < 0 && number.toDouble() > 0) number.prepend('+');
    if (number.startsWith('-') && number.toDouble() == 0) number.remove(0, 1);
    return spec.unit.empty() ? number : number + " " + text(spec.unit);
}

// What is typed: a number, with or without the unit.
std::optional<double> typed(const base::ParamSpec& spec, QString words) {
    words = words.trimmed();
    if (!spec.unit.empty() && words.endsWith(text(spec.unit), Qt::CaseInsensitive)) {
        words.chop(static_cast<int>(spec.unit.size()));
    }
    bool ok = false;
    const double value = words.trimmed().replace(',', '.').toDouble(&ok);
    return ok && std::isfinite(value) ? std::optional(value) : std::nullopt;
}

bool beginsNumber(const QKeyEvent* event) {
    const QString text = event->text();
    const bool plain = !(event->modifiers() & (Qt::ControlModifier | Qt::AltModifier));
    return plain && !text.isEmpty() && (text[0].isDigit() || QStringLiteral("+-").contains(text[0]));
}

QString rangeTip(const base::ParamSpec& spec) {
    return text(spec.tip) + "\n" + shown(spec, spec.min) + " to " + shown(spec, spec.max) + "; double click for " +
           shown(spec, spec.neutral) + ".";
}

}  // namespace

ValueSlider::ValueSlider(const base::ParamSpec& spec, QWidget* parent)
    : QWidget(parent),
      spec_(spec),
      value_(spec.neutral),
      label_(new QLabel(text(spec.label), this)),
      track_(new SliderTrack(this)),
      field_(new EntryField({}, this)) {
    label_->setFixedWidth(labelWidth);
    label_->setToolTip(rangeTip(spec));
    track_->setToolTip(rangeTip(spec));
    field_->setToolTip(rangeTip(spec));
    field_->setFixedWidth(fieldWidth);
    field_->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    const QString unit = spec.unit.empty() ? QString() : " in " + text(spec.unit);
    track_->setAccessibleName(text(spec.label) + unit);
    field_->setAccessibleName(text(spec.label) + unit);

    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(4);
    layout->addWidget(label_);
    layout->addWidget(track_, 1);
    layout->addWidget(field_);
    setFixedHeight(theme::rowHeight);

    setFocusProxy(track_);
    connect(field_, &EntryField::entered, this, &ValueSlider::acceptField);
    connect(field_, &EntryField::givenUp, this, [this] {
        showValue();
        track_->setFocus();
    });
    pause_.setSingleShot(true);
    pause_.setInterval(600);
    connect(&pause_, &QTimer::timeout, this, &ValueSlider::finished);
    showValue();
}

void ValueSlider::makeCompact() {
    label_->hide();
    field_->hide();
    setFixedWidth(70);
}

void ValueSlider::setValue(double value) {
    if (value == value_) return;
    value_ = value;
    showValue();
}

void ValueSlider::change(double value) {
    value = base::clamped(spec_, value);
    if (value == value_) return;
    value_ = value;
    showValue();
    Q_EMIT changed(value_);
}

void ValueSlider::stepBy(double steps) {
    double next = value_ + steps * spec_.step;
    if (spec_.scale == base::Scale::logarithmic && std::abs(steps) >= 1) {
        // A step of a twentieth where that is more than the plain one: as even to the hand as the track is.
        next = value_ + steps * std::max(spec_.step, std::round(value_ / 20 / spec_.step) * spec_.step);
    }
    change(next);
    pause_.start();
}

void ValueSlider::acceptField() {
    const auto value = typed(spec_, field_->text());
    const double before = value_;
    if (value) change(*value);
    showValue();
    if (value_ != before) Q_EMIT finished();
}

void ValueSlider::showValue() {
    if (!field_->hasFocus() || !field_->isModified()) field_->setText(shown(spec_, value_));
    track_->update();
}

SliderTrack::SliderTrack(ValueSlider* slider) : QWidget(slider), slider_(slider) {
    setFocusPolicy(Qt::StrongFocus);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Preferred);
}

double SliderTrack::placeOf(const base::ParamSpec& spec, double value) {
    switch (spec.scale) {
        case base::Scale::linear: break;
        case base::Scale::logarithmic: return std::log(value / spec.min) / std::log(spec.max / spec.min);
        case base::Scale::reciprocal: return (1 / spec.min - 1 / value) / (1 / spec.min - 1 / spec.max);
    }
    return (value - spec.min) / (spec.max - spec.min);
}

double SliderTrack::valueAt(const base::ParamSpec& spec, double place) {
    place = std::clamp(place, 0.0, 1.0);
    double value = spec.min + place * (spec.max - spec.min);
    if (spec.scale == base::Scale::logarithmic) value = spec.min * std::pow(spec.max / spec.min, place);
    if (spec.scale == base::Scale::reciprocal) value = 1 / (1 / spec.min - place * (1 / spec.min - 1 / spec.max));
    return base::clamped(spec, std::round(value / spec.step) * spec.step);
}

double SliderTrack::xOf(double value) const {
    return endPx + placeOf(slider_->spec(), value) * (width() - 2 * endPx);
}

void SliderTrack::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const double y = height() / 2.0, x = xOf(slider_->value()), neutral = xOf(slider_->spec().neutral);
    const bool on = isEnabled();
    painter.setPen(QPen(QColor(theme::edge), 1.5));
    painter.drawLine(QPointF(endPx, y), QPointF(width() - endPx, y));
    painter.setPen(QPen(QColor(theme::quiet), 1));
    painter.drawLine(QPointF(neutral, y - 5), QPointF(neutral, y + 5));
    painter.setPen(QPen(QColor(on ? 0xffc8c8c8 : theme::edge), 2));
    if (std::abs(x - neutral) > 1) painter.drawLine(QPointF(neutral, y), QPointF(x, y));
    painter.setPen(hasFocus() ? QPen(QColor(theme::bright), 1) : QPen(Qt::NoPen));
    painter.setBrush(QColor(on ? (hasFocus() ? 0xffffffff : 0xffdadada) : theme::edge));
    painter.drawRoundedRect(QRectF(x - 3, y - 7, 6, 14), 2, 2);
}

void SliderTrack::mousePressEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton) return;
    const double x = event->position().x(), knob = xOf(slider_->value());
    // Taking hold of the knob must not move it; elsewhere it jumps to the pointer.
    grabOffset_ = std::abs(x - knob) <= 6 ? x - knob : 0;
    dragging_ = true;
    if (grabOffset_ == 0) dragTo(x);
}

void SliderTrack::mouseMoveEvent(QMouseEvent* event) {
    if (dragging_) dragTo(event->position().x());
}

void SliderTrack::mouseReleaseEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton || !dragging_) return;
    dragging_ = false;
    Q_EMIT slider_->finished();
}

void SliderTrack::dragTo(double x) {
    slider_->change(valueAt(slider_->spec(), (x - grabOffset_ - endPx) / std::max(1, width() - 2 * endPx)));
}

void SliderTrack::mouseDoubleClickEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton) return;
    dragging_ = false;
    slider_->change(slider_->spec().neutral);
    Q_EMIT slider_->finished();
}

// Digits are keys of the window as well; here they begin a number.
bool SliderTrack::event(QEvent* event) {
    if (event->type() == QEvent::ShortcutOverride && beginsNumber(static_cast<QKeyEvent*>(event))) {
        event->accept();
        return true;
    }
    return QWidget::event(event);
}

void SliderTrack::keyPressEvent(QKeyEvent* event) {
    if (beginsNumber(event)) {
        slider_->field()->typeFirst(event->text());
        return;
    }
    const double size = event->modifiers() & Qt::ShiftModifier ? 10 : event->modifiers() & Qt::AltModifier ? 0.1 : 1;
    switch (event->key()) {
        case Qt::Key_Up:
        case Qt::Key_Right: slider_->stepBy(size); break;
        case Qt::Key_Down:
        case Qt::Key_Left: slider_->stepBy(-size); break;
        default: QWidget::keyPressEvent(event);
    }
}

void SliderTrack::wheelEvent(QWheelEvent* event) {
    // Only the focused slider turns with the wheel; over any other the panel scrolls.
    if (!hasFocus() || event->angleDelta().y() == 0) {
        event->ignore();
        return;
    }
    slider_->stepBy(event->angleDelta().y() / 120.0);
    event->accept();
}

ValueSwitch::ValueSwitch(const base::ParamSpec& spec, QWidget* parent)
    : QWidget(parent), switch_(new Switch(text(spec.label), text(spec.tip), this)) {
    auto* label = new QLabel(text(spec.label), this);
    label->setFixedWidth(labelWidth);
    label->setToolTip(text(spec.tip));
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(4);
    layout->addWidget(label);
    layout->addWidget(switch_);
    layout->addStretch(1);
    setFixedHeight(theme::rowHeight);
    setFocusProxy(switch_);
    connect(switch_, &QAbstractButton::clicked, this, &ValueSwitch::changed);
}

void ValueSwitch::setValue(bool on) {
    switch_->setChecked(on);
}

}  // namespace dimhem::ui
