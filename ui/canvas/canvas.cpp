#include "ui/canvas/canvas.h"

#include <QApplication>
#include <cmath>

#include "core/mask/linear_gradient.h"
#include "ui/canvas/lost_legend.h"
#include "ui/canvas/stitch_overlay.h"
#include "ui/control/theme.h"
#include "ui/session/preferences.h"

namespace dimhem::ui {

namespace {

constexpr int insetMarginPx = 12;

}  // namespace

Canvas::Canvas(Session& session, HemWatch& hem, QWidget* parent)
    : QWidget(parent),
      session_(session),
      inset_(new Inset(this)),
      brushTool_(session, viewport_),
      brushDial_(session),
      gradientTool_(session, viewport_),
      radialTool_(session, viewport_),
      outlineTool_(session, viewport_),
      wireTool_(session, viewport_),
      rangeTool_(session, viewport_),
      unsure_(session),
      regionTool_(session, viewport_, unsure_),
      hemOverlay_(hem),
      asked_(session),
      probes_(session),
      blink_(session, this) {
    setMouseTracking(true);
    grabGesture(Qt::PinchGesture);
    setAcceptDrops(true);
    setFocusPolicy(Qt::StrongFocus);
    setObjectName("photo");
    setAccessibleName(tr("Photo"));
    setProperty("help", "keys");
    setMinimumSize(200, 150);
    connect(&session_, &Session::opened, this, &Canvas::restart);
    connect(&unsure_, &UnsureWatch::changed, this, qOverload<>(&QWidget::update));
    connect(&session_, &Session::pictureChanged, this, &Canvas::scheduleRequest);
    connect(&session_, &Session::viewChanged, this, [this] {
        refreshPanes();
        scheduleRequest();
    });
    connect(&blink_, &Blink::turned, this, qOverload<>(&QWidget::update));
    connect(&session_, &Session::selectionChanged, this, [this] {
        refreshCursor();
        scheduleRequest();
    });
    connect(&session_, &Session::brushChanged, this, [this] {
        refreshCursor();
        scheduleRequest();  // for the colour a brush that holds edges would hold to
    });
    connect(&session_, &Session::pointerChanged, this, [this] { update(); });
    connect(&session_, &Session::askedChanged, this, [this] {
        if (!session_.asked()) asked_.forget();
        refreshCursor();
        update();
    });
    connect(&hem, &HemWatch::changed, this, [this] {
        hemOverlay_.refresh();
        update();
    });
    connect(&hem, &HemWatch::stepped, this, [this, &hem] {
        if (hem.finding()) lookAt(hem.finding()->bounds);
    });
    connect(&frames_, &FrameThread::tileReady, this, [this](int level, const QRect& rect, const QImage& pixels) {
        frame_.put(level, rect, pixels);
        update();
    });
    connect(&frames_, &FrameThread::otherTileReady, this, [this](int level, const QRect& rect, const QImage& pixels) {
        other_.put(level, rect, pixels);
        update();
    });
    connect(&frames_, &FrameThread::loupeReady, this, [this](const QRect&, const QImage& before, const QImage& after) {
        loupe_.put(before, after);
        update();
    });
    connect(&frames_, &FrameThread::stitchesReady, this, [this](const Stitches& stitches) {
        stitches_ = stitches;
        update();
    });
    connect(&frames_, &FrameThread::overviewReady, this, [this](const QImage& pixels) {
        frame_.setOverview(pixels);
        placeInset();
    });
    connect(&frames_, &FrameThread::pointerRead, this, &Canvas::pointerRead);
    connect(&frames_, &FrameThread::failed, &session_, [this](const QString& sentence) { session_.warn(sentence); });
    connect(&frames_, &FrameThread::photoShown, this, [this] {
        if (without_ != Without::nothing) without_ = Without::corrections;
        update();
    });
    connect(&frames_, &FrameThread::correctionsShown, this, [this] {
        without_ = Without::nothing;
        update();
    });
    connect(&frames_, &FrameThread::finished, this, [this] {
        without_ = Without::nothing;
        if (isUpToDate()) Q_EMIT renderingChanged(false);
    });
    connect(inset_, &Inset::wanted, this, [this](base::Point centre) {
        viewport_.centreOn(centre);
        viewMoved();
    });
}

void Canvas::restart() {
    frames_.clear();
    frame_.clear();
    other_.clear();
    split_.reset();
    swapped_ = false;
    loupe_.setHeld(false);
    press_.reset();
    brushDial_.release();
    lastPress_.reset();
    panFrom_.reset();
    beforeCloser_.reset();
    inset_->hide();
    if (!session_.isOpen()) return;
    viewport_.setWidget(paneSize(), devicePixelRatioF());
    viewport_.setPhoto(session_.renderer().photo().size());
    frame_.setOverview(firstLook_);
    firstLook_ = QImage();
    without_ = Without::yetAPicture;
    viewMoved();
}

void Canvas::showFirstLook(const QImage& small) {
    firstLook_ = small;
    update();
}

void Canvas::viewMoved() {
    if (pointer_) pointer_->place = viewport_.toPhoto(pointer_->screen);
    placeInset();
    scheduleRequest();
    refreshCursor();
    update();
    Q_EMIT viewportChanged();
}

void Canvas::placeInset() {
    if (!session_.isOpen()) return;
    inset_->showView(frame_.overview(), viewport_);
    inset_->placeIn(rect().adjusted(insetMarginPx, insetMarginPx, -insetMarginPx, -insetMarginPx));
}

// Many events of one moment make one request.
void Canvas::scheduleRequest() {
    update();
    if (requestPending_ || !session_.isOpen()) return;
    requestPending_ = true;
    Q_EMIT renderingChanged(true);
    QMetaObject::invokeMethod(this, &Canvas::sendRequest, Qt::QueuedConnection);
}

void Canvas::sendRequest() {
    requestPending_ = false;
    if (!session_.isOpen()) return;
    const int level = viewport_.level();
    ViewRequest request;
    request.renderer = session_.sharedRenderer();
    const Session::Shown shown = session_.shown();
    request.frame = {shown.document, shown.view, level, frame_.coverSeen(viewport_), {}};
    const base::Point focus = pointer_ ? pointer_->place : viewport_.centre();
    request.frame.focus = {focus.x / (1 << level), focus.y / (1 << level)};
    request.isFirst = without_ != Without::nothing;
    request.overviewLevel = overviewLevel(viewport_.photo());
    if (session_.showsBoth()) {
        const Session::Shown other = session_.other();
        request.other = {other.document, other.view, level, other_.coverSeen(viewport_), request.frame.focus};
    }
    request.ready = readyFor(request.frame);
    if (pointer_) request.pointer = pointer_->place;
    if (pointer_) request.loupe = loupe_.wanted(pointer_->place, viewport_.photo(), devicePixelRatioF());
    if (tool() == &brushTool_ && session_.brush().holds) request.holdSizePx = session_.brush().sizePx;
    frames_.request(std::move(request));
}

std::optional<base::Point> Canvas::pointedAt() const {
    if (keyPointer_.isThere()) return viewport_.toPhoto(keyPointer_.at());
    return pointer_ ? std::optional(pointer_->place) : std::nullopt;
}

std::optional<std::size_t> Canvas::probeAt(base::Point place) const {
    return probes_.at(viewport_.toScreen(place), viewport_);
}

void Canvas::fit() {
    viewport_.fit();
    viewMoved();
}

void Canvas::actualSize() {
    const QPointF about = pointer_ ? pointer_->screen : QRectF({}, paneSize()).center();
    viewport_.zoomTo(1.0 / devicePixelRatioF(), about);
    viewMoved();
}

void Canvas::zoomBy(double factor) {
    const QPointF about = pointer_ ? pointer_->screen : QRectF({}, paneSize()).center();
    viewport_.zoomTo(viewport_.zoom() * factor, about);
    viewMoved();
}

void Canvas::zoomTo(double screenPixels) {
    if (!session_.isOpen()) return;
    viewport_.zoomTo(screenPixels / devicePixelRatioF(), QRectF({}, paneSize()).center());
    viewMoved();
}

void Canvas::lookAt(const base::Rect& photoRect, double share) {
    if (!session_.isOpen() || photoRect.empty()) return;
    constexpr double closest = 4;  // screen pixels for one of the photo
    const double across = share * paneSize().width() / photoRect.width(),
                 down = share * paneSize().height() / photoRect.height();
    const double zoom = std::min({closest, across, down});
    viewport_.zoomTo(std::max(zoom, viewport_.fitZoom()), QRectF({}, paneSize()).center());
    viewport_.centreOn({(photoRect.x0 + photoRect.x1) / 2.0, (photoRect.y0 + photoRect.y1) / 2.0});
    viewMoved();
}

void Canvas::lookCloser(bool on) {
    if (on == beforeCloser_.has_value() || !session_.isOpen()) return;
    if (on) {
        beforeCloser_ = viewport_;
        actualSize();
    } else {
        viewport_ = *beforeCloser_;
        viewport_.setWidget(paneSize(), devicePixelRatioF());
        beforeCloser_.reset();
        viewMoved();
    }
}

void Canvas::setHandHeld(bool held) {
    handHeld_ = held;
    refreshCursor();
}

bool Canvas::cancelGesture() {
    if (Tool* active = activeTool()) {
        active->cancel();
        update();
        return true;
    }
    if (brushDial_.isActive()) {
        brushDial_.cancel();
        update();
        return true;
    }
    if (probes_.isActive()) {
        probes_.cancel();
        return true;
    }
    update();
    return asked_.cancel();
}

Tool* Canvas::tool() {
    const mask::ShapePtr shape = session_.workedOnShape();
    if (!shape) return nullptr;
    const mask::ShapeKind* kind = &shape->kind();
    if (kind == &mask::Brush::kindInfo || kind == &mask::Brush::fineDetail) return &brushTool_;
    if (kind == &mask::LinearGradient::kindInfo) return &gradientTool_;
    if (kind == &mask::RadialGradient::kindInfo) return &radialTool_;
    if (kind == &mask::Outline::kindInfo) return &outlineTool_;
    if (kind == &mask::Wire::kindInfo) return &wireTool_;
    if (kind->isRange) return &rangeTool_;
    if (kind == &mask::Region::kindInfo) return &regionTool_;
    return nullptr;
}

bool Canvas::finishGesture() {
    if (!outlineTool_.finish() && !wireTool_.finish()) return false;
    update();
    return true;
}

bool Canvas::isBrushing() {
    return tool() == &brushTool_;
}

bool Canvas::showsGrips() const {
    return !session_.isComparing() && !session_.isSliding() && !handHeld_ && !panFrom_ && !session_.asked();
}

Tool* Canvas::activeTool() {
    return lastTool_ && lastTool_->isActive() ? lastTool_ : nullptr;
}

PointerEvent Canvas::eventAt(const QSinglePointEvent& event, double pressure) const {
    const QPointF at = inPane(event.position());
    PointerEvent out = eventWith(at, event.modifiers(), event.timestamp());
    out.pressure = pressure;
    if (event.pointerType() == QPointingDevice::PointerType::Eraser) out.takesAway = true;
    return out;
}

PointerEvent Canvas::eventWith(QPointF screen, Qt::KeyboardModifiers modifiers, quint64 timeMs) const {
    PointerEvent out{screen, viewport_.toPhoto(screen), 1, modifiers, timeMs};
    out.picks = modifiers & Qt::AltModifier || pickHeld_;
    out.takesAway = modifiers & Qt::ControlModifier && !out.picks;
    return out;
}

void Canvas::setPickHeld(bool held) {
    pickHeld_ = held;
    if (pointer_) pointer_->picks = held;
    refreshCursor();
    update();
}

bool Canvas::setDialHeld(bool held) {
    if (held && !isBrushing()) return false;
    brushDial_.setHeld(held);
    update();
    return true;
}

// A modifier that goes down or up where the pointer stands shows what a press would do.
void Canvas::setModifiers(Qt::KeyboardModifiers modifiers) {
    if (!pointer_ || press_) return;
    *pointer_ = eventWith(pointer_->screen, modifiers, pointer_->timeMs);
    refreshCursor();
    update();
}

void Canvas::refreshCursor() {
    if (!session_.isOpen()) {
        setCursor(Qt::ArrowCursor);
    } else if (handHeld_ || panFrom_) {
        setCursor(panFrom_ ? Qt::ClosedHandCursor : Qt::OpenHandCursor);
    } else if (session_.asked()) {
        setCursor(Qt::CrossCursor);
    } else if (pointer_ && isSplit() && split_.holdAt(pointer_->screen, size()) != SplitLine::Hold::nothing) {
        setCursor(Qt::SizeAllCursor);
    } else if (pointer_ && showsGrips() && !isBrushing() && probes_.at(pointer_->screen, viewport_)) {
        setCursor(Qt::SizeAllCursor);
    } else if (Tool* current = tool(); current && pointer_ && showsGrips()) {
        setCursor(current->cursor(*pointer_, viewport_));
    } else {
        setCursor(Qt::ArrowCursor);
    }
}

void Canvas::pressAt(const PointerEvent& event) {
    pointer_ = event;
    Q_EMIT pressedAt(event.place);
    if (session_.isComparing()) {
        sayWhyNot();
        return;
    }
    if (session_.asked()) {
        asked_.press(event);
        return;
    }
    if (brushDial_.isHeld() && isBrushing()) {
        brushDial_.press(event);
        return;
    }
    if (isSplit() && split_.press(event.screen, size())) return;
    // A brush paints over marks.
    if (showsGrips() && !isBrushing() && probes_.press(event, viewport_)) return;
    Tool* current = tool();
    if (!current) {
        if (session_.part()) {
            session_.say(tr("This part has nothing to drag on the photo; select or add another to work there."));
            return;
        }
        session_.say(session_.correction()
                         ? tr("This correction has no part to work with yet: add a brush or a gradient on the left.")
                         : tr("There is no correction to paint in yet: make one with New, below."));
        return;
    }
    lastTool_ = current;
    PointerEvent handed = event;
    if (!current->isActive() && current->takesAway(event) && !current->takesFromItself(event)) {
        if (!session_.prepareTakingAway()) return;
        handed.takesAway = false;
        handed.drawsAnew = true;
    }
    current->press(handed);
    session_.dropPrepared();
}

// What is shown is not what would be changed.
void Canvas::sayWhyNot() {
    const auto toResult = [&session = session_] {
        session.setLook(Look::result);
        session.setShownState(std::nullopt);
    };
    if (session_.held() != Session::Held::nothing) {
        session_.say(tr("A key shows the photo in another way: let go of it to work on the photo."));
    } else if (session_.shownState()) {
        session_.say(tr("This is the kept state %1: show the result to work on it.").arg(resultName()),
                     tr("Show the result"), toResult);
    } else {
        session_.say(tr("This is what the result is held against: show the result to work on it."),
                     tr("Show the result"), toResult);
    }
}

void Canvas::moveAt(const PointerEvent& event) {
    pointer_ = event;
    if (asked_.isDragging()) {
        asked_.move(event);
    } else if (brushDial_.isActive()) {
        brushDial_.move(event);
    } else if (split_.isHeld()) {
        split_.move(event.screen, size());
    } else if (probes_.isActive()) {
        probes_.move(event);
    } else if (Tool* active = activeTool()) {
        active->move(event);
        active->hover(event);
    } else {
        refreshCursor();
        scheduleRequest();  // for the reading under the pointer; its tiles are all in the cache
    }
    update();
}

void Canvas::releaseAt(const PointerEvent& event) {
    pointer_ = event;
    if (asked_.isDragging()) {
        asked_.release(event);
        update();
        return;
    }
    if (brushDial_.isActive()) {
        brushDial_.release();
    } else if (split_.isHeld()) {
        split_.release();
    } else if (probes_.isActive()) {
        probes_.release();
    } else if (Tool* active = activeTool()) {
        active->release(event);
    }
    refreshCursor();
    update();
}

void Canvas::resizeEvent(QResizeEvent*) {
    viewport_.setWidget(paneSize(), devicePixelRatioF());
    if (session_.isOpen()) viewMoved();
}

void Canvas::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), surroundColour());
    if (!session_.isOpen()) {
        if (!firstLook_.isNull()) {
            const QSize shown = firstLook_.size().scaled(size() - QSize(24, 24), Qt::KeepAspectRatio);
            painter.setRenderHint(QPainter::SmoothPixmapTransform);
            painter.drawImage(QRect(QPoint((width() - shown.width()) / 2, (height() - shown.height()) / 2), shown),
                              firstLook_);
        }
        return;
    }
    paintSides(painter);
    paintWithout(painter);
    painter.save();
    if (isBeside() && !swapped_) painter.translate(width() / 2, 0);
    paintTools(painter);
    painter.restore();
    if (hasFocus() && focusByKeys_) {
        painter.setPen(QPen(QColor(theme::bright), 1));
        painter.drawRect(rect().adjusted(0, 0, -1, -1));
    }
}

