#include "ui/panel/readout.h"

#include <QPainter>
#include <algorithm>

#include "ui/control/theme.h"

namespace dimhem::ui {

Readout::Readout(QWidget* parent) : QWidget(parent) {
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
}

void Readout::setWordings(const QStringList& longestFirst) {
    if (wordings_ == longestFirst) return;
    wordings_ = longestFirst;
    setAccessibleName(wordings_.isEmpty() ? QString() : wordings_.front());
    update();
}

void Readout::paintEvent(QPaintEvent*) {
    const auto fits = std::find_if(wordings_.begin(), wordings_.end(), [this](const QString& wording) {
        return fontMetrics().horizontalAdvance(wording) <= width();
    });
    if (fits == wordings_.end()) return;
    QPainter painter(this);
    painter.setPen(QColor(theme::text));
    painter.drawText(rect(), Qt::AlignRight | Qt::AlignVCenter, *fits);
}

}  // namespace dimhem::ui
