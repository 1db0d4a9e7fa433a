// The colours under the mask of the selected correction, before it and after, read anew in the background as it
// changes.
#pragma once

#include <QObject>
#include <optional>

#include "core/task/masked_colours.h"
#include "ui/session/session.h"
#include "ui/session/watch.h"

namespace dimhem::ui {

class ColourWatch final : public QObject {
    Q_OBJECT

public:
    explicit ColourWatch(Session& session, QObject* parent = nullptr);

    // Of the selected correction; null: not known yet, or its mask covers nothing.
    const task::MaskedColours* colours() const { return colours_ ? &*colours_ : nullptr; }
    // Of the whole photo and all corrections, while that is wanted; null: not known yet.
    const task::MaskedColours* whole() const { return whole_ ? &*whole_ : nullptr; }
    void setWantsWhole(bool wants);
    bool isUpToDate() const { return watch_.isUpToDate(); }

Q_SIGNALS:
    void changed();

private:
    void start();

    Session& session_;
    std::optional<task::MaskedColours> colours_, whole_;
    bool wantsWhole_ = false;
    Watch watch_;
};

}  // namespace dimhem::ui
