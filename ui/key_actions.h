// Connects the keys of the table (session/key_table.h) with what they do.
//
// Keys act by the sign they give; under a layout without Latin letters, by their place. Nothing acts while something is
// being typed. A held key ends when it is let go of, or when the window loses the focus.
#pragma once

#include <QHash>
#include <QObject>
#include <QSet>
#include <functional>
#include <map>

#include "ui/session/key_table.h"

class QAction;
class QKeyEvent;
class QShortcut;
class QWidget;

namespace dimhem::ui {

class KeyActions final : public QObject {
    Q_OBJECT

public:
    explicit KeyActions(QWidget* window);
    ~KeyActions() override;

    // For keys that act once.
    void on(const QString& id, std::function<void()> act);
    // For one that is an action as well, in the menu or as a button: gets the key and a tip that says it.
    void on(const QString& id, QAction* action);
    // For keys that are held or tapped: with true when pressed, false when let go of. One that gives false does not
    // take the key: it goes on to the widget in focus.
    void onHeld(const QString& id, std::function<bool(bool pressed)> act);
    // Whether held keys act; asked at each press.
    void setHeldWhen(std::function<bool()> when) { heldWhen_ = std::move(when); }

    // Held keys act in another window as well; what it does not take it hands to handle().
    void hearAlso(QWidget* window) { heardToo_.insert(window); }

    // Called with the modifiers that are down, whenever one goes down or up.
    void onModifiers(std::function<void(Qt::KeyboardModifiers)> act) { onModifiers_ = std::move(act); }

    void act(const QString& id);          // as its key would, where it acts once
    void takeUpKeys();                    // after keys were chosen: to be called once all are connected as well
    void release();                       // all that are held
    bool handle(const QKeyEvent& event);  // what no shortcut and no widget took

    static bool isTyping();

protected:
    bool eventFilter(QObject* object, QEvent* event) override;

private:
    using Key = std::pair<int, int>;  // Latin key and modifiers
    struct Held {
        QString id;
        KeyUse use;
        quint64 since = 0;
    };
    QString heldEntry(const QKeyEvent& event) const;
    bool letGo(const QKeyEvent& event);
    void tellModifiers(const QKeyEvent& event);

    QWidget* window_;
    QSet<QWidget*> heardToo_;
    QHash<QString, std::function<void()>> acts_;
    QHash<QString, QAction*> actions_;
    QHash<QString, std::function<bool(bool)>> heldActs_;
    std::function<bool()> heldWhen_;
    std::function<void(Qt::KeyboardModifiers)> onModifiers_;
    QList<QShortcut*> shortcuts_;
    std::map<Key, QString> pressed_, holds_;
    QHash<QString, KeyUse> uses_;
    std::map<int, Held> held_;  // by Latin key
};

}  // namespace dimhem::ui
