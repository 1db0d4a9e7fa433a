// The notes of the document, looked for anew in the background after each change, and what would ease them.
#pragma once

#include <QObject>
#include <memory>
#include <vector>

#include "core/task/notes.h"
#include "ui/session/session.h"
#include "ui/session/watch.h"

namespace dimhem::ui {

class NotesWatch final : public QObject {
    Q_OBJECT

public:
    struct Item {
        task::Note note;
        std::optional<double> easePct;  // the strength at which it would not be said; none: not known, or none helps
    };

    explicit NotesWatch(Session& session, QObject* parent = nullptr);

    // Those that were not dismissed, the weightiest first.
    const QList<Item>& items() const { return items_; }
    bool isUpToDate() const { return watch_.isUpToDate() && easeWatch_.isUpToDate(); }

    void ease(const Item& item);     // sets the strength, as one step
    void dismiss(const Item& item);  // for this document
    bool hasDismissed() const { return session_.isOpen() && !session_.document()->dismissed.empty(); }
    void bringBack();  // what was dismissed

Q_SIGNALS:
    void changed();

private:
    void start();
    void startEase();
    void show();

    Session& session_;
    std::vector<task::Note> notes_;
    document::DocumentPtr notedOf_;  // the version they are of
    QList<Item> items_;
    std::shared_ptr<task::NotesMemory> memory_;
    Watch watch_, easeWatch_;
    bool waits_ = false;  // for the gesture to end
};

}  // namespace dimhem::ui
