#include "core/mask/brush.h"

#include <algorithm>
#include <nlohmann/json.hpp>
#include <numeric>

#include "core/json/fields.h"
#include "core/kernel/coverage_rows.h"
#include "core/kernel/dab_rows.h"
#include "core/mask/brought.h"
#include "core/mask/held_stroke.h"

namespace dimhem::mask {

namespace {

// A stroke as far as it concerns an area, and the key of the coverage after it.
struct Step {
    const Stroke* stroke;
    std::size_t dabs;
    base::ContentKey after;
};

// The area in pixels of the photo, wider by the pixel a rim may spread to at its level.
base::Rect reachOf(const Area& area) {
    const int scale = 1 << area.level;
    return {(area.rect.x0 - 1) * scale, (area.rect.y0 - 1) * scale, (area.rect.x1 + 1) * scale,
            (area.rect.y1 + 1) * scale};
}

base::ContentKey unpaintedKey(const Area& area) {
    return keyOf(area).add(Brush::kindInfo.id).key();
}

base::ContentKey goneOn(const base::ContentKey& before, const Stroke& stroke) {
    return base::KeyBuilder().add(before).add(stroke.chain(stroke.dabs().size())).add(stroke.isFinished()).key();
}

// How many dabs of a stroke bear on the area; a stroke that holds is also one of the photo.
std::size_t dabsOn(const Stroke& stroke, const base::Rect& reach) {
    return stroke.brush().holds ? dabsThatHold(stroke, reach) : stroke.dabsUpToLastTouching(reach);
}

base::ContentKey after(const base::ContentKey& before, const Stroke& stroke, std::size_t dabs, const Area& area,
                       Context& context) {
    base::KeyBuilder key;
    key.add(before).add(stroke.chain(dabs));
    if (stroke.brush().holds) key.add(stroke.isFinished()).add(context.pictureKey(Seen::photo, area));
    return key.key();
}

std::vector<Step> stepsOn(std::span<const StrokePtr> strokes, const Area& area, Context& context) {
    const base::Rect reach = reachOf(area);
    std::vector<Step> steps;
    base::ContentKey key = unpaintedKey(area);
    for (const StrokePtr& stroke : strokes) {
        const std::size_t dabs = dabsOn(*stroke, reach);
        if (dabs == 0) continue;
        key = after(key, *stroke, dabs, area, context);
        steps.push_back({stroke.get(), dabs, key});
    }
    return steps;
}

kernel::DabShape dabShape(const Stroke::Dab& dab, const BrushSettings& brush, const Area& area) {
    const base::Point centre = area.toLevel({dab.x, dab.y});
    kernel::DabShape shape;
    shape.centreX = centre.x;
    shape.centreY = centre.y;
    shape.radius = dab.radius / area.scale();
    shape.softness = brush.softnessPct / 100;
    shape.ceiling = dab.ceiling;
    shape.build = brush.buildPct / 100;
    constexpr double thinnest = 0.5;  // a line thinner than a pixel covers that much less of it
    if (shape.radius < thinnest) {
        shape.ceiling *= shape.radius / thinnest;
        shape.radius = thinnest;
    }
    return shape;
}

void layDab(const kernel::DabShape& dab, const base::Rect& rect, image::Plane<float>& stroke) {
    const int top = std::max(rect.y0, static_cast<int>(dab.centreY - dab.radius) - 1);
    const int bottom = std::min(rect.y1, static_cast<int>(dab.centreY + dab.radius) + 2);
    for (int y = top; y < bottom; ++y) {
        const kernel::DabSpan span = kernel::dabSpan(dab, y);
        const int first = std::max(span.first, rect.x0), last = std::min(span.last, rect.x1);
        if (first >= last) continue;
        float* row = stroke.row(y - rect.y0).data() + (first - rect.x0);
        kernel::dabRow(dab, y, first, row, static_cast<std::size_t>(last - first));
    }
}

// What the step's stroke covers. A stroke that is being painted on goes on from where it stood when the same area
// was last rendered; the outcome is the same as from its beginning.
std::shared_ptr<const StrokeProgress> paintStroke(const Step& step, const Area& area,
                                                  const std::shared_ptr<const StrokeProgress>& before) {
    const Stroke& stroke = *step.stroke;
    const bool goesOn = before && before->dabs <= step.dabs && before->chain == stroke.chain(before->dabs);
    if (goesOn && before->dabs == step.dabs) return before;
    auto progress = std::make_shared<StrokeProgress>();
    progress->dabs = step.dabs;
    progress->chain = stroke.chain(step.dabs);
    progress->stroke = goesOn ? image::copied(before->stroke) : image::filled(area.rect.size(), 0.0f);
    const base::Rect reach = reachOf(area);
    for (std::size_t i = goesOn ? before->dabs : 0; i < step.dabs; ++i) {
        const Stroke::Dab& dab = stroke.dabs()[i];
        if (Stroke::touches(dab, reach)) layDab(dabShape(dab, stroke.brush(), area), area.rect, progress->stroke);
    }
    return progress;
}

// Where the stroke can still change the coverage: full pixels get no fuller and empty ones no emptier.
base::Rect openTo(const image::Plane<float>& stroke, bool removes, const image::Plane<std::uint16_t>& coverage) {
    const std::uint16_t settled = removes ? 0 : kernel::fullCoverage;
    const base::Size size = coverage.size();
    base::Rect open{size.width, size.height, 0, 0};
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            if (stroke.row(y)[x] <= 0 || coverage.row(y)[x] == settled) continue;
            open = {std::min(open.x0, x), std::min(open.y0, y), std::max(open.x1, x + 1), std::max(open.y1, y + 1)};
        }
    }
    return open;
}

