// Working with a region: drag roughly inside the thing to add, with Ctrl to take away. The region follows while the
// hand drags, as fast as it can be found. Where it is least sure a dotted ring asks for a further drag.
#pragma once

#include "core/mask/region.h"
#include "ui/canvas/tool.h"
#include "ui/session/unsure_watch.h"

namespace dimhem::ui {

class RegionTool final : public Tool {
public:
    RegionTool(Session& session, const Viewport& viewport, const UnsureWatch& unsure)
        : Tool(session, viewport), unsure_(unsure) {}

    bool takesFromItself(const PointerEvent& event) const override;
    void press(const PointerEvent& event) override;
    void move(const PointerEvent& event) override;
    void release(const PointerEvent& event) override;
    void paint(QPainter& painter, const Viewport& viewport, const PointerEvent* pointer) const override;
    QCursor cursor(const PointerEvent& pointer, const Viewport& viewport) const override;

private:
    document::DocumentPtr withDrag() const;
    void finish();

    const UnsureWatch& unsure_;
    std::shared_ptr<const mask::Region> start_;
    mask::RegionDrag drag_;  // in hand, while the gesture runs
    quint64 shownMs_ = 0;
};

}  // namespace dimhem::ui
