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
#include "ui/text/words.h"

namespace dimhem::ui {

namespace {

constexpr int endPx = 3;  // of the track left and right of its ends
constexpr int trackUp = 5, trackZone = 10,
              trackHeight = 7;  // from the row's lower edge: its line, and where a press jumps to it
constexpr double fine = 0.1;    // of a drag with Shift, or that far from the row and more
constexpr double fineFromPx = 40, fineAllPx = 120;
constexpr double flatness = 1.0 / 3;  // at the neutral value, of a scale spread about it

QString rangeTip(const base::ParamSpec& spec) {
    return QObject::tr("%1\n%2 to %3; double click for %4. Shift drags finely.")
        .arg(words(spec.tip), shownValue(spec, spec.min), shownValue(spec, spec.max), shownValue(spec, spec.neutral));
}

QString spokenName(const base::ParamSpec& spec) {
    return spec.unit.empty() ? words(spec.label) : QObject::tr("%1 in %2").arg(words(spec.label), idText(spec.unit));
}

// Of a share u of the way from the neutral value to an end of the track, the share of the values; and back, which is
// the one real root of u^3 (1 - f) + u f = w (Viete's form by the hyperbolic sine).
double spread(double u) {
    return u * (flatness + (1 - flatness) * u * u);
}
double gathered(double w) {
    const double p = flatness / (1 - flatness), q = w / (1 - flatness);
    return 2 * std::sqrt(p / 3) * std::sinh(std::asinh(1.5 * q / p * std::sqrt(3 / p)) / 3);
}

}  // namespace

ValueSlider::ValueSlider(const base::ParamSpec& spec, QWidget* parent)
    : QWidget(parent),
      spec_(spec),
      value_(spec.neutral),
      track_(new SliderTrack(this)),
      field_(new EntryField({}, this)) {
    track_->setToolTip(rangeTip(spec));
    field_->setToolTip(rangeTip(spec));
    field_->setProperty("flat", true);
    field_->setFocusPolicy(Qt::ClickFocus);  // a digit typed on the row begins a number: one stop of Tab is enough
    field_->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    track_->setAccessibleName(spokenName(spec));
    field_->setAccessibleName(spokenName(spec));
    setFixedHeight(theme::rowHeight());
    setMinimumWidth(110);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
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

void ValueSlider::resizeEvent(QResizeEvent*) {
    track_->setGeometry(rect());
    const QFontMetrics metrics = field_->fontMetrics();
    const int wide = std::max(metrics.horizontalAdvance(shownValue(spec_, spec_.min)),
                              metrics.horizontalAdvance(shownValue(spec_, spec_.max)));
    const int fieldWidth = std::min(wide + 14, width() / 2);
    field_->setGeometry(width() - fieldWidth, 0, fieldWidth, theme::rowHeight() - trackHeight);
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
    const auto value = typedValue(spec_, field_->text());
    const double before = value_;
    if (value) change(*value);
    showValue();
    if (value_ != before) Q_EMIT finished();
}

void ValueSlider::showValue() {
    if (!field_->hasFocus() || !field_->isModified()) field_->setText(shownValue(spec_, value_));
    track_->update();
    sayChanged(track_);
}

SliderTrack::SliderTrack(ValueSlider* slider) : QWidget(slider), slider_(slider) {
    setFocusPolicy(Qt::StrongFocus);
    setCursor(Qt::SizeHorCursor);
}

namespace {

double neutralPlace(const base::ParamSpec& spec) {
    return (spec.neutral - spec.min) / (spec.max - spec.min);
}

double rounded(double value, double grid) {
    return std::round(value / grid) * grid;
}

}  // namespace

double SliderTrack::placeOf(const base::ParamSpec& spec, double value) {
    switch (spec.scale) {
        case base::Scale::linear: break;
        case base::Scale::logarithmic: return std::log(value / spec.min) / std::log(spec.max / spec.min);
        case base::Scale::reciprocal: return (1 / spec.min - 1 / value) / (1 / spec.min - 1 / spec.max);
        case base::Scale::aboutNeutral: {
            const double end = value < spec.neutral ? spec.min : spec.max, neutral = neutralPlace(spec);
            if (value == spec.neutral) return neutral;
            const double u = gathered((value - spec.neutral) / (end - spec.neutral));
            return neutral + u * ((value < spec.neutral ? 0 : 1) - neutral);
        }
    }
    return (value - spec.min) / (spec.max - spec.min);
}

double SliderTrack::valueAt(const base::ParamSpec& spec, double place) {
    place = std::clamp(place, 0.0, 1.0);
    double value = spec.min + place * (spec.max - spec.min);
    if (spec.scale == base::Scale::logarithmic) value = spec.min * std::pow(spec.max / spec.min, place);
    if (spec.scale == base::Scale::reciprocal) value = 1 / (1 / spec.min - place * (1 / spec.min - 1 / spec.max));
    if (spec.scale == base::Scale::aboutNeutral && place != neutralPlace(spec)) {
        const double neutral = neutralPlace(spec), end = place < neutral ? spec.min : spec.max;
        value = spec.neutral + spread((place - neutral) / ((place < neutral ? 0 : 1) - neutral)) * (end - spec.neutral);
    }
    return base::clamped(spec, value);
}

double SliderTrack::xOf(double value) const {
    return endPx + placeOf(slider_->spec(), value) * (width() - 2 * endPx);
}

std::optional<SpokenValue> SliderTrack::spokenValue() const {
    const base::ParamSpec& spec = slider_->spec();
    return SpokenValue{slider_->value(), spec.min, spec.max, spec.step};
}

void SliderTrack::setSpokenValue(double value) {
    slider_->change(value);
    Q_EMIT slider_->finished();
}

void SliderTrack::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const double y = height() - trackUp, x = xOf(slider_->value()), neutral = xOf(slider_->spec().neutral);
    const bool on = isEnabled();
    const QRect place(0, 0, slider_->field()->x() - 2, theme::rowHeight() - trackHeight);
    painter.setPen(QColor(on ? theme::text : theme::off));
    painter.drawText(place, Qt::AlignVCenter,
                     fontMetrics().elidedText(words(slider_->spec().label), Qt::ElideRight, place.width()));
    painter.setPen(QPen(QColor(theme::edge), 1.5));
    painter.drawLine(QPointF(endPx, y), QPointF(width() - endPx, y));
    painter.setPen(QPen(QColor(theme::quiet), 1));
    painter.drawLine(QPointF(neutral, y - 3), QPointF(neutral, y + 3));
    painter.setPen(QPen(QColor(on ? 0xffc8c8c8 : theme::edge), 2));
    if (std::abs(x - neutral) > 1) painter.drawLine(QPointF(neutral, y), QPointF(x, y));
    painter.setPen(Qt::NoPen);
    painter.setBrush(QColor(on ? (hasFocus() ? theme::bright : 0xffd0d0d0) : theme::edge));
    painter.drawRoundedRect(hasFocus() ? QRectF(x - 3, y - 5, 6, 10) : QRectF(x - 2, y - 4, 4, 8), 2, 2);
}

void SliderTrack::mousePressEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton) return;
    const double x = event->position().x(), knob = xOf(slider_->value());
    dragging_ = true;
    takeDigits(*this, false);  // a number is typed in the field
    lastX_ = x;
    place_ = placeOf(slider_->spec(), slider_->value());
    // Taking hold of the knob, or of the row above the track, must not move it.
    if (event->position().y() < height() - trackZone || std::abs(x - knob) <= 6) return;
    place_ = (x - endPx) / std::max(1, width() - 2 * endPx);
    slider_->change(rounded(valueAt(slider_->spec(), place_), slider_->spec().step));
}

