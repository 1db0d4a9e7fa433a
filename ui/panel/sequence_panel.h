// The sequence: cards from Photo to Result in the order the corrections act, and New.
#pragma once

#include <QSet>
#include <QTimer>
#include <QWidget>

#include "ui/session/small_pictures.h"

class QBoxLayout;
class QMenu;

namespace dimhem::ui {

class Card;

class SequencePanel final : public QWidget {
    Q_OBJECT

public:
    SequencePanel(Session& session, const SmallPictures& pictures, QWidget* parent);

    void removeSelected();  // all that are selected
    void openNewMenu();
    void toggleSelected();

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    void refresh();
    void rebuild();
    void remove(const QList<document::Id>& ids);
    void showStates();
    void showPictures();
    void press(document::Id id, Qt::KeyboardModifiers modifiers);
    QList<document::Id> selected() const;
    void setEnabled(const QList<document::Id>& ids, bool on);
    int dropIndex(QPoint global) const;
    void dragTo(QPoint global);
    void drop(document::Id id, QPoint global);
    void moveBefore(const QList<document::Id>& ids, int place);  // of the cards as they stand
    void selectUpTo(document::Id id);
    void keepSelectedInSight();
    Card* addCorrectionCard(const document::Correction& correction);
    void showCardMenu(document::Id id, QPoint global);
    QMenu* newMenu();

    Session& session_;
    const SmallPictures& pictures_;
    QWidget* strip_;
    class QScrollArea* scroll_;
    class QPushButton* new_;
    Card* photo_ = nullptr;
    Card* result_ = nullptr;
    QList<std::pair<document::Id, Card*>> cards_;
    QTimer edgeScroll_;  // while a dragged card is held near the strip's end
    QPoint draggedTo_;
    QSet<document::Id> also_;  // selected together with the selected one
};

}  // namespace dimhem::ui
