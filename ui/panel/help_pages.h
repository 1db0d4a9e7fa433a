// The short pages of the help: one for each panel and for what a newcomer asks first.
#pragma once

#include <QList>
#include <QString>

namespace dimhem::ui {

struct HelpPage {
    QString id;  // also the name of its picture in the resources, :/help/ID.svg
    QString title;
    QString text;  // paragraphs, one a line
};

QList<HelpPage> helpPages();

}  // namespace dimhem::ui
