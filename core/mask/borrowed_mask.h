// Borrowed mask: the whole mask of another correction, live: what changes there changes here.
//
// A correction cannot borrow, directly or by way of others, from itself: document::canBorrow says so, readers of
// documents refuse it, and the renderer takes such a mask as empty.
#pragma once

#include "core/mask/shape.h"

namespace dimhem::mask {

class BorrowedMask final : public Shape {
public:
    explicit BorrowedMask(std::int64_t from) : from_(from) {}
    static const ShapeKind kindInfo;

    std::int64_t from() const { return from_; }  // the id of the correction; 0: none yet

    const ShapeKind& kind() const override { return kindInfo; }
    Staged<Coverage> over(const Area& area, Context& context) const override;
    void toJson(nlohmann::json& json) const override;
    bool looksAtArriving() const override { return true; }  // what is borrowed may

private:
    std::int64_t from_;
};

}  // namespace dimhem::mask
