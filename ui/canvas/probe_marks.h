// The probes on the photo: numbered marks, which can be dragged.
#pragma once

#include <QPainter>
#include <optional>

#include "ui/canvas/tool.h"

namespace dimhem::ui {

class ProbeMarks {
public:
    explicit ProbeMarks(Session& session) : session_(session) {}

    std::optional<std::size_t> at(QPointF screen, const Viewport& viewport) const;
    bool press(const PointerEvent& event, const Viewport& viewport);  // false: no mark there
    void move(const PointerEvent& event);
    void release() { gesture_.commit(); }
    void cancel() { gesture_.giveUp(); }
    bool isActive() const { return gesture_.isRunning(); }
    void paint(QPainter& painter, const Viewport& viewport) const;

private:
    Session& session_;
    Gesture gesture_;
    std::size_t held_ = 0;
    document::Probe from_;  // as it was when it was taken hold of
    base::Point pressed_;   // where
};

}  // namespace dimhem::ui
