#include "core/mask/laid_strokes.h"

#include <algorithm>
#include <vector>

#include "core/kernel/coverage_rows.h"
#include "core/kernel/dab_rows.h"
#include "core/mask/held_stroke.h"

namespace dimhem::mask {

namespace {

using Pixels = image::Plane<std::uint16_t>;

// Changes of coverage over an area, one after the other, from what is there. What it comes to after each has a key, by
// which it may be known already.
class Laying final : public Staged<Coverage>::Work {
public:
    Laying(Staged<Coverage> before, const Area& area, CoverageStore& store)
        : before_(std::move(before)), area_(area), store_(store) {}

    void add(const stage::Step<Pixels>& step) {
        after_.push_back(step.keyAfter(key()));
        steps_.push_back(step);
    }
    bool isEmpty() const { return steps_.empty(); }
    base::ContentKey key() const override { return after_.empty() ? before_.key() : after_.back(); }

    // From the latest that is known on.
    CoveragePtr value() const override {
        std::size_t next = steps_.size();
        CoveragePtr known;
        while (next > 0 && !(known = store_.find(after_[next - 1]))) --next;
        if (!known) known = before_.value();
        if (next == steps_.size()) return known;
        Pixels coverage = known->copy(area_.rect.size());
        for (; next < steps_.size(); ++next) steps_[next].apply(coverage);
        return std::make_shared<Coverage>(std::move(coverage));
    }

private:
    Staged<Coverage> before_;
    Area area_;
    CoverageStore& store_;
    std::vector<stage::Step<Pixels>> steps_;
    std::vector<base::ContentKey> after_;
};

std::shared_ptr<Laying> fromNothing(const Area& area, CoverageStore& store) {
    return std::make_shared<Laying>(uniformCoverage(0), area, store);
}

// How many dabs of a stroke bear on the area; while one that holds is painted, its edge is also one of the photo.
std::size_t dabsOn(const Stroke& stroke, const base::Rect& reach) {
    return stroke.brush().holds && !stroke.isFinished() ? dabsThatHold(stroke, reach)
                                                        : stroke.dabsUpToLastTouching(reach);
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

base::ContentKey progressKey(const Stroke& stroke, const Area& area) {
    return keyOf(area).add(stroke.seed()).key();
}

// What the stroke's first dabs cover, before its strength.
std::shared_ptr<const StrokeProgress> painted(const Stroke& stroke, std::size_t dabs, const Area& area,
                                              CoverageStore& store) {
    const std::shared_ptr<const StrokeProgress> before = store.findProgress(progressKey(stroke, area));
    const bool goesOn = before && before->dabs <= dabs && before->chain == stroke.chain(before->dabs);
    if (goesOn && before->dabs == dabs) return before;
    auto progress = std::make_shared<StrokeProgress>();
    progress->dabs = dabs;
    progress->chain = stroke.chain(dabs);
    progress->stroke = goesOn ? image::copied(before->stroke) : image::filled(area.rect.size(), 0.0f);
    const base::Rect reach = reachOf(area);
    for (std::size_t i = goesOn ? before->dabs : 0; i < dabs; ++i) {
        const Stroke::Dab& dab = stroke.dabs()[i];
        if (Stroke::touches(dab, reach)) layDab(dabShape(dab, stroke.brush(), area), area.rect, progress->stroke);
    }
    if (!stroke.isFinished()) store.keepProgress(progressKey(stroke, area), progress);
    return progress;
}

constexpr auto layStroke = [](Pixels& coverage, const Stroke& stroke, std::size_t dabs, bool removes, const Area& area,
                              CoverageStore& store) {
    const auto strength = static_cast<float>(stroke.brush().strengthPct / 100);
    const std::shared_ptr<const StrokeProgress> laid = painted(stroke, dabs, area, store);
    for (int y = 0; y < coverage.size().height; ++y)
        kernel::layRow(laid->stroke.row(y).data(), strength, removes, coverage.row(y).data(), coverage.row(y).size());
};

stage::Step<Pixels> strokeStep(const Stroke& stroke, std::size_t dabs, bool removes, const Area& area,
                               CoverageStore& store) {
    return stage::step<Pixels>("stroke", layStroke, stage::keyed(stroke.chain(dabs), stroke), dabs, removes, area,
                               stage::unkeyed(store));
}

// Where what is laid can still change the coverage: full pixels get no fuller and empty ones no emptier.
base::Rect openTo(const Coverage& laid, bool removes, const Pixels& coverage) {
    const std::uint16_t settled = removes ? 0 : kernel::fullCoverage;
    const base::Size size = coverage.size();
    if (laid.isEmpty()) return {};
    base::Rect open{size.width, size.height, 0, 0};
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            if ((!laid.isConstant() && laid.row(y)[x] == 0) || coverage.row(y)[x] == settled) continue;
            open = {std::min(open.x0, x), std::min(open.y0, y), std::max(open.x1, x + 1), std::max(open.y1, y + 1)};
        }
    }
    return open;
}

// How much the pixels of an area belong to what the strokes of a run hold to.
Staged<Coverage> belongingOver(std::span<const StrokePtr> run, std::size_t lastDabs, const Area& area,
                               const PhotoRead& photo) {
    const Stroke& last = *run.back();
    return last.isFinished() ? heldBy(run, area, photo) : heldSoFar(last, lastDabs, area, photo);
}

// A read of it over the whole area, of which a part may do.
struct Belonging {
    std::span<const StrokePtr> run;
    std::size_t lastDabs;
    Area area;
    PhotoRead photo;

