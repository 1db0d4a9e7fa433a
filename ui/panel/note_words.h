// Notes in words.
#pragma once

#include <QString>

#include "core/document/document.h"
#include "core/task/notes.h"

namespace dimhem::ui {

// One sentence with its amount, naming the correction.
QString noteText(const task::Note& note, const document::Document& document);
// What to think of it, for a tip.
QString noteTip(document::NoteKind kind);

}  // namespace dimhem::ui
