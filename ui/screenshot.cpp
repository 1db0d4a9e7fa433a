#include "ui/screenshot.h"

#include <QApplication>
#include <QTimer>
#include <cstdio>

#include "ui/main_window.h"

namespace dimhem::ui {

void takeScreenshot(MainWindow& window, const QString& file, QSize size) {
    window.resize(size);
    window.show();
    auto* timer = new QTimer(&window);
    auto* calm = new int(0);  // lives as long as the program, which ends with the picture
    QObject::connect(timer, &QTimer::timeout, &window, [&window, file, calm] {
        // Settled for a few looks in a row: what one part finishes may start another.
        *calm = window.isSettled() ? *calm + 1 : 0;
        if (*calm < 4) return;
        const bool written = window.grab().save(file, "PNG");
        if (!written) std::fprintf(stderr, "dimhem: \"%s\" could not be written.\n", qPrintable(file));
        if (!window.message().isEmpty()) std::fprintf(stderr, "dimhem: %s\n", qPrintable(window.message()));
        QApplication::exit(written ? 0 : 1);
    });
    timer->start(60);
}

}  // namespace dimhem::ui
