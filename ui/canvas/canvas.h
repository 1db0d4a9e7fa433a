// The photo in the middle of the window: shows it, and hands what the pointer does to the tool of the selected part.
#pragma once

#include <QPointerEvent>
#include <QWidget>

#include "ui/canvas/asked_gesture.h"
#include "ui/canvas/blink.h"
#include "ui/canvas/brush_dial.h"
#include "ui/canvas/brush_tool.h"
#include "ui/canvas/frame_image.h"
#include "ui/canvas/gradient_tool.h"
#include "ui/canvas/hem_overlay.h"
#include "ui/canvas/inset.h"
#include "ui/canvas/key_pointer.h"
#include "ui/canvas/loupe.h"
#include "ui/canvas/outline_tool.h"
#include "ui/canvas/probe_marks.h"
#include "ui/canvas/radial_tool.h"
#include "ui/canvas/range_tool.h"
#include "ui/canvas/region_tool.h"
#include "ui/canvas/split_line.h"
#include "ui/canvas/wire_tool.h"
#include "ui/control/spoken.h"
#include "ui/session/frame_thread.h"
#include "ui/session/session.h"

namespace dimhem::ui {

class Canvas final : public QWidget, public Spoken {
    Q_OBJECT

public:
    Canvas(Session& session, HemWatch& hem, QWidget* parent = nullptr);

    QAccessible::Role spokenRole() const override { return QAccessible::Graphic; }

    const Viewport& viewport() const { return viewport_; }
    void fit();
    void actualSize();
    void zoomBy(double factor);   // about the pointer
    void lookCloser(bool on);     // 1:1 about the pointer while held, then back
    void setHandHeld(bool held);  // Space: drag pans
    void setLoupeHeld(bool held);
    void setPickHeld(bool held);  // a press picks what the tool works with
    bool setDialHeld(bool held);  // a drag sets the brush; false where there is no brush in hand
    void setModifiers(Qt::KeyboardModifiers modifiers);
    void turnSplit(double degrees);
    void swapSides();
    // The probe that stands at a place of the photo.
    std::optional<std::size_t> probeAt(base::Point place) const;
    // Where the pointer stands, or the key pointer: for what is dropped there.
    std::optional<base::Point> pointedAt() const;
    bool cancelGesture();  // Esc; false where there was none
    bool finishGesture();  // Enter: closes an outline or ends a wire that is being clicked
    void placeInset();     // after it was switched on or off
    bool isWorkedByKeys() const { return hasFocus() && keyPointer_.isThere(); }
    void showFirstLook(const QImage& small);
    // Closer, so that it fills a share of the view's shorter side.
    void lookAt(const base::Rect& photoRect, double share = 0.3);
    void zoomTo(double screenPixels);  // for one pixel of the photo, about the middle

