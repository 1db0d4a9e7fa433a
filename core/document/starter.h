// A starter: the settings of a correction saved for a fault that comes back, with a mask to begin with and a brush to
// paint it with. A JSON file of its own (docs/document-format.md).
#pragma once

#include <optional>
#include <string>
#include <string_view>

#include "core/base/error.h"
#include "core/document/edits.h"
#include "core/mask/stroke.h"

namespace dimhem::document {

inline constexpr int starterVersion = 1;

struct Starter {
    std::string name, about;                   // about: one sentence on what it is for
    std::string first;                         // one sentence on what to do first, with the tool it begins with
    std::optional<mask::BrushSettings> brush;  // its size is taken from brushSizePct
    double brushSizePct = 0;                   // of the longer side of the photo
    CorrectionPtr correction;                  // adjustments, blend, strength, and the parts of a mask to begin with
};

// A correction as a starter: of its mask only what suits another photo - ranges, and what is drawn, to be drawn anew
// (ShapeKind::anew) -, of its adjustments nothing that was measured in this one or marked on it.
Starter starterOf(const Correction& correction, const mask::BrushSettings& brush, base::Size photo);

// A new correction from a starter, for a photo of that size. `index` counts from the photo; past the end means last.
// No id, and the document as it is, where it holds as many as it can.
Added withStarter(const Document& document, const Starter& starter, std::size_t index, base::Size photo);

// The correction it begins, with what is drawn still to be drawn on a photo of that size; ids are not yet its own.
Correction begunFor(const Starter& starter, base::Size photo);

// The part that the person begins with: the first that is drawn, else the last. 0: none.
mask::PartId firstPart(const Correction& begun);

// The starter's brush for a photo of that size; none where it suggests none.
std::optional<mask::BrushSettings> brushFor(const Starter& starter, base::Size photo);

std::string toJsonText(const Starter& starter);
base::Result<Starter> starterFromJsonText(std::string_view text);

}  // namespace dimhem::document
