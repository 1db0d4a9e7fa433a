#include "core/task/notes.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "core/check/opposed.h"
#include "core/check/seam.h"
#include "core/colour/lab.h"
#include "core/colour/print_gamut.h"
#include "core/document/edits.h"
#include "core/image/tiles.h"
#include "core/kernel/coverage_rows.h"
#include "core/kernel/lab_rows.h"
#include "core/mask/borrowed_mask.h"
#include "core/task/masked_colours.h"
#include "core/task/masked_noise.h"
#include "core/task/probe.h"

namespace dimhem::task {

namespace {

using document::Correction;
using document::DocumentPtr;
using document::Id;

struct LabPlanes {
    image::Plane<float> l, a, b;
};

LabPlanes labOf(const image::EncodedPlanes& picture) {
    image::EncodedPlanes lab(picture.size());
    image::copyShared(picture, base::rectOf(picture.size()), lab, base::rectOf(picture.size()));
    for (int y = 0; y < picture.size().height; ++y)
        kernel::labRow(kernel::rowOf(lab, y), static_cast<std::size_t>(picture.size().width));
    return {std::move(lab.red), std::move(lab.green), std::move(lab.blue)};
}

// The cell of a coarse grid that holds most, as a rectangle of the photo.
base::Rect densest(const image::Plane<float>& amount, const mask::Area& area) {
    constexpr int cellPx = 24;
    const base::Size size = amount.size();
    base::Rect best;
    double most = 0;
    for (int y = 0; y < size.height; y += cellPx) {
        for (int x = 0; x < size.width; x += cellPx) {
            const base::Rect cell = base::intersected({x, y, x + cellPx, y + cellPx}, base::rectOf(size));
            double sum = 0;
            for (int v = cell.y0; v < cell.y1; ++v) {
                for (int u = cell.x0; u < cell.x1; ++u) sum += amount.row(v)[static_cast<std::size_t>(u)];
            }
            if (sum <= most) continue;
            most = sum;
            best = cell;
        }
    }
    const int scale = 1 << area.level;
    return {best.x0 * scale, best.y0 * scale, best.x1 * scale, best.y1 * scale};
}

// What is noted of one correction, measured once and looked at by each kind.
class Looked {
public:
    Looked(const render::Renderer& renderer, const DocumentPtr& document, const Correction& correction,
           MaskedPictures pictures, const base::CancelToken& cancel)
        : renderer_(renderer),
          document_(document),
          correction_(correction),
          pictures_(std::move(pictures)),
          written_(renderer.photo().photo()),
          colours_(coloursOf(pictures_, written_)),
          before_(labOf(pictures_.before)),
          after_(labOf(pictures_.after)),
          cancel_(cancel) {}

    std::optional<Note> note(NoteKind kind) const {
        switch (kind) {
            case NoteKind::clipped: return newly(kind, check::Fault::clipped, saidFromClippedPct);
            case NoteKind::blocked: return newly(kind, check::Fault::blocked, saidFromBlockedPct);
            case NoteKind::outside: return newly(kind, check::Fault::outside, saidFromOutsidePct);
            case NoteKind::greyed: return greyed();
            case NoteKind::overshot: return overshot();
            case NoteKind::beyondPrint: return beyondPrint();
            case NoteKind::fullMask: return fullMask();
            case NoteKind::movedMask: return movedMask();
            case NoteKind::noEffect: return noEffect();
            case NoteKind::noise: return noise();
            case NoteKind::seam: return seam();
            case NoteKind::emptyMask:
            case NoteKind::opposed: break;
        }
        return std::nullopt;
    }

private:
    Note plain(NoteKind kind, double amount, double weight) const {
        return {kind, correction_.id, 0, amount, 0, {}, weight};
    }

    template <class Amount>
    base::Rect placeOf(Amount amount) const {
        return densest(image::planeOf(pictures_.area.rect.size(), amount), pictures_.area);
    }
    float weight(int x, int y) const { return pictures_.weights.row(y)[static_cast<std::size_t>(x)]; }

