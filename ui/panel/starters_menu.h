// The menu of starters: saving the selected correction as one, and managing them. They are chosen from a sheet
// (starters_sheet.h).
#pragma once

#include <QMenu>

#include "ui/session/session.h"

namespace dimhem::ui {

class StartersMenu final : public QMenu {
    Q_OBJECT

public:
    StartersMenu(Session& session, QWidget* parent);

    void saveSelected();  // the selected correction becomes a starter of the person's own

private:
    void fill();
    void manage();

    Session& session_;
};

}  // namespace dimhem::ui