// What is shown before all is there is told as what it is.
void Canvas::paintWithout(QPainter& painter) {
    if (without_ == Without::nothing || session_.document()->corrections.empty()) return;
    const QString words = without_ == Without::corrections ? tr("The photo: its corrections are being worked out…")
                                                           : tr("A small picture: the photo is being shown…");
    const QRectF text = QRectF(painter.fontMetrics().boundingRect(words));
    const QRectF box(12, height() - text.height() - 22, text.width() + 24, text.height() + 10);
    painter.setPen(Qt::NoPen);
    painter.setBrush(QColor(0x1f, 0x1f, 0x1f, 225));
    painter.drawRoundedRect(box, 4, 4);
    painter.setPen(QColor(theme::text));
    painter.drawText(box, Qt::AlignCenter, words);
}

void Canvas::paintTools(QPainter& painter) {
    if (session_.shown().view.maskView == render::MaskView::stitch && session_.correction())
        paintStitches(painter, stitches_, threadColour(session_.correction()->threadColour), viewport_);
    if (!session_.isComparing()) hemOverlay_.paint(painter, viewport_);
    if (showsGrips() && session_.wantsGrips()) probes_.paint(painter, viewport_);
    Tool* current = activeTool() ? activeTool() : tool();
    const PointerEvent* at = pointer_ ? &*pointer_ : nullptr;
    const bool isRing = current == &brushTool_;  // it shows what a press does, not what is there
    if (current && showsGrips() && (isRing || current->isActive() || session_.showsGrips()))
        current->paint(painter, viewport_, brushDial_.isActive() ? brushDial_.pressedAt() : at);
    brushDial_.paint(painter);
    asked_.paint(painter, pointer_ ? &*pointer_ : nullptr, paneSize().width());
    if (session_.held() == Session::Held::lost) paintLostLegend(painter, legendName());
    if (pointer_) loupe_.paint(painter, pointer_->screen, paneSize(), tr("before"), tr("result"));
    if (hasFocus()) keyPointer_.paint(painter);
}

}  // namespace dimhem::ui
