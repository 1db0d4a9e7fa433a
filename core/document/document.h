// What is done to one photo: the corrections in the order they act.
//
// A document is a value: never changed, its pieces shared between versions. An edit (edits.h) makes a new version
// that shares everything untouched, so keeping every version of a session is cheap, and a renderer on another thread
// draws the version it holds without a lock.
#pragma once

#include <cstdint>
#include <functional>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "core/adjust/adjustment.h"
#include "core/document/backdrop.h"
#include "core/document/bracket.h"
#include "core/document/id.h"
#include "core/document/judging.h"
#include "core/document/measured_under.h"
#include "core/kernel/blend_rows.h"
#include "core/kernel/mix_rows.h"
#include "core/mask/mask.h"

namespace dimhem::document {

struct AdjustmentUse {
    Id id = 0;
    const adjust::AdjustmentKind* kind = nullptr;
    bool enabled = true;
    adjust::Settings settings;
    // Under which mask it was measured; none: not yet, by hand, or at a place of its own.
    std::optional<MeasuredUnder> measuredUnder{};
    friend bool operator==(const AdjustmentUse&, const AdjustmentUse&) = default;
};

struct Correction {
    Id id = 0;
    std::string name;
    bool nameGiven = false;  // by a person, or with what it was made from; else it follows what it does (naming.h)
    bool enabled = true;
    double strengthPct = 100;
    kernel::BlendMode blend = kernel::BlendMode::normal;  // of what it makes with what was there
    kernel::MixingLaw mixing = kernel::MixingLaw::even;   // of none and full where coverage is partial
    bool cleanEdge = false;           // acts on the subject's own colour where it shares pixels (render/clean_edge.h)
    int threadColour = 0;             // index into colour::threadColours
    bool threadColourChosen = false;  // by hand: left as it is from then on
    Id bracket = 0;                   // that it stands under (bracket.h); 0, or one that is not there: none
    Id counterpartOf = 0;             // of another correction, which it is the opposite of (pair.h); 0: of none
    mask::Mask mask;
    std::vector<AdjustmentUse> adjustments;
    // Parts are the same where they are the same objects.
    friend bool operator==(const Correction&, const Correction&) = default;
};
using CorrectionPtr = std::shared_ptr<const Correction>;

inline constexpr std::size_t mostItems = 10'000;  // corrections of a document, parts of a mask, adjustments

inline constexpr base::ParamSpec strengthSpec = {.id = "strength",
                                                 .label = "Strength",
                                                 .unit = "%",
                                                 .max = 100,
                                                 .neutral = 100,
                                                 .tip = "How much of the whole correction is laid over the photo."};

// Which photo, by a path relative to the document (or absolute), or packed into it; and what it was when last seen.
struct PhotoLink {
    std::string path;     // empty where the photo is only packed inside
    bool packed = false;  // a copy travels inside the document
    std::string sha256;   // of the file, lower-case hexadecimal; empty: not known
    base::Size size;      // upright; empty: not known
    friend bool operator==(const PhotoLink&, const PhotoLink&) = default;
};

// The corrections as they once stood, to compare with and to go back to.
struct KeptState {
    std::string name;
    std::vector<CorrectionPtr> corrections;
    std::vector<Bracket> brackets;
    friend bool operator==(const KeptState&, const KeptState&) = default;
};
inline constexpr std::size_t mostStates = 4;

struct Document {
    PhotoLink photo;
    Backdrop backdrop;  // behind a photo with transparency
    std::vector<CorrectionPtr> corrections;
    std::vector<Bracket> brackets;
    std::vector<Probe> probes;
    std::vector<KeptState> states;
    std::vector<DismissedNote> dismissed;
    std::shared_ptr<IdSource> ids = std::make_shared<IdSource>();
};
using DocumentPtr = std::shared_ptr<const Document>;

// Whether two versions share all they say: every correction the same object, the same photo, the same backdrop, the
// same brackets, probes, states and dismissed notes.
bool isSame(const Document& a, const Document& b);

const Correction* findCorrection(const Document& document, Id id);
const Correction* findCorrection(const Document& document, std::string_view name);  // the first of that name
int indexOf(const Document& document, Id correction);                               // -1 where absent
const AdjustmentUse* findAdjustment(const Correction& correction, Id id);

// The corrections and those of kept states; what is shared comes up each time.
void forEachCorrection(const Document& document, const std::function<void(const CorrectionPtr&)>& visit);

std::size_t weightOf(const Document& document);  // of all shapes; a document can hold mask::mostWeight

// Whether `borrower` may use the mask of `lender`: not its own, nor one that borrows, by whatever way, from it.
bool canBorrow(const Document& document, Id borrower, Id lender);
// One that borrows, by whatever way, its own mask; null: none does.
const Correction* borrowsItself(const Document& document);

// How many masks, at most, are made each of the next by borrowing; with one loan more, if given. None borrows itself.
struct Loan {
    Id borrower, lender;
};
std::size_t deepestBorrowing(const Document& document, const std::optional<Loan>& besides = {});
inline constexpr std::size_t mostBorrowing = 250;  // that a document may hold: each is worked out within the one before

const Bracket* bracketOf(const Document& document, const Correction& correction);  // null: it stands under none
// The share of the correction that is laid over the photo, 0..1: its own strength times its bracket's; 0 where either
// is off.
double shareOf(const Document& document, const Correction& correction);

// Whether the correction can change any pixel: on, of some strength, with an adjustment that is on and not neutral, or
// blended with itself; by itself, or under its bracket as well.
bool isActive(const Correction& correction);
bool isActive(const Document& document, const Correction& correction);
// Whether any of its adjustments that are on brings colours of its own: what it covers need not end at an edge.
bool paints(const Correction& correction);

}  // namespace dimhem::document
