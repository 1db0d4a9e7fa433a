// The versions of a document in a session: undo and redo walk along them.
//
// A gesture in progress (a stroke, a drag of a slider) shows versions of its own through preview(); commit() makes one
// named step of the whole gesture, or none where nothing changed. A document has no step of its own to undo before the
// first.
#pragma once

#include <functional>
#include <string>
#include <vector>

#include "core/document/document.h"

namespace dimhem::document {

class History {
public:
    explicit History(DocumentPtr first) : steps_{{std::move(first), {}}}, current_(steps_.front().document) {}

    const DocumentPtr& current() const { return current_; }
    const DocumentPtr& committed() const { return steps_[position_].document; }  // without what is being previewed

    // A version that says the same as the newest step makes no step.
    void commit(DocumentPtr next, std::string name);
    void preview(DocumentPtr next) { current_ = std::move(next); }
    void commitPreview(std::string name) { commit(current_, std::move(name)); }
    void dropPreview() { current_ = steps_[position_].document; }
    // Another version in place of the newest step's, which is still the same step, and as saved as it was.
    void amend(DocumentPtr next);
    // The same of every version there is: what `change` gives back for it, which may be the version itself.
    void amendAll(const std::function<DocumentPtr(const DocumentPtr&)>& change);

    bool canUndo() const { return position_ > 0; }
    bool canRedo() const { return position_ + 1 < steps_.size(); }
    const std::string& undoName() const { return steps_[position_].name; }      // where canUndo()
    const std::string& redoName() const { return steps_[position_ + 1].name; }  // where canRedo()
    void undo();
    void redo();

    // All steps there are, the first being the document as it was opened; `position` is the one that counts now.
    std::size_t count() const { return steps_.size(); }
    std::size_t position() const { return position_; }
    const std::string& nameOf(std::size_t step) const { return steps_[step].name; }
    void goTo(std::size_t step);

    void markSaved() { saved_ = steps_[position_].document; }
    // What is being written: where it is amended meanwhile, it is still what was written once that is done.
    void beginSaving() { writing_ = writingSince_ = current_; }
    void markSaved(const DocumentPtr& version) { saved_ = version == writing_ ? writingSince_ : version; }
    bool isSaved() const { return saved_ == steps_[position_].document; }

private:
    void replace(const DocumentPtr& version, const DocumentPtr& by);

    struct Step {
        DocumentPtr document;
        std::string name;  // of the edit that led to it
    };
    std::vector<Step> steps_;
    std::size_t position_ = 0;
    DocumentPtr current_;
    DocumentPtr saved_;
    DocumentPtr writing_, writingSince_;  // as it was given to be written, and as amended since
};

}  // namespace dimhem::document
