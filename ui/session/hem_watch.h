// The hem check of the selected correction, made anew in the background after each step, and the finding that is looked
// at.
#pragma once

#include <QObject>
#include <optional>

#include "core/task/hem_check.h"
#include "ui/session/session.h"
#include "ui/session/watch.h"

namespace dimhem::ui {

class HemWatch final : public QObject {
    Q_OBJECT

public:
    explicit HemWatch(Session& session, QObject* parent = nullptr);

    const task::HemReport* report() const { return report_ ? &*report_ : nullptr; }  // null: none yet
    bool isUpToDate() const { return watch_.isUpToDate(); }

    // The finding that is looked at; null: none.
    const check::Finding* finding() const;
    int indexOfFinding() const { return index_; }
    // The next (or, backwards, the one before) of a kind or of all, round and round. False where there is none.
    bool step(int by, std::optional<check::FindingKind> kind = {});
    void leave();  // no finding is looked at
    void mend();   // puts the finding right, as one step

    // The map of spill and short over the photo.
    bool showsMap() const { return showsMap_; }
    void setShowsMap(bool shows);

Q_SIGNALS:
    void changed();
    void stepped();  // to another finding

private:
    void restart();
    void start();

    Session& session_;
    std::optional<task::HemReport> report_;
    document::Id reported_ = 0;  // the correction the report is of
    int index_ = -1;
    bool showsMap_ = false;
    Watch watch_;
};

}  // namespace dimhem::ui