    std::optional<Note> newly(NoteKind kind, check::Fault fault, double from) const {
        const double pct = colours_.newlyPct[static_cast<std::size_t>(fault)];
        if (pct < from) return std::nullopt;
        Note note = plain(kind, pct, pct / from);
        std::vector<check::Fault> was, is;
        image::Plane<float> where(pictures_.area.rect.size());
        for (int y = 0; y < where.size().height; ++y) {
            written_.faultsOf(pictures_.before, y, was);
            written_.faultsOf(pictures_.after, y, is);
            for (std::size_t x = 0; x < is.size(); ++x)
                where.row(y)[x] = is[x] == fault && was[x] != fault ? pictures_.weights.row(y)[x] : 0.0f;
        }
        note.place = densest(where, pictures_.area);
        return note;
    }

    std::optional<Note> greyed() const {
        if (colours_.before.chroma < aCast || colours_.after.chroma > noCast) return std::nullopt;
        Note note = plain(NoteKind::greyed, colours_.after.chroma, 1 + (noCast - colours_.after.chroma) / noCast);
        note.before = colours_.before.chroma;
        note.place = placeOf([&](int x, int y) { return weight(x, y); });
        return note;
    }

    std::optional<Note> overshot() const {
        const auto& was = colours_.before.lab.mean;
        const auto& is = colours_.after.lab.mean;
        const double before = std::hypot(was[1], was[2]);
        if (before < aCast || before > strongColour) return std::nullopt;
        const double beyond = -(was[1] * is[1] + was[2] * is[2]) / before;  // along the cast, the other way
        if (beyond < noCast) return std::nullopt;
        Note note = plain(NoteKind::overshot, beyond, beyond / noCast);
        note.before = before;
        note.place = placeOf([&](int x, int y) { return weight(x, y); });
        return note;
    }

    std::optional<Note> beyondPrint() const {
        image::Plane<float> where(pictures_.area.rect.size());
        double newly = 0, all = 0;
        for (int y = 0; y < where.size().height; ++y) {
            for (std::size_t x = 0; x < where.row(y).size(); ++x) {
                const auto reach = [&](const LabPlanes& p) {
                    return colour::printReach({p.l.row(y)[x], p.a.row(y)[x], p.b.row(y)[x]});
                };
                const float w = pictures_.weights.row(y)[x];
                constexpr double clearly = 1.1;  // the border itself is an estimate
                const bool out = w > 0 && reach(after_) > clearly && reach(before_) <= clearly;
                where.row(y)[x] = out ? w : 0.0f;
                newly += where.row(y)[x];
                all += w;
            }
        }
        const double pct = 100 * newly / all;
        if (pct < saidFromBeyondPrintPct) return std::nullopt;
        Note note = plain(NoteKind::beyondPrint, pct, 0.5 * pct / saidFromBeyondPrintPct);
        note.place = densest(where, pictures_.area);
        return note;
    }

    // A correction of the whole photo, without any part, is meant to be one.
    std::optional<Note> fullMask() const {
        if (correction_.mask.parts.empty()) return std::nullopt;
        constexpr float full = 0.995f;
        const image::Plane<float> opaque = opacityOf(renderer_, pictures_.area);
        for (int y = 0; y < opaque.size().height; ++y) {
            for (std::size_t x = 0; x < opaque.row(y).size(); ++x) {
                if (pictures_.weights.row(y)[x] < full * opaque.row(y)[x]) return std::nullopt;
            }
        }
        return plain(NoteKind::fullMask, 100, 1.5);
    }

