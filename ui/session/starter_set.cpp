#include "ui/session/starter_set.h"

#include <QCoreApplication>
#include <QDir>
#include <QStandardPaths>

namespace dimhem::ui {

std::filesystem::path shippedStartersFolder() {
    // Beside an installed program, else where it was built from.
    const QString installed = QCoreApplication::applicationDirPath() + "/../share/dimhem/starters";
    return (QDir(installed).exists() ? installed : QString(DIMHEM_STARTERS_DIR)).toStdString();
}

std::filesystem::path ownStartersFolder() {
    return (QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + "/starters").toStdString();
}

}  // namespace dimhem::ui
