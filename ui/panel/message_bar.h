// Sentences over the photo, with something to do about them where there is. Never a dialog.
//
// Two can stand: the newest warnings, of which each stays until it is answered or closed, and a remark, which passes.
// Warnings that have no room wait, and are shown as others go.
#pragma once

#include <QTimer>
#include <QWidget>

#include "ui/session/message.h"

namespace dimhem::ui {

class MessageRow;

class MessageBar final : public QWidget {
    Q_OBJECT

public:
    // It lies over the upper edge of whichever of these is in sight.
    MessageBar(const QList<QWidget*>& over, QWidget* parent);
    void say(const Message& message);
    QString sentence() const;       // of the newest in sight; empty: none
    QStringList sentences() const;  // of all in sight, from above

protected:
    bool eventFilter(QObject* object, QEvent* event) override;

private:
    MessageRow* addRow(const Message& message);
    void close(MessageRow* row);
    void showRows();
    void place();

    QList<QWidget*> over_;
    QList<MessageRow*> warnings_;  // the newest last
    MessageRow* remark_ = nullptr;
    MessageRow* newest_ = nullptr;
    QTimer away_{this};  // of the remark
};

}  // namespace dimhem::ui
