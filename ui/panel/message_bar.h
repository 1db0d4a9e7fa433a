// One sentence over the photo, with something to do about it where there is. Never a dialog, never in the way for long.
#pragma once

#include <QWidget>
#include <functional>

class QLabel;
class QPushButton;

namespace dimhem::ui {

class MessageBar final : public QWidget {
    Q_OBJECT

public:
    explicit MessageBar(QWidget* parent);
    void say(const QString& sentence, const QString& actionName, const std::function<void()>& action);
    QString sentence() const;
    void fitInto(int width);

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    QLabel* text_;
    QPushButton* act_;
    std::function<void()> action_;
    class QTimer* away_;
};

}  // namespace dimhem::ui
