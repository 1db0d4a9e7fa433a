// A picture of the real window, taken once everything in it has settled.
#pragma once

#include <QSize>
#include <QString>

namespace dimhem::ui {

class MainWindow;

// Waits for the window to settle, writes the PNG and leaves the program with 0, or with 1 and a sentence where
// something went wrong.
void takeScreenshot(MainWindow& window, const QString& file, QSize size);

}  // namespace dimhem::ui
