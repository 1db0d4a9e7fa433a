// Where to look for what is worked on, found in the background: the finding of the hem check, the selected part, the
// mask; asked again, the next of these.
#pragma once

#include <QObject>

#include "core/base/rect.h"
#include "ui/session/hem_watch.h"
#include "ui/session/latest.h"

namespace dimhem::ui {

class ZoomTo final : public QObject {
    Q_OBJECT

public:
    ZoomTo(Session& session, const HemWatch& hem, QObject* parent = nullptr);
    void next();
    bool isIdle() const { return reader_.isIdle(); }

Q_SIGNALS:
    void found(const base::Rect& photoRect);

private:
    void lookFor(mask::PartId part);

    Session& session_;
    const HemWatch& hem_;
    Latest reader_;
    bool wasPart_ = false;  // shown last, of what is still selected
};

}  // namespace dimhem::ui
