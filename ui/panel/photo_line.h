// The line under the photo: the hem check at the left; at the right the colour under the pointer, before and now, or
// the work that is running, with its Cancel.
#pragma once

#include <QWidget>

#include "ui/session/pointer_colours.h"

class QLabel;
class QToolButton;

namespace dimhem::ui {

class HemLine;
class NotesLine;
class Readout;

class PhotoLine final : public QWidget {
    Q_OBJECT

public:
    PhotoLine(HemLine* hem, NotesLine* notes, QWidget* parent);
    // Empty: none. `cancelTip` says what cancelling leaves behind; empty: it cannot be cancelled.
    void setJob(const QString& job, const QString& cancelTip);
    void showPointer(const PointerColours& colours);
    void clearPointer();

Q_SIGNALS:
    void cancelWanted();

protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    HemLine* hem_;
    Readout* readout_;
    QLabel* job_;
    QToolButton* cancel_;
};

}  // namespace dimhem::ui
