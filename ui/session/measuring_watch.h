// Adjustments that have yet to measure the photo do so in the background; what they find becomes part of every version
// they are in, so that no step is made and none is lost.
#pragma once

#include <QObject>

#include "ui/session/watch.h"

namespace dimhem::ui {

class MeasuringWatch final : public QObject {
    Q_OBJECT

public:
    explicit MeasuringWatch(Session& session, QObject* parent = nullptr);
    bool isUpToDate() const { return watch_.isUpToDate(); }

private:
    void look();

    Session& session_;
    Watch watch_;
};

}  // namespace dimhem::ui
