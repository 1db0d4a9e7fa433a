// The weightiest note, in one line under the photo, and above it, when it is opened, the list of all of them.
#pragma once

#include <QWidget>

#include "ui/session/notes_watch.h"

class QLabel;
class QToolButton;
class QVBoxLayout;

namespace dimhem::ui {

class NotesLine final : public QWidget {
    Q_OBJECT

public:
    // The list lies over the lower edge of `over`, within `window`.
    NotesLine(Session& session, NotesWatch& notes, QWidget* over, QWidget* parent);
    void setWindowArea(QWidget* window);
    void toggle();
    bool isOpen() const { return list_->isVisible(); }

Q_SIGNALS:
    void placeWanted(const base::Rect& photoRect);

protected:
    bool eventFilter(QObject* object, QEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    void refresh();
    void showHead();
    void fillList();
    QWidget* rowOf(const NotesWatch::Item& item);
    void goTo(const NotesWatch::Item& item);
    void placeList();

    Session& session_;
    NotesWatch& notes_;
    QWidget* over_;
    QToolButton* head_;
    QString text_;
    QWidget* list_;
};

}  // namespace dimhem::ui
