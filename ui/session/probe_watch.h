// The colours of the document's probes, before and after, read anew in the background as the picture changes.
#pragma once

#include <QObject>
#include <vector>

#include "core/task/probe_reading.h"
#include "ui/session/session.h"
#include "ui/session/watch.h"

namespace dimhem::ui {

class ProbeWatch final : public QObject {
    Q_OBJECT

public:
    explicit ProbeWatch(Session& session, QObject* parent = nullptr);

    // As many as there are probes, or fewer while they are being read; none of one that lies outside the photo.
    const std::vector<std::optional<task::ProbeReading>>& readings() const { return readings_; }
    bool isUpToDate() const { return watch_.isUpToDate(); }

    // One more about a place of the photo, as a step; says so where there are as many as there can be.
    void add(base::Point place);

Q_SIGNALS:
    void changed();

private:
    void start();

    Session& session_;
    std::vector<std::optional<task::ProbeReading>> readings_;
    Watch watch_;
};

}  // namespace dimhem::ui
