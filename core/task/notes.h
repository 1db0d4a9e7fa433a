// Notes: what a correction has done that a person may find out too late.
//
// Each is measured at a level of at most a quarter of a million pixels, under the mask, before the correction and after
// it, and comes with its amount and the place where there is most of it. The thresholds stand beside their names; they
// are common practice unless a source is named.
#pragma once

#include <memory>
#include <optional>
#include <string_view>
#include <vector>

#include "core/base/cancel.h"
#include "core/document/judging.h"
#include "core/render/renderer.h"

namespace dimhem::task {

using document::NoteKind;

struct Note {
    NoteKind kind;
    document::Id correction = 0;
    document::Id other = 0;  // the correction it opposes, or the adjustment without effect; 0: none
    double amount = 0;       // in the unit of its kind (notes.cpp)
    double before = 0;       // the same before the correction, where the kind compares the two
    base::Rect place{};      // of the photo: where there is most of it; empty: nowhere in particular
    double weight = 0;       // how much it matters, 1 at its threshold
    friend bool operator==(const Note&, const Note&) = default;
};

// From when on each is said.
inline constexpr double saidFromClippedPct = 0.5, saidFromBlockedPct = 1, saidFromOutsidePct = 2,
                        saidFromBeyondPrintPct = 5;          // of the masked area, newly
inline constexpr double aCast = 3, noCast = 1.2;             // CIELAB chroma
inline constexpr double strongColour = 25;                   // what has so much chroma has no cast, it has a colour
inline constexpr double saidFromOpposedPct = 50;             // of the weaker's effect
inline constexpr double saidFromOpposedUnits = 1.5;          // and in CIELAB units where they oppose
inline constexpr double saidFromMovedPct = 15;               // of the mask
inline constexpr double saidFromNoise = 4, moreNoise = 1.5;  // sigma in levels of 255, and how much more than before
inline constexpr double saidFromSeamPct = 10;                // of the edge of the effect

// Of one correction, the weightiest first. Nothing of one that is off.
std::vector<Note> notesOf(const render::Renderer& renderer, const document::DocumentPtr& document,
                          document::Id correction, const base::CancelToken& cancel = {});

// Of all corrections, and of pairs that pull the same area in opposite directions, the weightiest first. What fills or
// paints is no party to that: it takes away what was there.
// `memory`, where given, keeps what was found for the next version of the same photo's document: what has not changed
// since, nor anything before it, is not looked at again.
class NotesMemory;
std::vector<Note> notesOf(const render::Renderer& renderer, const document::DocumentPtr& document,
                          const base::CancelToken& cancel = {}, NotesMemory* memory = nullptr);

// One thread at a time.
class NotesMemory {
public:
    NotesMemory();
    ~NotesMemory();

private:
    friend std::vector<Note> notesOf(const render::Renderer&, const document::DocumentPtr&, const base::CancelToken&,
                                     NotesMemory*);
    struct Kept;
    std::unique_ptr<Kept> kept_;
};

// The strength of the note's correction, in whole percent below its own, at which it would not be said; nothing where
// there is none, or where it does not depend on the strength.
std::optional<double> easeOf(const render::Renderer& renderer, const document::DocumentPtr& document, const Note& note,
                             const base::CancelToken& cancel = {});

}  // namespace dimhem::task
