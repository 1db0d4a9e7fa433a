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
    // It lies over the upper edge of whichever of these is in sight.
    MessageBar(const QList<QWidget*>& over, QWidget* parent);
    // `passes`: it goes away by itself after a while, else it stays until it is answered.
    void say(const QString& sentence, const QString& actionName, const std::function<void()>& action, bool passes);
    QString sentence() const;

protected:
    bool eventFilter(QObject* object, QEvent* event) override;
    void paintEvent(QPaintEvent* event) override;

private:
    void place();

    QList<QWidget*> over_;
    QLabel* text_;
    QPushButton* act_;
    std::function<void()> action_;
    class QTimer* away_;
};

}  // namespace dimhem::ui
