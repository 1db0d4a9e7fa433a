#include "ui/session/gesture.h"

#include "ui/session/session.h"

namespace dimhem::ui {

Gesture& Gesture::operator=(Gesture&& other) noexcept {
    if (this == &other) return *this;
    commit();
    session_ = std::exchange(other.session_, nullptr);
    number_ = std::exchange(other.number_, 0);
    return *this;
}

bool Gesture::isRunning() const {
    return session_ && session_->running_ && session_->running_->number == number_;
}

const document::DocumentPtr& Gesture::base() const {
    return session_->running_->base;
}

const EditTarget& Gesture::target() const {
    return session_->running_->target;
}

void Gesture::preview(document::DocumentPtr next) {
    if (isRunning()) session_->showPreview(std::move(next));
}

void Gesture::commit() {
    if (isRunning()) session_->finishGesture(session_->document(), {});
}

void Gesture::commit(document::DocumentPtr next, const QString& stepName) {
    if (isRunning()) session_->finishGesture(std::move(next), stepName);
}

void Gesture::giveUp() {
    if (isRunning()) session_->giveUpGesture();
}

}  // namespace dimhem::ui
