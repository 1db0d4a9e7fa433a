#include <QApplication>
#include <QCommandLineParser>
#include <QSettings>
#include <QTemporaryDir>
#include <QTimer>
#include <cstdio>

#include "core/base/heap.h"
#include "core/base/parallel.h"
#include "ui/control/theme.h"
#include "ui/main_window.h"
#include "ui/screenshot.h"
#include "ui/session/demo_set.h"
#include "ui/session/preferences.h"
#include "ui/stop_signals.h"

namespace {

QSize sizeOf(const QString& text) {
    const QStringList parts = text.split('x');
    const QSize size = parts.size() == 2 ? QSize(parts[0].toInt(), parts[1].toInt()) : QSize();
    return size.width() >= 320 && size.height() >= 240 && size.width() <= 16384 && size.height() <= 16384 ? size
                                                                                                          : QSize();
}

int wrongUsage(const QString& sentence) {
    std::fprintf(stderr, "dimhem: %s\n", qPrintable(sentence));
    return 2;
}

}  // namespace

int main(int argc, char** argv) {
    dimhem::base::keepBlocksInHeap();
    const dimhem::base::SpareThreads spareThreads;
    const sigset_t stops = dimhem::ui::blockStopSignals();
    QApplication application(argc, argv);
    QApplication::setOrganizationName("dimhem");
    QApplication::setApplicationName("dimhem");
    QApplication::setApplicationVersion(DIMHEM_VERSION);
    dimhem::ui::applyTheme(application, dimhem::ui::interfaceSizePct());

    QCommandLineParser parser;
    parser.setApplicationDescription("Corrects part of a photo without spilling past its edge.");
    parser.addHelpOption();
    parser.addVersionOption();
    parser.addPositionalArgument("file", "A photo or document to open.", "[file]");
    const QCommandLineOption demo("demo", "Open a demo photo.", "name");
    const QCommandLineOption screenshot("screenshot", "Write a picture of the window once it has settled, and leave.",
                                        "file");
    const QCommandLineOption size("size", "Size of the window for --screenshot.", "WxH", "1280x800");
    parser.addOptions({demo, screenshot, size});
    parser.process(application);

    QString file = parser.positionalArguments().value(0);
    if (parser.isSet(demo)) {
        for (const dimhem::ui::Demo& known : dimhem::ui::demoSet()) {
            if (known.name == parser.value(demo)) file = known.path;
        }
        if (file.isEmpty()) return wrongUsage("There is no demo photo named \"" + parser.value(demo) + "\".");
    }
    const QSize windowSize = sizeOf(parser.value(size));
    if (!windowSize.isValid()) return wrongUsage("--size takes a size such as 1280x800.");

    // A picture for the record shows neither what this person opened last nor where their window stood.
    const QTemporaryDir emptySettings;
    if (parser.isSet(screenshot))
        QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, emptySettings.path());

    dimhem::ui::MainWindow window;
    // The window ends at once, with unsaved work in its journal.
    dimhem::ui::onStopSignal(stops, window, [&window] { window.endAtOnce(); });
    if (!file.isEmpty()) QTimer::singleShot(0, &window, [&] { window.openFile(file); });
    if (parser.isSet(screenshot)) {
        QTimer::singleShot(0, &window,
                           [&] { dimhem::ui::takeScreenshot(window, parser.value(screenshot), windowSize); });
    } else {
        window.show();
    }
    return QApplication::exec();
}