    bool isUpToDate() const { return !requestPending_ && frames_.isIdle(); }
    bool isAtRest() const { return !requestPending_ && frames_.isAtRest(); }  // what a key would show is ready too
    const QImage& overview() const { return frame_.overview(); }
    QColor shownColour(base::Point place) const { return frame_.pixelAt(place); }
    QColor otherColour(base::Point place) const { return other_.pixelAt(place); }  // of the other side
    const SplitLine& splitLine() const { return split_; }
    bool blinksOther() const { return blink_.showsOther(); }

Q_SIGNALS:
    void viewportChanged();
    void renderingChanged(bool running);
    void pointerRead(const dimhem::ui::PointerColours& colours);
    void pointerLeft();
    void pressedAt(base::Point place);
    void filesDropped(const QString& path);
    void menuWanted(QPoint global, base::Point place);
    void numbersWanted(QPoint global, base::Point place);  // of the probe there, else of what is worked on

protected:
    bool event(QEvent* event) override;
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void tabletEvent(QTabletEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void keyReleaseEvent(QKeyEvent* event) override;
    void focusInEvent(QFocusEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void contextMenuEvent(QContextMenuEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;

private:
    void restart();
    void scheduleRequest();
    void sendRequest();
    void refreshCursor();
    PointerEvent eventAt(const QSinglePointEvent& event, double pressure = 1) const;
    PointerEvent eventWith(QPointF screen, Qt::KeyboardModifiers modifiers, quint64 timeMs) const;
    Tool* tool();
    Tool* activeTool();  // the tool whose gesture is running; null: none
    bool showsGrips() const;
    // From a press until its button is up, all that the pointer does belongs to that press: to what pressed, to the
    // side it pressed on and to the tool it pressed with. Nothing else is heard of meanwhile.
    struct Press {
        enum class By { mouse, pen, keys } by = By::mouse;
        Qt::MouseButton button = Qt::NoButton;
        bool onRight = false;  // of two sides beside each other
    };
    bool take(Press::By by, Qt::MouseButton button, QPointF view);  // false: another is held
    bool isHeldBy(Press::By by, Qt::MouseButton button = Qt::NoButton) const;
    bool isHeldByAnother(Press::By by) const { return press_ && press_->by != by; }
    void letGo();  // where the pointer stands, of a press whose end was not told
    void endPan();
    void pressAt(const PointerEvent& event);
    void sayWhyNot();  // nothing is worked on
    void moveAt(const PointerEvent& event);
    void releaseAt(const PointerEvent& event);
    PointerEvent keyEventAt(const QKeyEvent& event) const;
    bool takeKey(QKeyEvent* event, bool pressed);
    void viewMoved();
    bool turnBrush(const QWheelEvent& event);  // false: the wheel is not for the brush
    bool isOnRight(QPointF view) const { return view.x() >= width() / 2.0; }
    bool isDoublePress(const PointerEvent& event);
    bool pressPenButton(const QTabletEvent& event, const PointerEvent& pen);  // false: it means nothing here
    bool releasePenButton(const QTabletEvent& event, const PointerEvent& pen);
    bool asksForNumbers(const PointerEvent& event);
    // Beside each other, each side has half of the view; a place of the view in its half, and where the halves begin.
    bool isBeside() const { return session_.showsBoth() && session_.look() == Look::beside; }
    bool isSplit() const;
    bool isBrushing();
    QSize paneSize() const;
    QPointF inPane(QPointF view) const;
    void refreshPanes();
    void paintSides(QPainter& painter);
    void paintTools(QPainter& painter);
    QString resultName() const;
    QString otherName() const;
    QString legendName() const;
    std::vector<render::FrameRequest> readyFor(const render::FrameRequest& frame) const;

    Session& session_;
    Viewport viewport_;
    FrameImage frame_, other_;
    QImage firstLook_;
    Inset* inset_;
    BrushTool brushTool_;
    BrushDial brushDial_;
    GradientTool gradientTool_;
    RadialTool radialTool_;
    OutlineTool outlineTool_;
    WireTool wireTool_;
    RangeTool rangeTool_;
    UnsureWatch unsure_;
    RegionTool regionTool_;
    HemOverlay hemOverlay_;
    AskedGesture asked_;
    KeyPointer keyPointer_;
    ProbeMarks probes_;
    SplitLine split_;
    Blink blink_;
    Loupe loupe_;
    bool swapped_ = false;  // the sides beside each other
    bool focusByKeys_ = false;
    Stitches stitches_;
    Tool* lastTool_ = nullptr;  // whose gesture ran last
    std::optional<Press> press_;
    std::optional<PointerEvent> lastPress_;  // of a pen, to know a double press
    std::optional<PointerEvent> pointer_;
    std::optional<QPointF> panFrom_;
    std::optional<Viewport> beforeCloser_;
    bool handHeld_ = false, pickHeld_ = false;
    int brushTurned_ = 0;  // by the wheel, in eighths of a degree: less than a step yet
    bool requestPending_ = false;
    // Until the corrections of a document that was just opened are there: what is in sight without them.
    enum class Without { nothing, yetAPicture, corrections } without_ = Without::nothing;
    void paintWithout(QPainter& painter);
    FrameThread frames_;
};

}  // namespace dimhem::ui