void layStroke(const StrokeProgress& painted, const Step& step, const Area& area, Context& context, bool removes,
               image::Plane<std::uint16_t>& coverage) {
    const BrushSettings& brush = step.stroke->brush();
    const auto strength = static_cast<float>(brush.strengthPct / 100);
    const base::Size size = coverage.size();
    const auto width = static_cast<std::size_t>(size.width);
    if (!brush.holds) {
        for (int y = 0; y < size.height; ++y)
            kernel::layRow(painted.stroke.row(y).data(), strength, removes, coverage.row(y).data(), width);
        return;
    }
    // What other strokes have settled is not worked out again: many strokes over one thing overlap.
    const base::Rect open = openTo(painted.stroke, removes, coverage);
    if (open.empty()) return;
    const Area part{{area.rect.x0 + open.x0, area.rect.y0 + open.y0, area.rect.x0 + open.x1, area.rect.y0 + open.y1},
                    area.level};
    const image::Plane<std::uint16_t> held = heldBy(*step.stroke, step.dabs, part, context)->copy(open.size());
    for (int y = open.y0; y < open.y1; ++y) {
        kernel::layHeldRow(painted.stroke.row(y).data() + open.x0, held.row(y - open.y0).data(), strength, removes,
                           coverage.row(y).data() + open.x0, static_cast<std::size_t>(open.width()));
    }
}

image::Plane<std::uint16_t> copyOf(const CoveragePtr& known, const Area& area) {
    return known ? known->copy(area.rect.size()) : Coverage(std::uint16_t{0}).copy(area.rect.size());
}

CoveragePtr layStrokes(const CoveragePtr& known, std::span<const Step> steps, const Area& area, Context& context) {
    image::Plane<std::uint16_t> coverage = copyOf(known, area);
    for (const Step& step : steps)
        layStroke(*paintStroke(step, area, nullptr), step, area, context, step.stroke->brush().removes, coverage);
    return std::make_shared<Coverage>(std::move(coverage));
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

// A stroke that is being painted is the last one: what the many before it come to is worked out once for each area.
base::ContentKey Brush::earlierKeyOn(const Area& area, Context& context) const {
    const base::ContentKey memo = keyOf(area).add("strokes so far").add(earlierKey_).key();
    if (const auto known = context.findKey(memo)) return *known;
    const std::vector<Step> steps = stepsOn(earlier(), area, context);
    const base::ContentKey key = steps.empty() ? unpaintedKey(area) : steps.back().after;
    context.keepKey(memo, key);
    return key;
}

CoveragePtr Brush::earlierCoverage(const Area& area, Context& context) const {
    const base::ContentKey key = earlierKeyOn(area, context);
    if (key == unpaintedKey(area)) return std::make_shared<Coverage>(std::uint16_t{0});
    if (CoveragePtr known = context.find(key)) return known;
    // Begin after the latest step whose outcome is known.
    const std::vector<Step> steps = stepsOn(earlier(), area, context);
    std::size_t next = steps.size();
    CoveragePtr known;
    while (next > 0 && !(known = context.find(steps[next - 1].after))) --next;
    known = layStrokes(known, std::span(steps).subspan(next), area, context);
    context.keep(key, known);
    return known;
}

base::ContentKey Brush::keyOn(const Area& area, Context& context) const {
    const base::ContentKey before = earlierKeyOn(area, context);
    const std::size_t dabs = strokes_.empty() ? 0 : dabsOn(*strokes_.back(), reachOf(area));
    return dabs == 0 ? before : after(before, *strokes_.back(), dabs, area, context);
}

CoveragePtr Brush::render(const Area& area, Context& context) const {
    const CoveragePtr below = earlierCoverage(area, context);
    const std::size_t dabs = strokes_.empty() ? 0 : dabsOn(*strokes_.back(), reachOf(area));
    if (dabs == 0) return below;
    const Stroke& last = *strokes_.back();
    const base::ContentKey progressKey = keyOf(area).add(last.seed()).key();
    const auto painted = paintStroke({&last, dabs, {}}, area, context.findProgress(progressKey));
    context.keepProgress(progressKey, painted);
    image::Plane<std::uint16_t> coverage = copyOf(below, area);
    layStroke(*painted, {&last, dabs, {}}, area, context, last.brush().removes, coverage);
    return std::make_shared<Coverage>(std::move(coverage));
}

image::Plane<float> strokeOver(const Stroke& stroke, const Area& area, Context& context) {
    const std::size_t dabs = dabsOn(stroke, reachOf(area));
    if (dabs == 0) return image::filled(area.rect.size(), 0.0f);
    const auto painted =
        paintStroke({&stroke, dabs, {}}, area, context.findProgress(keyOf(area).add(stroke.seed()).key()));
    image::Plane<std::uint16_t> coverage = copyOf(nullptr, area);
    layStroke(*painted, {&stroke, dabs, {}}, area, context, false, coverage);
    return floatsOf(Coverage(std::move(coverage)), area.rect.size());
}

bool Brush::paints() const {
    return bringsAnything(strokes_);
}

base::ContentKey Brush::paintKeyOn(const Area& area, Context& context) const {
    return broughtKey(strokes_, area, context);
}

void Brush::paint(const Area& area, Context& context, image::RgbaPlanes& out) const {
    layBrought(strokes_, area, context, out);
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
