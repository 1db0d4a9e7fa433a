// Adjustments that measure the photo once (adjust::AdjustmentKind::measure), and documents in which some have yet to.
#pragma once

#include <memory>
#include <optional>

#include "core/adjust/subject.h"
#include "core/render/renderer.h"

namespace dimhem::task {

// The settings of an adjustment with what it measures in the picture as it arrives at it, under its correction's mask
// or, where a place is given, inside that alone. Nothing where there is nothing to measure.
struct Measured {
    adjust::Settings settings;
    std::optional<document::MeasuredUnder> under;  // none: in a place of its own
};
std::optional<Measured> measured(const render::Renderer& renderer, const document::DocumentPtr& document,
                                 document::Id correction, document::Id adjustment,
                                 const std::optional<base::Rect>& place = {}, const base::CancelToken& cancel = {});

// What lies under a correction's mask, as an adjustment of it sees the picture arrive.
document::MeasuredUnder underMask(const adjust::Subject& subject);

// Whether what was measured under the one need not be so under the other, which covers something: the mask has become
// larger or smaller by a quarter, or has moved by a twentieth of the photo's longer side, or what arrives there is of
// another tone or colour (3 units of CIELAB). How much that is is our own choice.
bool isStale(const document::MeasuredUnder& then, const document::MeasuredUnder& now, base::Size photo);

// The adjustments that were measured under a mask or a picture that is another now, first to last.
struct Stale {
    document::Id correction = 0, adjustment = 0;
    document::MeasuredUnder now;
};
std::vector<Stale> staleIn(const render::Renderer& renderer, const document::DocumentPtr& document,
                           const base::CancelToken& cancel = {});

// Whether it measures by itself, into tables that are nobody's but its own; else a person asks for it, and may change
// what was found.
bool measuresByItself(const adjust::AdjustmentKind& kind);

// What an adjustment would look at, for readings of other kinds. The renderer must outlive it.
std::unique_ptr<adjust::Subject> subjectOf(const render::Renderer& renderer, const document::DocumentPtr& document,
                                           document::Id correction, document::Id adjustment,
                                           const base::CancelToken& cancel = {});

// An adjustment that has yet to measure the photo.
struct Unmeasured {
    document::Id correction = 0, adjustment = 0;
};
// The first of them, counted from the photo: those after it see what it does.
std::optional<Unmeasured> firstUnmeasured(const document::Document& document);

// The document with all of them measured, up to one that has nothing to measure.
document::DocumentPtr withAllMeasured(const render::Renderer& renderer, document::DocumentPtr document,
                                      const base::CancelToken& cancel = {});

}  // namespace dimhem::task
