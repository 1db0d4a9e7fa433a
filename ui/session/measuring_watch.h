// Adjustments that have yet to measure the photo do so in the background; what they find becomes part of every version
// they are in, so that no step is made and none is lost.
#pragma once

#include <QObject>

#include "ui/session/session.h"

namespace dimhem::ui {

class MeasuringWatch final : public QObject {
    Q_OBJECT

public:
    explicit MeasuringWatch(Session& session, QObject* parent = nullptr);
    ~MeasuringWatch() override { cancel_.cancel(); }
    bool isUpToDate() const { return !running_; }

private:
    void look();

    Session& session_;
    base::CancelSource cancel_;
    bool running_ = false;
};

}  // namespace dimhem::ui
