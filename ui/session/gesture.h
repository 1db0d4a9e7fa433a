// One change in the making by one hand: a stroke, a drag of a slider, a run of arrow keys, an outline being clicked.
//
// The session has one at a most, and nothing else keeps a "document before": a gesture knows the version it began from
// and what it edits, shows versions made from that, and ends as one step or as none. Whatever else wants to change,
// select, undo or open something ends it first, by the function it was begun with; without one, what is shown becomes
// its step. So does what is shown when the handle is destroyed. A handle whose gesture has ended does nothing any more.
#pragma once

#include <QPointer>
#include <QString>
#include <functional>

#include "core/document/document.h"

namespace dimhem::ui {

class Session;

// What a gesture edits, by ids, which are never reused; 0: none. Of a part its shape, or its limit.
struct EditTarget {
    document::Id correction = 0;
    mask::PartId part = 0;
    mask::ShapePtr mask::Part::*of = &mask::Part::shape;
};

class Gesture {
public:
    Gesture() = default;  // none
    Gesture(Gesture&& other) noexcept { *this = std::move(other); }
    Gesture& operator=(Gesture&& other) noexcept;
    ~Gesture() { commit(); }

    bool isRunning() const;
    // While it runs.
    const document::DocumentPtr& base() const;
    const EditTarget& target() const;
    void preview(document::DocumentPtr next);  // made from base()

    void commit();  // what is shown; no step where nothing has changed
    void commit(document::DocumentPtr next, const QString& stepName = {});
    void giveUp();  // back to base()

private:
    friend class Session;
    Gesture(Session& session, quint64 number) : session_(&session), number_(number) {}
    QPointer<Session> session_;
    quint64 number_ = 0;
};

}  // namespace dimhem::ui
