#include "ui/canvas/second_view.h"

#include <QGuiApplication>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QScreen>
#include <QSettings>
#include <cmath>

#include "ui/session/key_table.h"
#include "ui/session/preferences.h"

namespace dimhem::ui {

namespace {

constexpr char geometryKey[] = "second-view/geometry";

}  // namespace

SecondView::SecondView(Session& session, QWidget* window) : QWidget(window, Qt::Window), session_(session) {
    setObjectName("second-view");
    setWindowTitle(tr("Second view – Dim Hem"));
    setAccessibleName(tr("Second view of the photo"));
    setToolTip(tr("Double-click: whole photo or actual size. Drag: look elsewhere."));
    setProperty("takesSpace", true);
    setMinimumSize(160, 120);
    setFocusPolicy(Qt::StrongFocus);
    resize(900, 640);
    if (const QByteArray kept = QSettings().value(geometryKey).toByteArray(); !kept.isEmpty()) {
        restoreGeometry(kept);
    } else {
        placeOnOtherScreen();
    }
    connect(&session_, &Session::opened, this, &SecondView::restart);
    connect(&session_, &Session::pictureChanged, this, &SecondView::refresh);
    connect(&session_, &Session::viewChanged, this, &SecondView::refresh);
    connect(&frames_, &FrameThread::tileReady, this, [this](int level, const QRect& rect, const QImage& pixels) {
        frame_.put(level, rect, pixels);
        update();
    });
    connect(&frames_, &FrameThread::overviewReady, this, [this](const QImage& pixels) { frame_.setOverview(pixels); });
    connect(&frames_, &FrameThread::failed, &session_, [this](const QString& sentence) { session_.warn(sentence); });
    restart();
}

void SecondView::placeOnOtherScreen() {
    for (const QScreen* screen : QGuiApplication::screens()) {
        if (screen != parentWidget()->screen()) setGeometry(screen->availableGeometry().adjusted(24, 48, -24, -24));
    }
}

void SecondView::restart() {
    frames_.clear();
    frame_.clear();
    panFrom_.reset();
    if (session_.isOpen()) {
        viewport_.setWidget(size(), devicePixelRatioF());
        viewport_.setPhoto(session_.renderer().photo().size());
    }
    refresh();
}

void SecondView::refresh() {
    update();
    if (requestPending_ || !session_.isOpen() || !isVisible()) return;
    requestPending_ = true;
    QMetaObject::invokeMethod(this, &SecondView::sendRequest, Qt::QueuedConnection);
}

void SecondView::sendRequest() {
    requestPending_ = false;
    if (!session_.isOpen() || !isVisible()) return;
    ViewRequest request;
    request.renderer = session_.sharedRenderer();
    Session::Shown shown = session_.shown();
    shown.view.maskView = render::MaskView::none;
    request.frame = {shown.document, shown.view, viewport_.level(), frame_.coverSeen(viewport_), {}};
    request.overviewLevel = overviewLevel(viewport_.photo());
    frames_.request(std::move(request));
}

void SecondView::showPlace(base::Point place) {
    if (viewport_.isFit() || viewport_.visiblePhoto().contains(place.x, place.y)) return;
    viewport_.centreOn(place);
    refresh();
}

void SecondView::switchSize(QPointF about) {
    if (viewport_.isFit()) {
        viewport_.zoomTo(1.0 / devicePixelRatioF(), about);
    } else {
        viewport_.fit();
    }
    refresh();
}

void SecondView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), surroundColour());
    if (session_.isOpen()) frame_.paint(painter, viewport_);
}

void SecondView::resizeEvent(QResizeEvent*) {
    viewport_.setWidget(size(), devicePixelRatioF());
    refresh();
}

void SecondView::showEvent(QShowEvent*) {
    viewport_.setWidget(size(), devicePixelRatioF());
    refresh();
}

void SecondView::closeEvent(QCloseEvent* event) {
    QSettings().setValue(geometryKey, saveGeometry());
    QWidget::closeEvent(event);
}

void SecondView::mousePressEvent(QMouseEvent* event) {
    panFrom_ = event->position();
}

void SecondView::mouseMoveEvent(QMouseEvent* event) {
    if (!panFrom_) return;
    viewport_.pan(event->position() - *panFrom_);
    panFrom_ = event->position();
    refresh();
}

void SecondView::mouseReleaseEvent(QMouseEvent*) {
    panFrom_.reset();
}

void SecondView::mouseDoubleClickEvent(QMouseEvent* event) {
    switchSize(event->position());
}

void SecondView::wheelEvent(QWheelEvent* event) {
    if (event->modifiers() & Qt::ControlModifier) {
        viewport_.zoomTo(viewport_.zoom() * std::exp2(event->angleDelta().y() / 480.0), event->position());
    } else {
        const QPoint turned =
            event->modifiers() & Qt::ShiftModifier ? event->angleDelta().transposed() : event->angleDelta();
        viewport_.pan(event->pixelDelta().isNull() ? QPointF(turned) / 2 : QPointF(event->pixelDelta()));
    }
    event->accept();
    refresh();
}

bool SecondView::zoomByKey(const QKeyEvent& event) {
    const QKeySequence key(event.keyCombination());
    const QPointF middle = QRectF(rect()).center();
    if (key == keyOf("fit")) {
        viewport_.fit();
    } else if (key == keyOf("actual-size")) {
        viewport_.zoomTo(1.0 / devicePixelRatioF(), middle);
    } else if (key == keyOf("zoom-in")) {
        viewport_.zoomTo(viewport_.zoom() * std::sqrt(2.0), middle);
    } else if (key == keyOf("zoom-out")) {
        viewport_.zoomTo(viewport_.zoom() * std::sqrt(0.5), middle);
    } else {
        return false;
    }
    return true;
}

void SecondView::keyPressEvent(QKeyEvent* event) {
    constexpr double step = 60;
    switch (event->key()) {
        case Qt::Key_Escape: close(); return;
        case Qt::Key_Return:
        case Qt::Key_Space: switchSize(QRectF(rect()).center()); return;
        case Qt::Key_Left: viewport_.pan({step, 0}); break;
        case Qt::Key_Right: viewport_.pan({-step, 0}); break;
        case Qt::Key_Up: viewport_.pan({0, step}); break;
        case Qt::Key_Down: viewport_.pan({0, -step}); break;
        default:
            if (zoomByKey(*event)) break;
            Q_EMIT keyUnused(*event);
            return;
    }
    refresh();
}

}  // namespace dimhem::ui
