// Shows the two sides by turns; stops when anything is touched.
#pragma once

#include <QObject>
#include <QTimer>

#include "ui/session/session.h"

namespace dimhem::ui {

class Blink final : public QObject {
    Q_OBJECT

public:
    Blink(Session& session, QObject* parent);
    bool showsOther() const { return other_; }

Q_SIGNALS:
    void turned();

protected:
    bool eventFilter(QObject* object, QEvent* event) override;

private:
    void follow();

    Session& session_;
    QTimer timer_;
    bool other_ = false;
};

}  // namespace dimhem::ui
