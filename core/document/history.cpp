#include "core/document/history.h"

namespace dimhem::document {

void History::commit(DocumentPtr next, std::string name) {
    current_ = std::move(next);
    if (current_ == steps_[position_].document) return;
    steps_.resize(position_ + 1);
    steps_.push_back({current_, std::move(name)});
    ++position_;
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
