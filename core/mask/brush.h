// Brush: coverage painted by hand, stroke after stroke (laid_strokes.h).
#pragma once

#include <span>
#include <vector>

#include "core/mask/laid_strokes.h"
#include "core/mask/shape.h"
#include "core/mask/stroke.h"

namespace dimhem::mask {

class Brush final : public Shape {
public:
    explicit Brush(std::vector<StrokePtr> strokes = {}, const ShapeKind& kind = kindInfo, bool looksAlongEdge = false);
    static const ShapeKind kindInfo;
    // Strokes that say "here is hair, leaves, fringe": the mask before them is solved there (solved_zone.h).
    static const ShapeKind fineDetail;
    // Whether fine detail is looked for along the mask's edge as well, and is left where strokes remove.
    bool looksAlongEdge() const { return looksAlongEdge_; }
    std::shared_ptr<const Brush> withLookingAlongEdge(bool looks) const;
    // The strokes that remove, as strokes that paint; null where there are none.
    std::shared_ptr<const Brush> takenAway() const;

    std::span<const StrokePtr> strokes() const { return strokes_; }
    std::shared_ptr<const Brush> withStroke(StrokePtr stroke) const;  // one more
    std::shared_ptr<const Brush> withoutLast() const;                 // which must exist
    std::shared_ptr<const Brush> withLast(StrokePtr stroke) const;    // instead of the last, which must exist

    const ShapeKind& kind() const override { return *kind_; }
    bool isZone() const override { return kind_ == &fineDetail; }
    std::optional<std::uint16_t> uniformOn(const Area& area) const override;
    Staged<Coverage> over(const Area& area, Context& context) const override;
    void toJson(nlohmann::json& json) const override;
    std::size_t weight() const override;
    bool paints() const override;
    std::optional<PaintStep> painting(const Area& area, Context& context) const override;

private:
    Brush(std::vector<StrokePtr> strokes, const Brush& from, const base::ContentKey& earlierKey);
    void bound(const Stroke& stroke);
    std::span<const StrokePtr> earlier() const;  // all but the last
    LaidStrokes settled() const;
    bool isBeingPainted() const;  // the last one

    const ShapeKind* kind_;
    bool looksAlongEdge_ = false;
    std::vector<StrokePtr> strokes_;
    base::ContentKey earlierKey_;  // of the strokes before the last
    // Of the dabs of all strokes, in pixels of the photo; nothing where one holds, which reaches farther.
    std::optional<base::Rect> bounds_ = base::Rect{};
};

}  // namespace dimhem::mask
