// What the result is held against: the photo, the picture without the selected correction, the document as saved, or a
// kept state; and keeping such states.
#pragma once

#include <QMenu>

#include "ui/session/session.h"

namespace dimhem::ui {

class CompareMenu final : public QMenu {
    Q_OBJECT

public:
    CompareMenu(Session& session, QWidget* parent);
    static QString nameOf(const Session& session);  // of what is chosen

    void keepState();

Q_SIGNALS:
    void swapWanted();
    void turnWanted(double degrees);

private:
    void fill();
    void addChoice(QMenu* menu, const QString& text, const QString& tip, const Against& against);
    void fillStates();
    void askForName(std::size_t index);

    Session& session_;
};

}  // namespace dimhem::ui