    // Of a mask that looks at what arrives: against the same mask where nothing comes before it.
    std::optional<Note> movedMask() const {
        const bool looks = std::ranges::any_of(correction_.mask.parts, [](const mask::PartPtr& part) {
            return part->enabled && mask::looksAtArriving(*part);
        });
        if (!looks) return std::nullopt;
        document::Document alone = *document_;
        for (auto& other : alone.corrections) {
            if (other->id == correction_.id) break;
            Correction off = *other;
            off.enabled = false;
            other = std::make_shared<const Correction>(std::move(off));
        }
        const auto coverageIn = [&](const DocumentPtr& document) {
            return mask::floatsOf(
                *renderer_.coverage(render::Sequence(document, {}, cancel_), correction_.id, pictures_.area),
                pictures_.area.rect.size());
        };
        const image::Plane<float> was = coverageIn(std::make_shared<const document::Document>(std::move(alone))),
                                  is = coverageIn(document_);
        double moved = 0, either = 0;
        image::Plane<float> where(is.size());
        for (int y = 0; y < is.size().height; ++y) {
            for (std::size_t x = 0; x < is.row(y).size(); ++x) {
                where.row(y)[x] = std::abs(is.row(y)[x] - was.row(y)[x]);
                moved += where.row(y)[x];
                either += std::max(is.row(y)[x], was.row(y)[x]);
            }
        }
        const double pct = either > 0 ? 100 * moved / either : 0;
        if (pct < saidFromMovedPct) return std::nullopt;
        Note note = plain(NoteKind::movedMask, pct, pct / saidFromMovedPct);
        note.place = densest(where, pictures_.area);
        return note;
    }

    // An adjustment that is set and changes nothing that can be seen.
    std::optional<Note> noEffect() const {
        constexpr float seen = 0.5f / 255;
        for (const document::AdjustmentUse& use : correction_.adjustments) {
            if (!use.enabled || adjust::isNeutral(*use.kind, use.settings)) continue;
            const DocumentPtr without = document::withAdjustment(*document_, correction_.id, use.id,
                                                                 [](document::AdjustmentUse& u) { u.enabled = false; });
            const auto other = maskedPictures(renderer_, without, correction_.id, cancel_);
            if (!other) return std::nullopt;
            if (largestDifference(pictures_.after, other->after) >= seen) continue;
            Note note = plain(NoteKind::noEffect, 0, 0.6);
            note.other = use.id;
            return note;
        }
        return std::nullopt;
    }

    static float largestDifference(const image::EncodedPlanes& one, const image::EncodedPlanes& other) {
        float most = 0;
        for (const auto plane :
             {&image::EncodedPlanes::red, &image::EncodedPlanes::green, &image::EncodedPlanes::blue}) {
            for (int y = 0; y < one.size().height; ++y) {
                const auto p = (one.*plane).row(y), q = (other.*plane).row(y);
                for (std::size_t x = 0; x < p.size(); ++x) most = std::max(most, std::abs(p[x] - q[x]));
            }
        }
        return most;
    }

    std::optional<Note> noise() const {
        // What lays grain down means to.
        const bool layDown = std::ranges::any_of(correction_.adjustments, [](const document::AdjustmentUse& use) {
            return use.enabled && use.kind->laysGrain;
        });
        if (layDown || !couldLiftNoise()) return std::nullopt;
        const auto found = maskedNoise(renderer_, document_, correction_.id, cancel_);
        if (!found) return std::nullopt;
        const double was = found->before.luminance, is = found->after.luminance;
        if (is < saidFromNoise || is < was * moreNoise) return std::nullopt;
        Note note = plain(NoteKind::noise, is, is / saidFromNoise);
        note.before = was;
        note.place = placeOf([&](int x, int y) { return weight(x, y); });
        return note;
    }

    // The noise is measured on the photo's own pixels, where masks take long: only where tones were lifted or detail
    // was brought out.
    bool couldLiftNoise() const {
        constexpr double lifted = 3;  // of L*
        if (colours_.after.lab.mean[0] > colours_.before.lab.mean[0] + lifted) return true;
        if (colours_.after.lab.spread[0] > colours_.before.lab.spread[0] * moreNoise) return true;
        return std::ranges::any_of(correction_.adjustments, [](const document::AdjustmentUse& use) {
            return use.enabled && use.kind->bringsOutDetail;
        });
    }

    std::optional<Note> seam() const {
        const check::Seam found = check::seamOf(before_.l, after_.l);
        constexpr double leastPixels = 40;
        if (found.pixels < leastPixels) return std::nullopt;
        const double pct = 100 * found.pixels / found.edgePixels;
        if (pct < saidFromSeamPct) return std::nullopt;
        Note note = plain(NoteKind::seam, pct, pct / saidFromSeamPct * found.step / check::seenStep / 2);
        note.place = densest(found.amount, pictures_.area);
        return note;
    }

