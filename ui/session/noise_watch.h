// How much noise and haze lie under the mask of the selected correction, before it and after: measured in the
// background where it has an adjustment for noise, haze or detail, once nothing has changed for a while.
#pragma once

#include <QObject>
#include <optional>

#include "core/task/masked_noise.h"
#include "ui/session/session.h"
#include "ui/session/watch.h"

namespace dimhem::ui {

class NoiseWatch final : public QObject {
    Q_OBJECT

public:
    explicit NoiseWatch(Session& session, QObject* parent = nullptr);

    // Of the selected correction; null: not known, or not looked at.
    const task::MaskedNoise* noise() const { return noise_ ? &*noise_ : nullptr; }
    bool isUpToDate() const { return watch_.isUpToDate(); }

Q_SIGNALS:
    void changed();

private:
    bool isWanted() const;
    void start();

    Session& session_;
    std::optional<task::MaskedNoise> noise_;
    Watch watch_;
};

}  // namespace dimhem::ui
