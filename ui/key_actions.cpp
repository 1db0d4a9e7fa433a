#include "ui/key_actions.h"

#include <QAbstractSpinBox>
#include <QAction>
#include <QApplication>
#include <QKeyEvent>
#include <QLineEdit>
#include <QShortcut>

#include "ui/latin_key.h"

namespace dimhem::ui {

namespace {

constexpr quint64 tapMs = 300;  // a key held no longer than this is a tap
constexpr auto counted = Qt::ShiftModifier | Qt::ControlModifier | Qt::AltModifier | Qt::MetaModifier;

std::pair<int, int> keyOf(const QKeySequence& sequence) {
    return {sequence[0].key(), static_cast<int>(sequence[0].keyboardModifiers())};
}

// A sign that may need Shift on some layouts and not on others.
bool isSign(int key) {
    return key <= 0x7e && !(key >= Qt::Key_A && key <= Qt::Key_Z) && key != Qt::Key_Space &&
           key != Qt::Key_BracketLeft && key != Qt::Key_BracketRight;
}

}  // namespace

KeyActions::KeyActions(QWidget* window) : QObject(window), window_(window) {
    qApp->installEventFilter(this);
}

KeyActions::~KeyActions() {
    qApp->removeEventFilter(this);
}

bool KeyActions::isTyping() {
    QWidget* focus = QApplication::focusWidget();
    return qobject_cast<QLineEdit*>(focus) || qobject_cast<QAbstractSpinBox*>(focus);
}

void KeyActions::on(const QString& id, std::function<void()> act) {
    acts_[id] = std::move(act);
}

void KeyActions::on(const QString& id, QAction* action) {
    window_->addAction(action);
    actions_[id] = action;
    acts_[id] = [action] {
        if (action->isEnabled()) action->trigger();
    };
}

void KeyActions::onHeld(const QString& id, std::function<bool(bool)> act) {
    heldActs_[id] = std::move(act);
}

void KeyActions::act(const QString& id) {
    if (const auto found = acts_.find(id); found != acts_.end()) (*found)();
}

void KeyActions::takeUpKeys() {
    qDeleteAll(shortcuts_);
    shortcuts_.clear();
    pressed_.clear();
    holds_.clear();
    for (const KeyEntry& entry : keyTable()) {
        const QKeySequence sequence = ui::keyOf(entry.id);
        if (QAction* action = actions_.value(entry.id)) {
            action->setShortcut(sequence);
            action->setToolTip(withKey(entry.words, entry.id));
        }
        if (sequence.isEmpty()) continue;
        uses_[entry.id] = entry.use;
        if (entry.use != KeyUse::pressed) {
            if (heldActs_.contains(entry.id)) holds_[keyOf(sequence)] = entry.id;
            continue;
        }
        const auto act = acts_.find(entry.id);
        if (act == acts_.end()) continue;
        pressed_[keyOf(sequence)] = entry.id;
        if (actions_.contains(entry.id)) continue;
        auto* shortcut = new QShortcut(sequence, window_);
        // What is typed keeps its letters and signs, not keys with Ctrl.
        const bool always = sequence[0].keyboardModifiers() & (Qt::ControlModifier | Qt::AltModifier) ||
                            (sequence[0].key() >= Qt::Key_F1 && sequence[0].key() <= Qt::Key_F35);
        connect(shortcut, &QShortcut::activated, this, [act = *act, always] {
            if (always || !isTyping()) act();
        });
        shortcuts_.append(shortcut);
    }
}

bool KeyActions::handle(const QKeyEvent& event) {
    if (isTyping()) return false;
    const int modifiers = static_cast<int>(event.modifiers() & counted), key = latinKey(event);
    auto found = pressed_.find({key, modifiers});
    if (found == pressed_.end() && isSign(key)) found = pressed_.find({key, modifiers & ~Qt::ShiftModifier});
    if (found == pressed_.end()) return false;
    acts_[found->second]();
    return true;
}

QString KeyActions::heldEntry(const QKeyEvent& event) const {
    const int modifiers = static_cast<int>(event.modifiers() & counted), key = latinKey(event);
    auto found = holds_.find({key, modifiers});
    // Shift may be down for something else.
    if (found == holds_.end()) found = holds_.find({key, modifiers & ~Qt::ShiftModifier});
    return found == holds_.end() ? QString() : found->second;
}

// Keys that act while they are held reach us here, before any widget. One that is held is let go of whatever else is
// held by then.
bool KeyActions::eventFilter(QObject* object, QEvent* event) {
    if (event->type() == QEvent::ApplicationDeactivate || event->type() == QEvent::WindowDeactivate) release();
    if (event->type() != QEvent::KeyPress && event->type() != QEvent::KeyRelease) return false;
    auto* widget = qobject_cast<QWidget*>(object);
    if (!widget || (widget->window() != window_ && !heardToo_.contains(widget->window()))) return false;
    const auto& key = *static_cast<QKeyEvent*>(event);
    tellModifiers(key);
    if (key.key() == Qt::Key_Space && widget->property("takesSpace").toBool()) return false;
    const bool isHeld = held_.contains(latinKey(key));
    if (event->type() == QEvent::KeyRelease) return isHeld && (key.isAutoRepeat() || letGo(key));
    if (isHeld) return true;  // it repeats
    if (isTyping() || (heldWhen_ && !heldWhen_())) return false;
    const QString id = heldEntry(key);
    if (id.isEmpty() || !heldActs_[id](true)) return false;
    held_[latinKey(key)] = {id, uses_[id], key.timestamp()};
    return true;
}

// Those that are down once the event is through.
void KeyActions::tellModifiers(const QKeyEvent& event) {
    const Qt::KeyboardModifier own = event.key() == Qt::Key_Control ? Qt::ControlModifier
                                     : event.key() == Qt::Key_Alt   ? Qt::AltModifier
                                     : event.key() == Qt::Key_Shift ? Qt::ShiftModifier
                                                                    : Qt::NoModifier;
    if (own == Qt::NoModifier || !onModifiers_) return;
    const bool down = event.type() == QEvent::KeyPress;
    onModifiers_(down ? event.modifiers() | own : event.modifiers() & ~own);
}

bool KeyActions::letGo(const QKeyEvent& event) {
    const Held held = held_.extract(latinKey(event)).mapped();
    if (held.use == KeyUse::tapped && event.timestamp() <= held.since + tapMs) return true;
    heldActs_[held.id](false);
    return true;
}

void KeyActions::release() {
    for (const auto& [key, held] : std::exchange(held_, {})) heldActs_[held.id](false);
}

}  // namespace dimhem::ui
