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
        {"harmonium",
         "The keys have yellowed, and two of them are stained; felt, brass and wood are as they should be.",
         {}},
        {"figurehead",
         "Two red patches that do not belong on the painted face, and a greenish cast in the glass eyes.",
         {}},
        {"green-sweep",
         "A lantern cut out before a green sweep, whose light still lies on its rims and underside.",
         {}},
        {"boathouse-print", "An old print: faded, and light has leaked in from the right.", {}},
        {"headlands", "Haze over the bay hides the headlands; the trees on the near shore are clear.", {}},
        {"chart-table", "Hard shadows of window bars lie across the chart, and the glaze of the mug is blown out.", {}},
    };
    QList<Demo> there;
    for (Demo demo : all) {
        demo.path = folder + "/" + demo.name + ".dimhem";
        if (QFileInfo::exists(demo.path)) there.append(demo);
    }
    return there;
}

}  // namespace dimhem::ui
