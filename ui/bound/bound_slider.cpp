#include "ui/bound/bound_slider.h"

namespace dimhem::ui {

std::shared_ptr<ControlGesture> controlGesture(Session& session, const QString& stepName, const EditTarget& target) {
    return std::make_shared<ControlGesture>(session, stepName, target);
}

}  // namespace dimhem::ui