void SliderTrack::mouseMoveEvent(QMouseEvent* event) {
    if (!dragging_) return;
    const double y = event->position().y(), off = std::max(-y, y - height());
    const double far = std::clamp((off - fineFromPx) / (fineAllPx - fineFromPx), 0.0, 1.0);
    const double speed = event->modifiers() & Qt::ShiftModifier ? fine : 1 + far * (fine - 1);
    place_ += (event->position().x() - lastX_) / std::max(1, width() - 2 * endPx) * speed;
    lastX_ = event->position().x();
    const base::ParamSpec& spec = slider_->spec();
    const double grid = speed < 0.5 ? std::min(spec.step, std::pow(10.0, -spec.decimals)) : spec.step;
    slider_->change(rounded(valueAt(spec, place_), grid));
}

void SliderTrack::mouseReleaseEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton || !dragging_) return;
    dragging_ = false;
    Q_EMIT slider_->finished();
}

void SliderTrack::mouseDoubleClickEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton) return;
    dragging_ = false;
    slider_->change(slider_->spec().neutral);
    Q_EMIT slider_->finished();
}

void SliderTrack::focusInEvent(QFocusEvent* event) {
    const Qt::FocusReason reason = event->reason();
    if (reason == Qt::TabFocusReason || reason == Qt::BacktabFocusReason) takeDigits(*this, true);
    update();
}

bool SliderTrack::event(QEvent* event) {
    if (event->type() == QEvent::ShortcutOverride && beginsNumber(*this, *static_cast<QKeyEvent*>(event))) {
        event->accept();
        return true;
    }
    return QWidget::event(event);
}

void SliderTrack::keyPressEvent(QKeyEvent* event) {
    if (beginsNumber(*this, *event)) {
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
    // By itself the wheel scrolls the panel, wherever the pointer comes past.
    if (!(event->modifiers() & Qt::ControlModifier) || event->angleDelta().y() == 0) {
        event->ignore();
        return;
    }
    slider_->stepBy(event->angleDelta().y() / 120.0);
    event->accept();
}

ValueSwitch::ValueSwitch(const base::ParamSpec& spec, QWidget* parent)
    : QWidget(parent), switch_(new Switch(words(spec.label), words(spec.tip), this)) {
    auto* label = new QLabel(words(spec.label), this);
    label->setWordWrap(true);
    label->setToolTip(words(spec.tip));
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(0, 0, 2, 0);
    layout->addWidget(label, 1);
    layout->addWidget(switch_);
    setMinimumHeight(theme::rowHeight());
    setFocusProxy(switch_);
    connect(switch_, &QAbstractButton::clicked, this, &ValueSwitch::changed);
}

// The whole row is the switch.
void ValueSwitch::mouseReleaseEvent(QMouseEvent* event) {
    if (event->button() == Qt::LeftButton && rect().contains(event->pos())) switch_->click();
}

void ValueSwitch::setValue(bool on) {
    switch_->setChecked(on);
}

}  // namespace dimhem::ui
