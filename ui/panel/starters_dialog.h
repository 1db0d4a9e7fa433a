// All starters, to be dragged onto cards; the person's own can be renamed (F2 or a double click) and deleted, and
// others imported. It stands beside the window; work goes on.
#pragma once

#include <QDialog>
#include <filesystem>

#include "ui/session/session.h"

class QListWidget;
class QListWidgetItem;

namespace dimhem::ui {

class StartersDialog final : public QDialog {
    Q_OBJECT

public:
    StartersDialog(Session& session, QWidget* parent);

    void importFrom(const QString& path);
    void exportTo(const QString& path);  // the selected one

private:
    void refresh();
    void list(const std::filesystem::path& folder, bool areOwn);
    void refreshButtons();
    void rename(const QListWidgetItem* item);
    void removeSelected();
    QString selectedPath() const;
    void say(const base::Error& error);

    Session& session_;
    QListWidget* list_;
    class QPushButton *delete_, *export_;
};

}  // namespace dimhem::ui
