// The hem check, in the line below the photo: how much the selected mask spills and is short, its gaps and specks. A
// click on one goes to the next place of that kind; what is looked at can be put right there.
#pragma once

#include <QWidget>

#include "ui/session/hem_watch.h"

class QLabel;
class QPushButton;
class QToolButton;

namespace dimhem::ui {

class HemLine final : public QWidget {
    Q_OBJECT

public:
    HemLine(HemWatch& hem, QWidget* parent);
    QString inWords() const;  // the figures as one sentence, to be said
    void fitInto(int width);  // where that is too narrow, what has a key as well goes first

private:
    void refresh();
    QToolButton* addCount(const QString& objectName, const QString& tip, check::FindingKind kind);

    void hideWhatHasNoRoom();

    HemWatch& hem_;
    int room_ = 1 << 20;
    QLabel *title_, *state_, *found_;
    QToolButton *spill_, *short_, *gaps_, *specks_, *next_, *map_;
    QPushButton* mend_;
};

}  // namespace dimhem::ui
