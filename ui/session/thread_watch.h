// The thread colour of the selected correction follows what lies under its mask: looked at in the background after each
// step.
#pragma once

#include <QObject>

#include "ui/session/latest.h"
#include "ui/session/session.h"

namespace dimhem::ui {

class ThreadWatch final : public QObject {
    Q_OBJECT

public:
    explicit ThreadWatch(Session& session, QObject* parent = nullptr);
    bool isUpToDate() const { return job_.isIdle(); }

private:
    void look();

    Session& session_;
    Latest job_{session_.background(), this};
};

}  // namespace dimhem::ui
