// Working with a region: drag roughly inside the thing to add, with Ctrl to take away. The region follows while the
// hand drags, as fast as it can be found.
#pragma once

#include <QElapsedTimer>

#include "core/mask/region.h"
#include "ui/canvas/tool.h"
#include "ui/session/session.h"

namespace dimhem::ui {

class RegionTool final : public Tool {
public:
    RegionTool(Session& session, const Viewport& viewport) : session_(session), viewport_(viewport) {}

    void press(const PointerEvent& event) override;
    void move(const PointerEvent& event) override;
    void release(const PointerEvent& event) override;
    void cancel() override;
    bool isActive() const override { return before_ != nullptr; }
    void paint(QPainter& painter, const Viewport& viewport, const PointerEvent* pointer) const override;
    QCursor cursor(const PointerEvent& pointer, const Viewport& viewport) const override;

private:
    std::shared_ptr<const mask::Region> region() const;
    document::DocumentPtr withDrag() const;

    Session& session_;
    const Viewport& viewport_;
    document::DocumentPtr before_;
    mask::RegionDrag drag_;
    QElapsedTimer sinceShown_;
};

}  // namespace dimhem::ui
