// The photos the program ships to be tried on.
#pragma once

#include <QList>
#include <QString>

namespace dimhem::ui {

struct Demo {
    QString name;      // also of its document, without ending
    QString sentence;  // what is wrong with it
    QString path;      // of its document
};

// Those that are there, in the order they are shown.
QList<Demo> demoSet();

}  // namespace dimhem::ui
