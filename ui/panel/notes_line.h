// The line below the photo: its size, the zoom, what is being worked on, and the colour under the pointer, before and
// now.
#pragma once

#include <QWidget>

#include "ui/session/frame_thread.h"
#include "ui/session/session.h"

class QLabel;
class QToolButton;

namespace dimhem::ui {

class NotesLine final : public QWidget {
    Q_OBJECT

public:
    NotesLine(Session& session, QWidget* parent);
    void setZoom(double zoom);
    void setRendering(bool rendering);
    void setJob(const QString& job);  // empty: none
    void showPointer(const PointerColours& colours);
    void clearPointer();

Q_SIGNALS:
    void cancelWanted();

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    void refresh();
    Session& session_;
    QLabel *state_, *pointer_;
    QToolButton* cancel_;
    double zoom_ = 1;
    bool rendering_ = false;
    QString job_;
};

}  // namespace dimhem::ui
