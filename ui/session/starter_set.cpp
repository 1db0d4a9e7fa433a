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

static std::filesystem::path ownFolder(const char* name) {
    return std::filesystem::path(QStandardPaths::writableLocation(QStandardPaths::AppDataLocation).toStdString()) /
           name;
}

std::filesystem::path ownStartersFolder() {
    return ownFolder("starters");
}

std::filesystem::path keptSettingsFolder() {
    return ownFolder("kept-settings");
}

}  // namespace dimhem::ui