    const render::Renderer& renderer_;
    DocumentPtr document_;
    const Correction& correction_;
    MaskedPictures pictures_;
    render::WrittenColours written_;
    MaskedColours colours_;
    LabPlanes before_, after_;
    const base::CancelToken& cancel_;
};

void weightiestFirst(std::vector<Note>& notes) {
    std::ranges::stable_sort(notes, std::greater<>(), &Note::weight);
}

// Of these kinds alone.
std::vector<Note> look(const render::Renderer& renderer, const DocumentPtr& document, Id id,
                       std::span<const NoteKind> kinds, const base::CancelToken& cancel) {
    std::vector<Note> notes;
    const Correction* correction = document::findCorrection(*document, id);
    if (!correction || document::shareOf(*document, *correction) <= 0) return notes;
    const auto wants = [&](NoteKind kind) { return std::ranges::find(kinds, kind) != kinds.end(); };
    auto pictures = maskedPictures(renderer, document, id, cancel);
    if (!pictures) {
        // A mask that is only begun, without a part, is no fault.
        if (wants(NoteKind::emptyMask) && !correction->mask.parts.empty())
            notes.push_back({NoteKind::emptyMask, id, 0, 0, 0, {}, 2});
        return notes;
    }
    const Looked looked(renderer, document, *correction, std::move(*pictures), cancel);
    for (const NoteKind kind : kinds) {
        base::throwIfCancelled(cancel);
        if (const auto note = looked.note(kind)) notes.push_back(*note);
    }
    return notes;
}

// The effect of a correction on the picture as it leaves it; none where it has none.
std::optional<check::Effect> effectOf(const render::Renderer& renderer, const DocumentPtr& document, Id id,
                                      const base::CancelToken& cancel) {
    const auto pictures = maskedPictures(renderer, document, id, cancel);
    if (!pictures) return std::nullopt;
    const LabPlanes before = labOf(pictures->before), after = labOf(pictures->after);
    const auto less = [](const image::Plane<float>& p, const image::Plane<float>& q) {
        return image::planeOf(p.size(), [&](int x, int y) {
            return p.row(y)[static_cast<std::size_t>(x)] - q.row(y)[static_cast<std::size_t>(x)];
        });
    };
    return check::Effect{less(after.l, before.l), less(after.a, before.a), less(after.b, before.b)};
}

std::optional<Note> opposedNote(const check::Effect& one, const check::Effect& other, Id earlier, Id later,
                                const mask::Area& area) {
    const check::Opposition found = check::opposition(one, other);
    constexpr double leastPixels = 200;
    if (found.pixels < leastPixels || found.cancelledPct < saidFromOpposedPct || found.cancelled < saidFromOpposedUnits)
        return std::nullopt;
    return Note{NoteKind::opposed,
                later,
                earlier,
                found.cancelledPct,
                0,
                densest(found.amount, area),
                found.cancelledPct / saidFromOpposedPct * found.cancelled / saidFromOpposedUnits / 2};
}

using Effects = std::vector<std::pair<Id, std::shared_ptr<const check::Effect>>>;

std::vector<Note> opposedNotes(const Effects& effects, const mask::Area& area, const base::CancelToken& cancel) {
    std::vector<Note> notes;
    for (std::size_t i = 0; i < effects.size(); ++i) {
        for (std::size_t j = i + 1; j < effects.size(); ++j) {
            base::throwIfCancelled(cancel);
            if (const auto note =
                    opposedNote(*effects[i].second, *effects[j].second, effects[i].first, effects[j].first, area))
                notes.push_back(*note);
        }
    }
    return notes;
}

// What notes of a correction depend on: it and those before it, or all where a mask is borrowed, which may be of one
// that comes later.
std::vector<document::CorrectionPtr> seenBy(const document::Document& document, std::size_t index) {
    const bool borrows = std::ranges::any_of(document.corrections, [](const document::CorrectionPtr& c) {
        return std::ranges::any_of(c->mask.parts, [](const mask::PartPtr& part) {
            return &part->shape->kind() == &mask::BorrowedMask::kindInfo;
        });
    });
    const auto& all = document.corrections;
    return {all.begin(), borrows ? all.end() : all.begin() + static_cast<std::ptrdiff_t>(index) + 1};
}

bool dependsOnStrength(NoteKind kind) {
    switch (kind) {
        case NoteKind::emptyMask:
        case NoteKind::fullMask:
        case NoteKind::movedMask:
        case NoteKind::noEffect: return false;
        default: return true;
    }
}

// Whether the note would still be said at that strength.
bool isSaid(const render::Renderer& renderer, const DocumentPtr& document, const Note& note, double strengthPct,
            const base::CancelToken& cancel) {
    const DocumentPtr eased =
        document::withCorrection(*document, note.correction, [=](Correction& c) { c.strengthPct = strengthPct; });
    if (note.kind != NoteKind::opposed) return !look(renderer, eased, note.correction, {&note.kind, 1}, cancel).empty();
    const auto one = effectOf(renderer, eased, note.other, cancel),
               other = effectOf(renderer, eased, note.correction, cancel);
    return one && other && opposedNote(*one, *other, note.other, note.correction, lookAt(renderer));
}

}  // namespace

std::vector<Note> notesOf(const render::Renderer& renderer, const DocumentPtr& document, Id correction,
                          const base::CancelToken& cancel) {
    std::vector<Note> notes = look(renderer, document, correction, document::noteKinds(), cancel);
    weightiestFirst(notes);
    return notes;
}

struct NotesMemory::Kept {
    struct Entry {
        std::vector<document::CorrectionPtr> seen;
        std::vector<document::Bracket> under;
        std::vector<Note> notes;
        std::shared_ptr<const check::Effect> effect;  // null: it has none that counts
    };
    std::map<Id, Entry> entries;
};

NotesMemory::NotesMemory() : kept_(std::make_unique<Kept>()) {}
NotesMemory::~NotesMemory() = default;

std::vector<Note> notesOf(const render::Renderer& renderer, const DocumentPtr& document,
                          const base::CancelToken& cancel, NotesMemory* memory) {
    using Entry = NotesMemory::Kept::Entry;
    constexpr std::size_t mostEffects = 24;  // three megabytes each
    std::map<Id, Entry> now;
    std::vector<Note> notes;
    Effects effects;
    for (std::size_t i = 0; i < document->corrections.size(); ++i) {
        const Correction& correction = *document->corrections[i];
        Entry entry{seenBy(*document, i), document->brackets, {}, nullptr};
        const auto known = memory ? memory->kept_->entries.find(correction.id) : std::map<Id, Entry>::iterator();
        if (memory && known != memory->kept_->entries.end() && known->second.seen == entry.seen &&
            known->second.under == entry.under) {
            entry = known->second;
        } else {
            entry.notes = notesOf(renderer, document, correction.id, cancel);
            if (document::isActive(*document, correction) && !document::paints(correction) &&
                effects.size() < mostEffects) {
                if (auto effect = effectOf(renderer, document, correction.id, cancel))
                    entry.effect = std::make_shared<const check::Effect>(std::move(*effect));
            }
        }
        std::ranges::copy(entry.notes, std::back_inserter(notes));
        if (entry.effect) effects.emplace_back(correction.id, entry.effect);
        now[correction.id] = std::move(entry);
    }
    std::ranges::copy(opposedNotes(effects, lookAt(renderer), cancel), std::back_inserter(notes));
    if (memory) memory->kept_->entries = std::move(now);
    weightiestFirst(notes);
    return notes;
}

std::optional<double> easeOf(const render::Renderer& renderer, const DocumentPtr& document, const Note& note,
                             const base::CancelToken& cancel) {
    const Correction* correction = document::findCorrection(*document, note.correction);
    if (!correction || !dependsOnStrength(note.kind)) return std::nullopt;
    // The largest whole percent at which it is not said; what a note measures grows with the strength.
    int quiet = 0, said = static_cast<int>(std::ceil(correction->strengthPct));
    while (said - quiet > 1) {
        const int middle = (quiet + said) / 2;
        (isSaid(renderer, document, note, middle, cancel) ? said : quiet) = middle;
    }
    return quiet > 0 ? std::optional<double>(quiet) : std::nullopt;
}

}  // namespace dimhem::task
