#include "ui/bound/stay_in_sight.h"

#include "ui/control/icon.h"

namespace dimhem::ui {

QPushButton* stayInSightButton(Session& session, const Session::LeftInSight& what, const QString& tip,
                               QWidget* parent) {
    auto* stays = new QPushButton(icon("maximize"), QObject::tr("Stay in sight"), parent);
    stays->setObjectName("stay-in-sight");
    stays->setAccessibleName(stays->text());
    stays->setToolTip(tip);
    stays->setCheckable(true);
    QObject::connect(stays, &QPushButton::clicked, &session,
                     [&session, what](bool on) { session.leaveInSight(on ? what : Session::LeftInSight{}); });
    const auto show = [&session, stays, what] { stays->setChecked(session.leftInSight() == what); };
    QObject::connect(&session, &Session::viewChanged, stays, show);
    show();
    return stays;
}

}  // namespace dimhem::ui
