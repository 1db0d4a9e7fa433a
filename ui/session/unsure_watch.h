// Where the selected region is least sure, worked out in the background after each change of it.
#pragma once

#include <QObject>

#include "core/mask/region.h"
#include "ui/session/latest.h"
#include "ui/session/session.h"

namespace dimhem::ui {

class UnsureWatch final : public QObject {
    Q_OBJECT

public:
    explicit UnsureWatch(Session& session, QObject* parent = nullptr);

    // Of the selected part; empty where it is no region, where nothing is unsure, and until it is known.
    const std::vector<mask::Region::UnsurePlace>& places() const { return places_; }

Q_SIGNALS:
    void changed();

private:
    void look();

    Session& session_;
    Latest job_{session_.background(), this};
    std::shared_ptr<const mask::Region> asked_;
    std::vector<mask::Region::UnsurePlace> places_;
};

}  // namespace dimhem::ui
