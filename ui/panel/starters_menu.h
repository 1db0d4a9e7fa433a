// The menu of starters: those shipped, the person's own, saving the selected correction as one, and managing them.
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
    void list(const std::filesystem::path& folder);
    void manage();

    Session& session_;
};

}  // namespace dimhem::ui
