// A window of its own, for a second screen: the finished picture, whole or at actual size, as it is being worked on.
// Nothing is drawn over it and nothing is edited in it.
//
// Dragging and the wheel look elsewhere, Ctrl and the wheel zoom, a double click goes from the whole photo to actual
// size and back; at actual size it goes where the photo is pressed in the main window. Keys that zoom act here; all
// others do what they do in the main window.
#pragma once

#include <QWidget>

#include "ui/canvas/frame_image.h"
#include "ui/session/frame_thread.h"
#include "ui/session/session.h"

namespace dimhem::ui {

class SecondView final : public QWidget {
    Q_OBJECT

public:
    SecondView(Session& session, QWidget* window);

    const Viewport& viewport() const { return viewport_; }
    bool isUpToDate() const { return !isVisible() || (!requestPending_ && frames_.isIdle()); }
    void showPlace(base::Point place);  // brought in sight
    void refresh();

Q_SIGNALS:
    void keyUnused(const QKeyEvent& event);  // for the window's keys

protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void showEvent(QShowEvent* event) override;
    void closeEvent(QCloseEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    void restart();
    void placeOnOtherScreen();
    void switchSize(QPointF about);
    bool zoomByKey(const QKeyEvent& event);
    void sendRequest();

    Session& session_;
    Viewport viewport_;
    FrameImage frame_;
    std::optional<QPointF> panFrom_;
    bool requestPending_ = false;
    FrameThread frames_;
};

}  // namespace dimhem::ui
