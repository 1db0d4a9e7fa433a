// Every key of the window: its id, what it does in words, the key it has to begin with, and the one chosen instead.
//
// Shortcuts, the keys named in tooltips and menus, the list of keys in the help and the choosing of other keys all come
// from here. What a key does is connected by the window (key_actions.h). Chosen keys live in the settings.
#pragma once

#include <QKeySequence>
#include <QList>
#include <QString>
#include <QWidget>

namespace dimhem::ui {

enum class KeyUse {
    pressed,  // acts once
    held,     // acts while it is held
    tapped,   // a tap switches; held longer, it switches back on release
};

struct KeyEntry {
    QString id, group, words;
    QKeySequence standard;
    KeyUse use = KeyUse::pressed;
};

QList<KeyEntry> keyTable();

QKeySequence keyOf(const QString& id);  // the one chosen, or the standard one
QString keyText(const QString& id);     // as shown; empty where it has none
// A tip with its key behind it, as in "Undo (Ctrl+Z)".
QString withKey(const QString& tip, const QString& id);

// Tips that follow the keys, whenever others are chosen: `tip` with %1, %2 ... where the keys of these entries stand.
void setKeyTip(QWidget* control, const QString& tip, const QStringList& ids);
void refreshKeyTips(QWidget* window);

void chooseKey(const QString& id, const QKeySequence& key);  // the standard one again where it is that
void forgetChosenKeys();
// The entries other than `id` that have this key.
QList<KeyEntry> clashesOf(const QString& id, const QKeySequence& key);

}  // namespace dimhem::ui
