#include "core/mask/brush.h"

#include <algorithm>
#include <nlohmann/json.hpp>
#include <numeric>

#include "core/json/fields.h"
#include "core/json/schema.h"
#include "core/mask/brought.h"

namespace dimhem::mask {

namespace {

base::ContentKey goneOn(const base::ContentKey& before, const Stroke& stroke) {
    return base::KeyBuilder().add(before).add(stroke.chain(stroke.dabs().size())).add(stroke.isFinished()).key();
}

schema::Schema strokesSchema() {
    return {{"type", "array"}, {"items", Stroke::schema()}};
}

base::Result<ShapePtr> fromJsonAs(const nlohmann::json& json, const ShapeKind& kind) {
    std::vector<StrokePtr> strokes;
    std::size_t weight = 0;
    const auto list = json.find("strokes");
    bool looks = false;
    if (&kind == &Brush::fineDetail) {
        const auto alongEdge = fields::readBool(json, "along-edge", false);
        if (!alongEdge) return tl::unexpected(alongEdge.error());
        looks = *alongEdge;
    }
    if (list == json.end()) return std::make_shared<Brush>(std::move(strokes), kind, looks);
    if (!list->is_array()) return fields::wrongField("strokes", "a list of strokes");
    for (const auto& item : *list) {
        auto stroke = Stroke::fromJson(item);
        if (!stroke)
            return tl::unexpected(fields::inPlace("stroke " + std::to_string(strokes.size() + 1), stroke.error()));
        weight += (*stroke)->weight();
        if (weight > mostWeight)
            return fields::wrongField("strokes", "a list that is shorter: they are too long together");
        strokes.push_back(std::move(*stroke));
    }
    return std::make_shared<Brush>(std::move(strokes), kind, looks);
}

}  // namespace

const ShapeKind Brush::kindInfo = {
    .id = "brush",
    .label = "Brush",
    .tip = "Paint the mask by hand, or paint parts of it away.",
    .makeFor = [](base::Size) -> ShapePtr { return std::make_shared<Brush>(); },
    .fromJson = [](const nlohmann::json& json) { return fromJsonAs(json, Brush::kindInfo); },
    .schema =
        [] {
            return schema::Members{.properties = {{"strokes", strokesSchema()}}};
        },
    .group = "drawn",
    .anew = [](const Shape&, base::Size) -> ShapePtr { return std::make_shared<Brush>(); },
};

const ShapeKind Brush::fineDetail = {
    .id = "fine-detail",
    .label = "Fine detail",
    .tip =
        "Hair, leaves, fringe, soft passages: the mask above is found anew along its edge, and where you paint over "
        "it.",
    .makeFor = [](base::Size) -> ShapePtr {
        return std::make_shared<Brush>(std::vector<StrokePtr>(), Brush::fineDetail, true);
    },
    .fromJson = [](const nlohmann::json& json) { return fromJsonAs(json, Brush::fineDetail); },
    .schema =
        [] {
            return schema::Members{.properties = {{"strokes", strokesSchema()}, {"along-edge", schema::flag(false)}}};
        },
    .group = "found",
};

Brush::Brush(std::vector<StrokePtr> strokes, const ShapeKind& kind, bool looksAlongEdge)
    : kind_(&kind), looksAlongEdge_(looksAlongEdge), strokes_(std::move(strokes)) {
    for (const StrokePtr& stroke : earlier()) earlierKey_ = goneOn(earlierKey_, *stroke);
    for (const StrokePtr& stroke : strokes_) bound(*stroke);
}

Brush::Brush(std::vector<StrokePtr> strokes, const Brush& from, const base::ContentKey& earlierKey)
    : kind_(from.kind_),
      looksAlongEdge_(from.looksAlongEdge_),
      strokes_(std::move(strokes)),
      earlierKey_(earlierKey),
      bounds_(from.bounds_) {
    bound(*strokes_.back());
}

void Brush::bound(const Stroke& stroke) {
    if (stroke.brush().holds) {
        bounds_.reset();
    } else if (bounds_) {
        bounds_ = base::united(*bounds_, stroke.bounds());
    }
}

std::shared_ptr<const Brush> Brush::withStroke(StrokePtr stroke) const {
    std::vector<StrokePtr> strokes = strokes_;
    const base::ContentKey key = strokes_.empty() ? earlierKey_ : goneOn(earlierKey_, *strokes_.back());
    strokes.push_back(std::move(stroke));
    return std::shared_ptr<const Brush>(new Brush(std::move(strokes), *this, key));
}

std::shared_ptr<const Brush> Brush::withoutLast() const {
    return std::make_shared<const Brush>(std::vector<StrokePtr>(strokes_.begin(), strokes_.end() - 1), *kind_,
                                         looksAlongEdge_);
}

std::shared_ptr<const Brush> Brush::withLookingAlongEdge(bool looks) const {
    return std::make_shared<const Brush>(strokes_, *kind_, looks);
}

std::shared_ptr<const Brush> Brush::takenAway() const {
    std::vector<StrokePtr> taken;
    for (const StrokePtr& stroke : strokes_) {
        if (!stroke->brush().removes) continue;
        BrushSettings brush = stroke->brush();
        brush.removes = false;
        std::vector<StrokePoint> points;
        for (std::size_t i = 0; i < stroke->points().size(); ++i) points.push_back(stroke->points()[i]);
        taken.push_back(Stroke::through(brush, points)->finished());
    }
    return taken.empty() ? nullptr : std::make_shared<const Brush>(std::move(taken));
}

// Its bounds stay at least as wide as those of the stroke that was last, which it grew from.
std::shared_ptr<const Brush> Brush::withLast(StrokePtr stroke) const {
    std::vector<StrokePtr> strokes = strokes_;
    strokes.back() = std::move(stroke);
    return std::shared_ptr<const Brush>(new Brush(std::move(strokes), *this, earlierKey_));
}

std::optional<std::uint16_t> Brush::uniformOn(const Area& area) const {
    if (looksAlongEdge_) return std::nullopt;
    const bool isNear = !bounds_ || !base::intersected(*bounds_, reachOf(area)).empty();
    return isNear ? std::nullopt : std::optional<std::uint16_t>(0);
}

std::span<const StrokePtr> Brush::earlier() const {
    return std::span(strokes_).first(strokes_.empty() ? 0 : strokes_.size() - 1);
}

// The strokes that nothing more will come to, by their key and by themselves.
LaidStrokes Brush::settled() const {
    if (strokes_.empty() || !strokes_.back()->isFinished()) return {earlier(), earlierKey_};
    return {strokes_, goneOn(earlierKey_, *strokes_.back())};
}

bool Brush::isBeingPainted() const {
    return !strokes_.empty() && !strokes_.back()->isFinished();
}

Staged<Coverage> Brush::over(const Area& area, Context& context) const {
    const Staged<Coverage> before = settled().over(area, context);
    return isBeingPainted() ? laidOnto(before, strokes_.back(), area, context) : before;
}

bool Brush::paints() const {
    return bringsAnything(strokes_);
}

std::optional<PaintStep> Brush::painting(const Area& area, Context& context) const {
    return bringing(strokes_, area, context);
}

std::size_t Brush::weight() const {
    return std::transform_reduce(strokes_.begin(), strokes_.end(), std::size_t{0}, std::plus<>(),
                                 [](const StrokePtr& stroke) { return stroke->weight(); });
}

void Brush::toJson(nlohmann::json& json) const {
    auto& list = json["strokes"] = nlohmann::json::array();
    for (const StrokePtr& stroke : strokes_) list.push_back(stroke->toJson());
    if (isZone()) json["along-edge"] = looksAlongEdge_;
}

}  // namespace dimhem::mask
