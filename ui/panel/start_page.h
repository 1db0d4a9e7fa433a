// What is there before a photo: open one, go on with a recent one, or try one of the shipped photos.
#pragma once

#include <QWidget>

#include "core/task/journal.h"
#include "ui/session/background.h"

class QVBoxLayout;

namespace dimhem::ui {

class StartPage final : public QWidget {
    Q_OBJECT

public:
    StartPage(Background& background, QWidget* parent);
    void refresh();
    // Work that was left unsaved: to be gone on with, or forgotten.
    void showUnsaved(const std::vector<task::Unsaved>& unsaved);

Q_SIGNALS:
    void goOnWanted(const dimhem::task::Unsaved& unsaved);
    void forgetWanted(const dimhem::task::Unsaved& unsaved);
    void openWanted();
    void fileWanted(const QString& path);

protected:
    void paintEvent(QPaintEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;

private:
    void addDemos(QVBoxLayout* layout, QWidget* body);
    void addRecent(QVBoxLayout* layout, QWidget* body);
    void addUnsaved(QVBoxLayout* layout, QWidget* body);
    Background& background_;
    std::vector<task::Unsaved> unsaved_;
    class QScrollArea* scroll_;
};

}  // namespace dimhem::ui
