// What is copied from one correction and put on another: adjustments, an effect, a mask, parts, a whole correction. As
// text it is the document's own JSON (docs/document-format.md), so that it can come from an editor as well:
//
//   {"kind": "light", ...}  or a list of such     adjustments, or parts of a mask: added to what is there
//   {"adjustments": [...], "blend": ..., ...}     an effect: in place of the one that is there
//   {"mask": {...}}                               a mask: in place of the one that is there
//   {"adjustments": ..., "mask": ..., ...}        a whole correction: a new one
#pragma once

#include <string>
#include <string_view>

#include "core/base/error.h"
#include "core/document/edits.h"

namespace dimhem::document {

struct Clip {
    enum class What { adjustments, parts, effect, mask, correction };
    What what = What::effect;
    Correction of;  // as much of it as `what` says; of parts: of.mask.parts
};

std::string toJsonText(const Clip& clip);
// Ids are given out anew.
base::Result<Clip> clipFromJsonText(std::string_view text);

// Without what was measured in, or marked on, the photo it comes from.
Clip forAnotherPhoto(Clip clip);
// Its parts that borrow a mask borrow none: what lent to them is elsewhere.
Clip forAnotherDocument(Clip clip);

// Put on a correction; a whole correction comes after it (0: last). The id is that of the correction, 0 where it does
// not exist or nothing more can be added.
Added withClip(const Document& document, Id correction, const Clip& clip);

}  // namespace dimhem::document
