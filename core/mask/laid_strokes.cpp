#include "core/mask/laid_strokes.h"

#include <algorithm>
#include <vector>

#include "core/kernel/coverage_rows.h"
#include "core/kernel/dab_rows.h"
#include "core/mask/held_stroke.h"

namespace dimhem::mask {

namespace {

// A stroke as far as it lays anything on an area.
struct Laying {
    const Stroke* stroke;
    std::size_t dabs;
};

// What is laid at once: one stroke, or a run of strokes that hold together; and the key of the coverage after it.
struct Pass {
    std::span<const StrokePtr> run;  // whole, also those that lay nothing here
    std::vector<Laying> laying;
    base::ContentKey after;

    const BrushSettings& brush() const { return run.front()->brush(); }
    bool isBeingPainted() const { return !run.back()->isFinished(); }
};

base::ContentKey nothingLaidKey(const Area& area) {
    return keyOf(area).add("strokes").key();
}

// How many dabs of a stroke bear on the area; while one that holds is painted, its edge is also one of the photo.
std::size_t dabsOn(const Stroke& stroke, const base::Rect& reach) {
    return stroke.brush().holds && !stroke.isFinished() ? dabsThatHold(stroke, reach)
                                                        : stroke.dabsUpToLastTouching(reach);
}

// The pass over the area after what is there; its key is left empty where it lays nothing.
Pass passOn(const base::ContentKey& before, std::span<const StrokePtr> run, const Area& area, Context& context) {
    Pass pass{run, {}, before};
    const base::Rect reach = reachOf(area);
    for (const StrokePtr& stroke : run) {
        if (const std::size_t dabs = dabsOn(*stroke, reach)) pass.laying.push_back({stroke.get(), dabs});
    }
    if (pass.laying.empty()) return pass;
    base::KeyBuilder key;
    key.add(before);
    for (const Laying& one : pass.laying) key.add(one.stroke->chain(one.dabs));
    if (pass.brush().holds && pass.isBeingPainted())
        key.add("so far").add(context.pictureKey(Seen::photo, area));
    else if (pass.brush().holds)
        key.add(heldKey(run, area, context));
    pass.after = key.key();
    return pass;
}

std::vector<Pass> passesOn(std::span<const StrokePtr> strokes, const Area& area, Context& context) {
    std::vector<Pass> passes;
    base::ContentKey key = nothingLaidKey(area);
    for (std::size_t first = 0; first < strokes.size();) {
        std::size_t end = first + 1;
        while (end < strokes.size() && holdTogether(*strokes[end - 1], *strokes[end])) ++end;
        Pass pass = passOn(key, strokes.subspan(first, end - first), area, context);
        key = pass.after;
        if (!pass.laying.empty()) passes.push_back(std::move(pass));
        first = end;
    }
    return passes;
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

// What the stroke's dabs cover, before its strength.
std::shared_ptr<const StrokeProgress> painted(const Laying& one, const Area& area, Context& context) {
    const Stroke& stroke = *one.stroke;
    const std::shared_ptr<const StrokeProgress> before = context.findProgress(progressKey(stroke, area));
    const bool goesOn = before && before->dabs <= one.dabs && before->chain == stroke.chain(before->dabs);
    if (goesOn && before->dabs == one.dabs) return before;
    auto progress = std::make_shared<StrokeProgress>();
    progress->dabs = one.dabs;
    progress->chain = stroke.chain(one.dabs);
    progress->stroke = goesOn ? image::copied(before->stroke) : image::filled(area.rect.size(), 0.0f);
    const base::Rect reach = reachOf(area);
    for (std::size_t i = goesOn ? before->dabs : 0; i < one.dabs; ++i) {
        const Stroke::Dab& dab = stroke.dabs()[i];
        if (Stroke::touches(dab, reach)) layDab(dabShape(dab, stroke.brush(), area), area.rect, progress->stroke);
    }
    return progress;
}

image::Plane<std::uint16_t> copyOf(const CoveragePtr& known, const Area& area) {
    return known ? known->copy(area.rect.size()) : Coverage(std::uint16_t{0}).copy(area.rect.size());
}

void lay(const Laying& one, const Area& area, Context& context, bool removes, image::Plane<std::uint16_t>& coverage) {
    const auto strength = static_cast<float>(one.stroke->brush().strengthPct / 100);
    const std::shared_ptr<const StrokeProgress> stroke = painted(one, area, context);
    for (int y = 0; y < coverage.size().height; ++y) {
        kernel::layRow(stroke->stroke.row(y).data(), strength, removes, coverage.row(y).data(), coverage.row(y).size());
    }
}

// What the strokes of a run that holds lay together, whatever they hold to. Begins after the latest that is known.
image::Plane<std::uint16_t> laidTogether(const Pass& pass, const Area& area, Context& context) {
    std::vector<base::ContentKey> after;
    base::ContentKey key = keyOf(area).add("laid together").key();
    for (const Laying& one : pass.laying)
        after.push_back(key = base::KeyBuilder().add(key).add(one.stroke->chain(one.dabs)).key());
    std::size_t next = after.size();
    CoveragePtr known;
    while (next > 0 && !(known = context.find(after[next - 1]))) --next;
    image::Plane<std::uint16_t> laid = copyOf(known, area);
    if (next == after.size()) return laid;
    for (; next < after.size(); ++next) lay(pass.laying[next], area, context, false, laid);
    if (!pass.isBeingPainted()) context.keep(key, std::make_shared<Coverage>(image::copied(laid)));
    return laid;
}

// Where what is laid can still change the coverage: full pixels get no fuller and empty ones no emptier.
base::Rect openTo(const image::Plane<std::uint16_t>& laid, bool removes, const image::Plane<std::uint16_t>& coverage) {
    const std::uint16_t settled = removes ? 0 : kernel::fullCoverage;
    const base::Size size = coverage.size();
    base::Rect open{size.width, size.height, 0, 0};
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            if (laid.row(y)[x] == 0 || coverage.row(y)[x] == settled) continue;
            open = {std::min(open.x0, x), std::min(open.y0, y), std::max(open.x1, x + 1), std::max(open.y1, y + 1)};
        }
    }
    return open;
}

void layHeld(const Pass& pass, const Area& area, Context& context, bool removes,
             image::Plane<std::uint16_t>& coverage) {
    const image::Plane<std::uint16_t> laid = laidTogether(pass, area, context);
    // What is settled already is not worked out.
    const base::Rect open = openTo(laid, removes, coverage);
    if (open.empty()) return;
    const Area part{{area.rect.x0 + open.x0, area.rect.y0 + open.y0, area.rect.x0 + open.x1, area.rect.y0 + open.y1},
                    area.level};
    const CoveragePtr belongs = pass.isBeingPainted()
                                    ? heldSoFar(*pass.run.back(), pass.laying.back().dabs, part, context)
                                    : heldBy(pass.run, part, context);
    const image::Plane<std::uint16_t> held = belongs->copy(open.size());
    for (int y = open.y0; y < open.y1; ++y) {
        kernel::layHeldRow(laid.row(y).data() + open.x0, held.row(y - open.y0).data(), removes,
                           coverage.row(y).data() + open.x0, static_cast<std::size_t>(open.width()));
    }
}

void layPass(const Pass& pass, const Area& area, Context& context, bool removes,
             image::Plane<std::uint16_t>& coverage) {
    if (pass.brush().holds)
        layHeld(pass, area, context, removes, coverage);
    else
        lay(pass.laying.front(), area, context, removes, coverage);
}

}  // namespace