    base::ContentKey key() const { return belongingOver(run, lastDabs, area, photo).key(); }
    const Belonging& value() const { return *this; }
    CoveragePtr over(const base::Rect& part) const {
        return belongingOver(run, lastDabs, {part, area.level}, photo).value();
    }
};

constexpr auto layHeld = [](Pixels& coverage, const Coverage& laid, const Belonging& belonging, bool removes,
                            const Area& area) {
    // What is settled already is not worked out.
    const base::Rect open = openTo(laid, removes, coverage);
    if (open.empty()) return;
    const CoveragePtr belongs = belonging.over(
        {area.rect.x0 + open.x0, area.rect.y0 + open.y0, area.rect.x0 + open.x1, area.rect.y0 + open.y1});
    const Pixels held = belongs->copy(open.size()), all = laid.copy(area.rect.size());
    for (int y = open.y0; y < open.y1; ++y) {
        kernel::layHeldRow(all.row(y).data() + open.x0, held.row(y - open.y0).data(), removes,
                           coverage.row(y).data() + open.x0, static_cast<std::size_t>(open.width()));
    }
};

// One stroke, or a run of strokes that hold together, laid at once; nothing where none of them bears on the area.
void addRun(Laying& laying, std::span<const StrokePtr> run, bool removes, const Area& area, Context& context) {
    const base::Rect reach = reachOf(area);
    const BrushSettings& brush = run.front()->brush();
    if (!brush.holds) {
        if (const std::size_t dabs = dabsOn(*run.front(), reach))
            laying.add(strokeStep(*run.front(), dabs, removes, area, context));
        return;
    }
    // What the strokes of a run lay together, whatever they hold to.
    const auto together = fromNothing(area, context);
    std::size_t lastDabs = 0;
    for (const StrokePtr& stroke : run) {
        const std::size_t dabs = dabsOn(*stroke, reach);
        if (dabs == 0) continue;
        together->add(strokeStep(*stroke, dabs, false, area, context));
        lastDabs = dabs;
    }
    if (together->isEmpty()) return;
    const Staged<Coverage> laid(together);
    laying.add(stage::step<Pixels>("held strokes", layHeld, run.back()->isFinished() ? inStore(context, laid) : laid,
                                   Belonging{run, lastDabs, area, context.photo()}, removes, area));
}

void addAll(Laying& laying, std::span<const StrokePtr> strokes, const Area& area, Context& context) {
    for (std::size_t first = 0; first < strokes.size();) {
        std::size_t end = first + 1;
        while (end < strokes.size() && holdTogether(*strokes[end - 1], *strokes[end])) ++end;
        addRun(laying, strokes.subspan(first, end - first), strokes[first]->brush().removes, area, context);
        first = end;
    }
}

}  // namespace

base::Rect reachOf(const Area& area) {
    const int scale = 1 << area.level;
    return {(area.rect.x0 - 1) * scale, (area.rect.y0 - 1) * scale, (area.rect.x1 + 1) * scale,
            (area.rect.y1 + 1) * scale};
}

// The photo stays as it is: what the many strokes come to is told once for each area, for as long as the store lasts.
Staged<Coverage> LaidStrokes::over(const Area& area, Context& context) const {
    const base::ContentKey question = keyOf(area).add("strokes").add(key).add(context.photo().key()).key();
    return inStore(context, stage::askedOnce(context, question, [strokes = strokes, area, &context] {
                       const auto laying = fromNothing(area, context);
                       addAll(*laying, strokes, area, context);
                       return Staged<Coverage>(laying);
                   }));
}

Staged<Coverage> laidOnto(const Staged<Coverage>& before, const StrokePtr& stroke, const Area& area, Context& context) {
    const auto laying = std::make_shared<Laying>(before, area, context);
    addRun(*laying, {&stroke, 1}, stroke->brush().removes, area, context);
    return Staged<Coverage>(laying);
}

Staged<image::Plane<float>> strokeOver(const StrokePtr& stroke, const Area& area, Context& context) {
    const auto laying = fromNothing(area, context);
    addRun(*laying, {&stroke, 1}, false, area, context);
    return staged<image::Plane<float>>(
        "stroke alone", [](const Coverage& laid, base::Size size) { return floatsOf(laid, size); },
        Staged<Coverage>(laying), area.rect.size());
}

}  // namespace dimhem::mask
