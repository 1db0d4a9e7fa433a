#include "ui/session/demo_set.h"

#include <QCoreApplication>
#include <QDir>
#include <QFileInfo>

namespace dimhem::ui {

QList<Demo> demoSet() {
    // Beside an installed program, else where it was built from.
    const QString installed = QCoreApplication::applicationDirPath() + "/../share/dimhem/demo";
    const QString folder = QDir(installed).exists() ? installed : QString(DIMHEM_DEMO_DIR);
    const QList<Demo> all = {
        {"tower-dusk",
         "The tower sinks into the dusk: its brick and door are lost, and the cottage has gone cold.",
         {}},
        {"bay-gradient", "The field in front is too dark and the sky too light, with the tower standing in both.", {}},
    };
    QList<Demo> there;
    for (Demo demo : all) {
        demo.path = folder + "/" + demo.name + ".dimhem";
        if (QFileInfo::exists(demo.path)) there.append(demo);
    }
    return there;
}

}  // namespace dimhem::ui
