// What a document keeps for judging it, none of which changes a pixel: probes, and the notes that were dismissed.
#pragma once

#include <array>
#include <optional>
#include <span>
#include <string_view>

#include "core/base/rect.h"
#include "core/document/id.h"

namespace dimhem::document {

// A place whose colour is read before and after: a square about a point, or an area.
struct Probe {
    base::Point place;                 // of the photo; its middle is read
    int sizePx = 5;                    // one of probeSizes
    std::optional<base::Rect> area{};  // instead
    bool neutral = false;              // known to be without colour: the cast is judged against it
    base::Rect rect() const;
    friend bool operator==(const Probe&, const Probe&) = default;
};
base::Point middleOf(const Probe& probe);
Probe moved(Probe probe, base::Point by);  // an area by whole pixels
inline constexpr std::array<int, 5> probeSizes{1, 3, 5, 15, 51};
inline constexpr std::size_t mostProbes = 8;

// What can be noted of a correction (task/notes.h), with the unit of its amount.
enum class NoteKind {
    clipped,      // newly clipped, percent of the masked area
    blocked,      // newly blocked, percent
    outside,      // newly stronger than the file's profile holds, percent
    greyed,       // the mean chroma that is left
    overshot,     // the chroma of the cast beyond neutral
    beyondPrint,  // newly stronger than four inks hold, percent
    opposed,      // to another correction: percent of the weaker's effect that is cancelled
    emptyMask,    // none
    fullMask,     // none
    movedMask,    // percent of the mask that the corrections before it have moved
    noEffect,     // of an adjustment: none
    noise,        // sigma in levels of 255
    seam,         // percent of the effect's edge where the photo has none
};
std::span<const NoteKind> noteKinds();
std::string_view idOf(NoteKind kind);  // as written in documents
std::optional<NoteKind> noteKindOf(std::string_view id);

struct DismissedNote {
    NoteKind kind = NoteKind::clipped;
    Id correction = 0;
    Id other = 0;  // the correction it opposes; 0: none
    friend bool operator==(const DismissedNote&, const DismissedNote&) = default;
};
inline constexpr std::size_t mostDismissed = 1000;

}  // namespace dimhem::document
