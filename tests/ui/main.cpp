#include <gtest/gtest.h>

#include <QApplication>
#include <QSettings>
#include <QTemporaryDir>

#include "ui/control/theme.h"

int main(int argc, char** argv) {
    testing::InitGoogleTest(&argc, argv);
    // Without a word about it, no display is needed.
    if (qEnvironmentVariableIsEmpty("QT_QPA_PLATFORM")) qputenv("QT_QPA_PLATFORM", "offscreen");
    QApplication application(argc, argv);
    QApplication::setOrganizationName("dimhem");
    QApplication::setApplicationName("dimhem-test");
    const QTemporaryDir settings;  // none of the person's own
    if (qEnvironmentVariableIsEmpty("XDG_STATE_HOME")) qputenv("XDG_STATE_HOME", settings.filePath("state").toUtf8());
    qputenv("XDG_CACHE_HOME", settings.filePath("cache").toUtf8());
    QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, settings.path());
    dimhem::ui::applyTheme(application);
    return RUN_ALL_TESTS();
}
