// Adjustments that have yet to measure the photo do so in the background; what they find becomes part of every version
// they are in, so that no step is made and none is lost. Where what lies under the mask has since become another they
// measure again; those that a person has measured are told of as stale.
#pragma once

#include <QObject>
#include <QSet>

#include "ui/session/watch.h"

namespace dimhem::ui {

class MeasuringWatch final : public QObject {
    Q_OBJECT

public:
    explicit MeasuringWatch(Session& session, QObject* parent = nullptr);
    bool isUpToDate() const { return watch_.isUpToDate() && again_.isUpToDate(); }
    // Whether it was measured, by a person, under a mask or a picture that is another now.
    bool isStale(document::Id adjustment) const { return stale_.contains(adjustment); }

Q_SIGNALS:
    void staleChanged();

private:
    void look();
    void lookAgain();
    void tellStale(QSet<document::Id> stale);

    Session& session_;
    Watch watch_, again_;
    QSet<document::Id> stale_;
};

}  // namespace dimhem::ui
