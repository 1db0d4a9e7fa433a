// The two sides the canvas shows: the result and what it is held against.
#include "ui/canvas/canvas.h"
#include "ui/control/theme.h"
#include "ui/session/preferences.h"

namespace dimhem::ui {

// What a key would show next. Not while the hand is at work: that comes first.
std::vector<render::FrameRequest> Canvas::readyFor(const render::FrameRequest& frame) const {
    std::vector<render::FrameRequest> ready;
    if (session_.hasGesture() || session_.document()->corrections.empty()) return ready;
    const auto add = [&](const document::DocumentPtr& document, const render::Comparison& comparison) {
        render::FrameRequest next = frame;
        next.document = document;
        next.view = {.comparison = comparison, .selected = frame.view.selected};
        ready.push_back(std::move(next));
    };
    render::Comparison allOff, without;
    allOff.allOff = true;
    without.without = session_.selectedCorrection();
    const Session::Shown other = session_.other();
    add(session_.document(), {});
    add(session_.document(), allOff);
    add(session_.document(), without);
    add(other.document, other.view.comparison);
    return ready;
}

QSize Canvas::paneSize() const {
    return isBeside() ? QSize(width() / 2, height()) : size();
}

QPointF Canvas::inPane(QPointF view) const {
    const bool right = press_ ? press_->onRight : isOnRight(view);
    return isBeside() && right ? view - QPointF(width() / 2, 0) : view;
}

void Canvas::refreshPanes() {
    if (!session_.isOpen()) return;
    viewport_.setWidget(paneSize(), devicePixelRatioF());
    placeInset();
    refreshCursor();
    Q_EMIT viewportChanged();
}

void Canvas::setLoupeHeld(bool held) {
    loupe_.setHeld(held);
    scheduleRequest();
}

void Canvas::turnSplit(double degrees) {
    split_.turnBy(degrees);
    update();
}

void Canvas::swapSides() {
    split_.swap();
    swapped_ = !swapped_;
    update();
}

bool Canvas::isSplit() const {
    return session_.showsBoth() && session_.look() == Look::split;
}

void Canvas::paintSides(QPainter& painter) {
    if (isBeside()) {
        const int half = width() / 2;
        const auto side = [&](const FrameImage& image, int x) {
            painter.save();
            painter.setClipRect(x, 0, half, height());
            painter.translate(x, 0);
            image.paint(painter, viewport_);
            painter.restore();
        };
        side(other_, swapped_ ? half : 0);
        side(frame_, swapped_ ? 0 : half);
        painter.fillRect(half - 1, 0, 2, height(), QColor(theme::bar));
        return;
    }
    const bool other = session_.showsBoth() && session_.look() == Look::blink && blink_.showsOther();
    (other ? other_ : frame_).paint(painter, viewport_);
    if (!isSplit()) return;
    painter.save();
    painter.setClipPath(split_.otherSide(size()));
    painter.fillRect(rect(), surroundColour());
    other_.paint(painter, viewport_);
    painter.restore();
    split_.paint(painter, size(), resultName(), otherName());
}

QString Canvas::legendName() const {
    const document::Correction* correction = session_.correction();
    return session_.losesByAll() || !correction ? tr("by all corrections")
                                                : tr("by %1").arg(QString::fromStdString(correction->name));
}

QString Canvas::resultName() const {
    const auto state = session_.shownState();
    if (!state || *state >= session_.document()->states.size()) return tr("result");
    return QString::fromStdString(session_.document()->states[*state].name);
}

QString Canvas::otherName() const {
    switch (session_.against().what) {
        case Against::What::photo: break;
        case Against::What::withoutThis: return tr("without this");
        case Against::What::saved: return tr("saved");
        case Against::What::state:
            if (session_.against().state < session_.document()->states.size())
                return QString::fromStdString(session_.document()->states[session_.against().state].name);
    }
    return tr("before");
}

}  // namespace dimhem::ui
