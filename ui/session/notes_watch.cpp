#include "ui/session/notes_watch.h"

#include <algorithm>

#include "core/document/edits.h"

namespace dimhem::ui {

namespace {

constexpr int notesPauseMs = 150, easePauseMs = 50;

document::DismissedNote refOf(const task::Note& note) {
    // An adjustment's id lives only as long as the document is open: all of its correction are meant.
    return {note.kind, note.correction, note.kind == document::NoteKind::opposed ? note.other : 0};
}

// What a note says of a mask as a whole is not so any more once that mask is another.
bool isOutdated(const task::Note& note, const document::Document& noted, const document::Document& now) {
    using enum document::NoteKind;
    if (note.kind != emptyMask && note.kind != fullMask && note.kind != movedMask) return false;
    const auto *before = document::findCorrection(noted, note.correction),
               *after = document::findCorrection(now, note.correction);
    return !before || !after || !(before->mask == after->mask);
}

}  // namespace

NotesWatch::NotesWatch(Session& session, QObject* parent)
    : QObject(parent),
      session_(session),
      memory_(std::make_shared<task::NotesMemory>()),
      watch_(session, notesPauseMs, this),
      easeWatch_(session, easePauseMs, this) {
    connect(&watch_, &Watch::due, this, &NotesWatch::start);
    connect(&easeWatch_, &Watch::due, this, &NotesWatch::startEase);
    connect(&session_, &Session::opened, this, [this] {
        notes_.clear();
        memory_ = std::make_shared<task::NotesMemory>();
        watch_.cancel();
        easeWatch_.cancel();
        show();
        watch_.soon();
    });
    // After the hand: a step, not each preview of it.
    connect(&session_, &Session::documentChanged, this, [this] {
        watch_.repeat();
        watch_.later();
        show();
    });
    // While the hand is at work nothing is looked for: it needs the cores.
    connect(&session_, &Session::pictureChanged, this, [this] {
        if (session_.isOpen() && session_.hasGesture()) {
            waits_ = waits_ || watch_.isRunning();
            watch_.cancel();
            easeWatch_.cancel();
        } else if (std::exchange(waits_, false)) {
            watch_.later();
        }
    });
}

void NotesWatch::start() {
    easeWatch_.cancel();
    waits_ = session_.isOpen() && session_.hasGesture();
    if (waits_) return;
    if (!session_.isOpen()) {
        notes_.clear();
        show();
        return;
    }
    watch_.run(
        [renderer = session_.sharedRenderer(), document = session_.document(),
         memory = memory_](const base::CancelToken& token) {
            return std::pair(document, task::notesOf(*renderer, document, token, memory.get()));
        },
        [this](base::Result<std::pair<document::DocumentPtr, std::vector<task::Note>>> found) {
            if (!found) return;
            notedOf_ = found->first;
            notes_ = std::move(found->second);
            show();
            easeWatch_.soon();
        });
}

// One after the other, the weightiest first.
void NotesWatch::startEase() {
    if (!session_.isOpen() || !notedOf_) return;
    std::vector<task::Note> shown;
    for (const Item& item : items_) shown.push_back(item.note);
    if (shown.empty()) return;
    easeWatch_.run(
        [renderer = session_.sharedRenderer(), document = notedOf_, shown](const base::CancelToken& token) {
            std::vector<std::optional<double>> eased;
            for (const task::Note& note : shown) {
                if (token.cancelled()) break;
                eased.push_back(task::easeOf(*renderer, document, note, token));
            }
            return eased;
        },
        [this, shown](const base::Result<std::vector<std::optional<double>>>& eased) {
            if (!eased) return;
            for (Item& item : items_) {
                const auto at = std::ranges::find(shown, item.note);
                const auto index = static_cast<std::size_t>(at - shown.begin());
                if (index < eased->size()) item.easePct = (*eased)[index];
            }
            Q_EMIT changed();
        });
}

void NotesWatch::show() {
    const QList<Item> before = std::exchange(items_, {});
    if (session_.isOpen()) {
        const auto& dismissed = session_.document()->dismissed;
        for (const task::Note& note : notes_) {
            const bool is = document::findCorrection(*session_.document(), note.correction) &&
                            std::ranges::find(dismissed, refOf(note)) == dismissed.end();
            if (!is || (notedOf_ && isOutdated(note, *notedOf_, *session_.document()))) continue;
            const auto known = std::ranges::find(before, note, &Item::note);
            items_.append({note, known == before.end() ? std::nullopt : known->easePct});
        }
    }
    Q_EMIT changed();
}

void NotesWatch::ease(const Item& item) {
    if (!item.easePct) return;
    session_.edit(tr("ease strength"), [&](const document::Document& d) {
        return document::withCorrection(d, item.note.correction,
                                        [&](document::Correction& c) { c.strengthPct = *item.easePct; });
    });
}

void NotesWatch::dismiss(const Item& item) {
    session_.edit(tr("dismiss note"),
                  [&](const document::Document& d) { return document::withDismissed(d, refOf(item.note)); });
}

void NotesWatch::bringBack() {
    session_.edit(tr("bring back notes"), [](const document::Document& d) { return document::withNoneDismissed(d); });
}

}  // namespace dimhem::ui
