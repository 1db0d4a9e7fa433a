// What is there before a photo: open one, go on with a recent one, or try one of the shipped photos.
#pragma once

#include <QWidget>

class QVBoxLayout;

namespace dimhem::ui {

class StartPage final : public QWidget {
    Q_OBJECT

public:
    explicit StartPage(QWidget* parent);
    void refresh();

Q_SIGNALS:
    void openWanted();
    void fileWanted(const QString& path);

protected:
    void paintEvent(QPaintEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;

private:
    void addDemos(QVBoxLayout* layout, QWidget* body);
    void addRecent(QVBoxLayout* layout, QWidget* body);
    class QScrollArea* scroll_;
};

}  // namespace dimhem::ui