base::Rect reachOf(const Area& area) {
    const int scale = 1 << area.level;
    return {(area.rect.x0 - 1) * scale, (area.rect.y0 - 1) * scale, (area.rect.x1 + 1) * scale,
            (area.rect.y1 + 1) * scale};
}

// A stroke that is being painted is the last one: what the many before it come to is worked out once for each area.
base::ContentKey LaidStrokes::keyOn(const Area& area, Context& context) const {
    const base::ContentKey memo = keyOf(area).add("strokes so far").add(key).key();
    if (const auto known = context.findKey(memo)) return *known;
    const std::vector<Pass> passes = passesOn(strokes, area, context);
    const base::ContentKey found = passes.empty() ? nothingLaidKey(area) : passes.back().after;
    context.keepKey(memo, found);
    return found;
}

CoveragePtr LaidStrokes::over(const Area& area, Context& context) const {
    const base::ContentKey whole = keyOn(area, context);
    if (whole == nothingLaidKey(area)) return std::make_shared<Coverage>(std::uint16_t{0});
    if (CoveragePtr known = context.find(whole)) return known;
    // Begin after the latest pass whose outcome is known.
    const std::vector<Pass> passes = passesOn(strokes, area, context);
    std::size_t next = passes.size();
    CoveragePtr known;
    while (next > 0 && !(known = context.find(passes[next - 1].after))) --next;
    image::Plane<std::uint16_t> coverage = copyOf(known, area);
    for (; next < passes.size(); ++next) layPass(passes[next], area, context, passes[next].brush().removes, coverage);
    known = std::make_shared<Coverage>(std::move(coverage));
    context.keep(whole, known);
    return known;
}

base::ContentKey keyWith(const base::ContentKey& before, const Stroke& stroke, const Area& area, Context& context) {
    const StrokePtr one(StrokePtr(), &stroke);
    return passOn(before, {&one, 1}, area, context).after;
}

CoveragePtr layOnto(const CoveragePtr& before, const Stroke& stroke, const Area& area, Context& context) {
    const StrokePtr one(StrokePtr(), &stroke);
    const Pass pass = passOn({}, {&one, 1}, area, context);
    if (pass.laying.empty()) return before;
    context.keepProgress(progressKey(stroke, area), painted(pass.laying.front(), area, context));
    image::Plane<std::uint16_t> coverage = copyOf(before, area);
    layPass(pass, area, context, stroke.brush().removes, coverage);
    return std::make_shared<Coverage>(std::move(coverage));
}

image::Plane<float> strokeOver(const Stroke& stroke, const Area& area, Context& context) {
    const StrokePtr one(StrokePtr(), &stroke);
    const Pass pass = passOn({}, {&one, 1}, area, context);
    if (pass.laying.empty()) return image::filled(area.rect.size(), 0.0f);
    image::Plane<std::uint16_t> coverage = copyOf(nullptr, area);
    layPass(pass, area, context, false, coverage);
    return floatsOf(Coverage(std::move(coverage)), area.rect.size());
}

}  // namespace dimhem::mask
