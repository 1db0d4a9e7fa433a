#include "core/document/history.h"

#include <algorithm>

namespace dimhem::document {

void History::commit(DocumentPtr next, std::string name) {
    if (isSame(*next, *steps_[position_].document)) {
        dropPreview();
        return;
    }
    current_ = std::move(next);
    steps_.resize(position_ + 1);
    steps_.push_back({current_, std::move(name)});
    ++position_;
}

void History::amend(DocumentPtr next) {
    DocumentPtr& newest = steps_[position_].document;
    if (saved_ == newest) saved_ = next;
    if (current_ == newest) current_ = next;
    newest = std::move(next);
}

void History::amendAll(const std::function<DocumentPtr(const DocumentPtr&)>& change) {
    for (Step& step : steps_) {
        DocumentPtr next = change(step.document);
        if (saved_ == step.document) saved_ = next;
        if (current_ == step.document) current_ = next;
        step.document = std::move(next);
    }
}

void History::goTo(std::size_t step) {
    position_ = std::min(step, steps_.size() - 1);
    current_ = steps_[position_].document;
}

void History::undo() {
    if (canUndo()) --position_;
    current_ = steps_[position_].document;
}

void History::redo() {
    if (canRedo()) ++position_;
    current_ = steps_[position_].document;
}

}  // namespace dimhem::document
