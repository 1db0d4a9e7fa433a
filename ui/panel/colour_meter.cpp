#include "ui/panel/colour_meter.h"

#include <QLabel>
#include <QPainter>
#include <QPainterPath>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "core/colour/lab.h"
#include "core/colour/srgb.h"
#include "ui/control/fold.h"
#include "ui/control/theme.h"

namespace dimhem::ui {

namespace {

constexpr int plotHeight = 56, swatchWidth = 26;

QColor colourOf(const adjust::ColourSpread& spread) {
    const colour::EncodedRgb c = colour::encodedFromLinear(
        colour::linearFromXyz(colour::xyzFromLab({spread.mean[0], spread.mean[1], spread.mean[2]})));
    const auto channel = [](double v) { return static_cast<float>(std::clamp(v, 0.0, 1.0)); };
    return QColor::fromRgbF(channel(c.r), channel(c.g), channel(c.b));
}

}  // namespace

// Tones from dark to light: before filled, after as a line; at its right the mean colour before over after.
class TonePlot final : public QWidget {
public:
    explicit TonePlot(QWidget* parent) : QWidget(parent) { setFixedHeight(plotHeight); }
    void setColours(const task::MaskedColours* colours) {
        colours_ = colours ? std::optional(*colours) : std::nullopt;
        update();
    }

protected:
    void paintEvent(QPaintEvent*) override {
        QPainter painter(this);
        painter.setRenderHint(QPainter::Antialiasing);
        const QRectF ground(0, 0, width() - swatchWidth - 6, height());
        painter.fillRect(ground, QColor(theme::field));
        if (!colours_) return;
        const auto& was = colours_->before.tones;
        const auto& is = colours_->after.tones;
        const double top = std::max(*std::max_element(was.begin(), was.end()), *std::max_element(is.begin(), is.end()));
        const auto outline = [&](const std::vector<double>& bins) {
            QPainterPath path(ground.bottomLeft());
            for (std::size_t i = 0; i < bins.size(); ++i) {
                const double x =
                    ground.left() + (static_cast<double>(i) + 0.5) / static_cast<double>(bins.size()) * ground.width();
                path.lineTo(x, ground.bottom() - (top > 0 ? std::sqrt(bins[i] / top) : 0) * (ground.height() - 4));
            }
            path.lineTo(ground.bottomRight());
            return path;
        };
        painter.fillPath(outline(was), QColor(0x4c, 0x4c, 0x4c));
        painter.setPen(QPen(QColor(theme::bright), 1.2));
        painter.drawPath(outline(is));
        const QRectF swatch(width() - swatchWidth, 0, swatchWidth, height());
        painter.fillRect(swatch.adjusted(0, 0, 0, -height() / 2.0), colourOf(colours_->before.lab));
        painter.fillRect(swatch.adjusted(0, height() / 2.0, 0, 0), colourOf(colours_->after.lab));
    }

private:
    std::optional<task::MaskedColours> colours_;
};

QString meterWords(const task::MaskedColours& colours) {
    const auto& was = colours.before.lab.mean;
    const auto& is = colours.after.lab.mean;
    const double before = std::hypot(was[1], was[2]), after = std::hypot(is[1], is[2]);
    QString text = QObject::tr("L* %1 to %2, chroma %3 to %4")
                       .arg(was[0], 0, 'f', 0)
                       .arg(is[0], 0, 'f', 0)
                       .arg(before, 0, 'f', 1)
                       .arg(after, 0, 'f', 1);
    constexpr double aCast = 3, hardly = 1;  // CIELAB chroma
    constexpr double newlyPct = 0.5;
    if (before > aCast && after > hardly && was[1] * is[1] + was[2] * is[2] < 0) text += QObject::tr(" · past neutral");
    if (before > aCast && after <= hardly) text += QObject::tr(" · grey: no colour is left");
    const double clipped = colours.newlyPct[static_cast<std::size_t>(check::Fault::clipped)];
    if (clipped > newlyPct) text += QObject::tr(" · %1 % newly clipped").arg(clipped, 0, 'f', 1);
    return text;
}

QString meterWords(const task::MaskedNoise& noise) {
    QString text = QObject::tr("Noise %1 to %2, in colour %3 to %4 levels")
                       .arg(noise.before.luminance, 0, 'f', 1)
                       .arg(noise.after.luminance, 0, 'f', 1)
                       .arg(noise.before.colour, 0, 'f', 1)
                       .arg(noise.after.colour, 0, 'f', 1);
    if (noise.beside) text += QObject::tr(" · beside %1").arg(*noise.beside, 0, 'f', 1);
    if (noise.before.hazePct && noise.after.hazePct)
        text += QObject::tr(" · haze %1 to %2 %")
                    .arg(*noise.before.hazePct, 0, 'f', 0)
                    .arg(*noise.after.hazePct, 0, 'f', 0);
    return text;
}

ColourMeter::ColourMeter(Session& session, const ColourWatch& colours, const NoiseWatch& noise, QWidget* parent)
    : QWidget(parent),
      session_(session),
      colours_(colours),
      noise_(noise),
      fold_(new Fold(tr("Colours"), "colours", tr("Tones and colours under the mask, before and after"), this,
                     Fold::First::open)),
      plot_(new TonePlot(fold_->body())),
      words_(new QLabel(fold_->body())) {
    setAccessibleName(tr("Colours under the mask"));
    setToolTip(
        tr("Tones of the masked area, dark to light: filled before this correction, the line after it. Beside "
           "them its mean colour, before above after."));
    words_->setObjectName("meter-words");
    words_->setProperty("quiet", true);
    words_->setWordWrap(true);
    words_->setMinimumHeight(2 * words_->fontMetrics().height());
    words_->setAlignment(Qt::AlignTop);
    plot_->setToolTip(toolTip());
    fold_->rows()->setSpacing(4);
    fold_->rows()->addWidget(plot_);
    fold_->rows()->addWidget(words_);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(12, 4, 12, 6);
    layout->addWidget(fold_);
    connect(&colours_, &ColourWatch::changed, this, &ColourMeter::refresh);
    connect(&noise_, &NoiseWatch::changed, this, &ColourMeter::refresh);
    connect(&session_, &Session::selectionChanged, this, &ColourMeter::refresh);
    connect(&session_, &Session::opened, this, &ColourMeter::refresh);
    refresh();
}

QString ColourMeter::text() const {
    return words_->text();
}

void ColourMeter::refresh() {
    setVisible(session_.isOpen() && session_.correction());
    const task::MaskedColours* colours = colours_.colours();
    plot_->setColours(colours);
    QString words = colours ? meterWords(*colours) : tr("The mask covers nothing yet.");
    if (colours && noise_.noise()) words += "\n" + meterWords(*noise_.noise());
    words_->setText(words);
    fold_->setSummary(words);
    setAccessibleDescription(words_->text());
}

}  // namespace dimhem::ui
