#include "ui/part/rows.h"

#include <QLabel>

#include "ui/bound/stay_in_sight.h"
#include "ui/control/fold.h"
#include "ui/control/segmented.h"

namespace dimhem::ui {

void addLabelled(const SettingsBuilder& b, const QString& text, QWidget* control) {
    b.layout->addWidget(new LabelledRow(text, control, b.body));
}

QLabel* addHint(const SettingsBuilder& b, const QString& text) {
    auto* label = new QLabel(text, b.body);
    label->setProperty("quiet", true);
    label->setWordWrap(true);
    b.layout->addSpacing(6);
    b.layout->addWidget(label);
    return label;
}

SettingsBuilder addMore(const SettingsBuilder& b) {
    auto* fold = new Fold(QObject::tr("More"), "more", QObject::tr("Settings that are rarely changed"), b.body);
    b.layout->addWidget(fold);
    return {b.session, b.target, fold->rows(), fold->body(), b.onRefresh};
}

void addStaysInSight(const SettingsBuilder& b) {
    if (b.target.of != &mask::Part::shape) return;
    const QString tip = QObject::tr("This part alone is shown while you look round, until it is pressed again.");
    b.layout->addWidget(stayInSightButton(b.session, {{}, b.target.part}, tip, b.body), 0, Qt::AlignLeft);
}

void addMeasured(const SettingsBuilder& b, const std::function<mask::Seen()>& current,
                 const std::function<void(mask::Seen)>& choose) {
    auto* measured = new Segmented(
        QObject::tr("Measured on"),
        {{QObject::tr("photo"), QObject::tr("The untouched photo: other corrections do not move the mask")},
         {QObject::tr("as it arrives"), QObject::tr("The picture as the corrections before this one have made it")}},
        b.body);
    b.onRefresh([measured, current] { measured->setCurrent(current() == mask::Seen::arriving ? 1 : 0); });
    QObject::connect(measured, &Segmented::chosen, &b.session,
                     [choose](int index) { choose(index == 1 ? mask::Seen::arriving : mask::Seen::photo); });
    addLabelled(b, QObject::tr("Measured on"), measured);
}

}  // namespace dimhem::ui
