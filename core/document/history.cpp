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

// Wherever it is remembered, but among the steps.
void History::replace(const DocumentPtr& version, const DocumentPtr& by) {
    for (DocumentPtr* remembered : {&saved_, &current_, &writingSince_}) {
        if (*remembered == version) *remembered = by;
    }
}

void History::amend(DocumentPtr next) {
    DocumentPtr& newest = steps_[position_].document;
    replace(newest, next);
    newest = std::move(next);
}

void History::amendAll(const std::function<DocumentPtr(const DocumentPtr&)>& change) {
    for (Step& step : steps_) {
        DocumentPtr next = change(step.document);
        replace(step.document, next);
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
