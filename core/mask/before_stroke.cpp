#include "core/mask/before_stroke.h"

#include <algorithm>
#include <cmath>

#include "core/image/tiles.h"
#include "core/kernel/bilinear.h"
#include "core/mask/bringer.h"
#include "core/mask/laid_strokes.h"
#include "core/mask/painted.h"

namespace dimhem::mask {

namespace {

using image::EncodedPlanes;
using image::RgbaPlanes;

struct Strokes {
    std::span<const StrokePtr> all;
};

void addTo(base::KeyBuilder& key, const Strokes& strokes) {
    key.add(strokes.all.size());
    for (const StrokePtr& stroke : strokes.all) key.add(stroke->chain(stroke->dabs().size())).add(stroke->isFinished());
}

void addStroke(StrokePlan& plan, std::size_t index, const StrokePtr& stroke, int level) {
    const Bringer* bringer = bringerOf(stroke->brush().brings.kind);
    if (!bringer && !stroke->brush().removes) return;
    PlannedStroke one{index, stroke, base::grown(image::levelRect(stroke->bounds(), level), 1), {}, {}};
    if (bringer) one.depends = bringer->looksAt(*stroke, one.target, level);
    base::KeyBuilder key;
    key.add(level).add(stroke->chain(stroke->dabs().size())).add(stroke->isFinished());
    const base::Rect seen = base::united(one.depends, one.target);
    for (const PlannedStroke& before : plan.strokes) {
        if (base::intersected(before.target, seen).empty()) continue;
        key.add(before.key);
        one.depends = base::united(one.depends, before.depends);
    }
    one.key = key.key();
    plan.strokes.push_back(std::move(one));
}

StrokePlanPtr planOf(std::span<const StrokePtr> strokes, int level, stage::Store& store);

constexpr auto planFrom = [](const Strokes& strokes, int level, stage::Store& store) {
    // One that is being painted comes after those before it, which stay as they are.
    const bool goesOn = strokes.all.size() > 1 && !strokes.all.back()->isFinished();
    const std::size_t known = goesOn ? strokes.all.size() - 1 : 0;
    StrokePlan plan = goesOn ? *planOf(strokes.all.first(known), level, store) : StrokePlan();
    for (std::size_t i = known; i < strokes.all.size(); ++i) addStroke(plan, i, strokes.all[i], level);
    return plan;
};

StrokePlanPtr planOf(std::span<const StrokePtr> strokes, int level, stage::Store& store) {
    return stage::kept(store,
                       staged<StrokePlan>("plan of strokes", planFrom, Strokes{strokes}, level, stage::unkeyed(store)))
        .value();
}

void copyRgba(const RgbaPlanes& from, const base::Rect& fromRect, RgbaPlanes& to, const base::Rect& toRect) {
    image::copyShared(from.colours, fromRect, to.colours, toRect);
    image::copyShared(from.alpha, fromRect, to.alpha, toRect);
}

// A part of what a stroke made of a tile.
void layPart(const RgbaPlanes& made, const base::Rect& tile, const base::Rect& part, bool removes,
             const base::Rect& rect, RgbaPlanes& out) {
    RgbaPlanes layer(part.size()), below(part.size());
    copyRgba(made, tile, layer, part);
    copyRgba(out, rect, below, part);
    if (removes) {
        for (int y = 0; y < part.height(); ++y)
            std::ranges::transform(below.alpha.row(y), layer.alpha.row(y), below.alpha.row(y).begin(),
                                   [](float now, float taken) { return now * (1 - taken); });
    } else {
        layOver(layer, below);
    }
    copyRgba(below, part, out, rect);
}

// What a stroke brings to its part of a tile of the grid through the origin.
constexpr auto layerFrom = [](const BeforeStroke& before, const base::Rect& tile) {
    RgbaPlanes made(tile.size());
    made.alpha = before.coverage(tile);
    const Bringer* bringer = bringerOf(before.brings().kind);
    if (bringer && !before.stroke()->brush().removes) made.colours = bringer->over(before, tile);
    return made;
};

void layOne(const BeforeStroke& before, const base::Rect& rect, RgbaPlanes& out) {
    image::forEachTile(base::intersected(before.target(), rect), image::defaultTilePx, [&](const base::Rect& tile) {
        const base::Rect whole = base::intersected(tile, before.target());
        const auto layer = stage::kept(before.store(), staged<RgbaPlanes>("brought", layerFrom, before, whole)).value();
        layPart(*layer, whole, base::intersected(whole, rect), before.stroke()->brush().removes, rect, out);
    });
}

}  // namespace

std::vector<BeforeStroke> BeforeStroke::allOf(std::span<const StrokePtr> strokes, int level, Context& context) {
    const StrokePlanPtr plan = planOf(strokes, level, context);
    std::vector<BeforeStroke> all;
    for (std::size_t i = 0; i < plan->strokes.size(); ++i) all.push_back(BeforeStroke(plan, i, level, context));
    return all;
}

base::ContentKey BeforeStroke::key() const {
    const PlannedStroke& one = planned();
    base::KeyBuilder key;
    key.add(one.key);
    if (!one.depends.empty()) key.add(context_->picture(Seen::arriving, {one.depends, level_}).key());
    if (one.stroke->brush().holds) key.add(context_->photo().key());
    return key.key();
}

EncodedPlanes BeforeStroke::picture(const base::Rect& rect) const {
    EncodedPlanes picture = context_->picture(Seen::arriving, {rect, level_}).value();
    RgbaPlanes over(rect.size());
    for (std::size_t i = 0; i < place_; ++i) {
        const BeforeStroke before(plan_, i, level_, *context_);
        if (!base::intersected(before.target(), rect).empty()) layOne(before, rect, over);
    }
    for (const auto& [from, to] : {std::pair{&over.colours.red, &picture.red},
                                   {&over.colours.green, &picture.green},
                                   {&over.colours.blue, &picture.blue}}) {
        for (int y = 0; y < rect.height(); ++y) {
            for (std::size_t x = 0; x < to->row(y).size(); ++x) {
                const float a = over.alpha.row(y)[x];
                if (a > 0) to->row(y)[x] += a * (from->row(y)[x] - to->row(y)[x]);
            }
        }
    }
    return picture;
}

image::Plane<float> BeforeStroke::coverage(const base::Rect& rect) const {
    return image::copied(*strokeOver(stroke(), {rect, level_}, *context_).value());
}

EncodedPlanes BeforeStroke::taken(const base::Rect& rect, const std::function<base::Point(base::Point)>& from) const {
    const double scale = 1 << level_;
    const auto placeOf = [&](double x, double y) { return from(base::Point{x * scale, y * scale}) * (1 / scale); };
    base::Rect wanted;
    for (const auto& [x, y] : {std::pair{rect.x0, rect.y0}, {rect.x1, rect.y0}, {rect.x0, rect.y1}, {rect.x1, rect.y1}})
        wanted = base::united(wanted, base::grown(moved({0, 0, 1, 1}, placeOf(x, y)), 2));
    // Beyond the photo its edge goes on: no more than a little of that need be read.
    wanted = base::intersected(wanted, base::grown(base::rectOf(size()), 2));
    if (wanted.empty()) wanted = {0, 0, 1, 1};
    const EncodedPlanes there = picture(wanted);
    EncodedPlanes out(rect.size());
    for (int y = 0; y < rect.height(); ++y) {
        for (int x = 0; x < rect.width(); ++x) {
            const base::Point at =
                placeOf(rect.x0 + x + 0.5, rect.y0 + y + 0.5) - base::Point{double(wanted.x0), double(wanted.y0)};
            out.red.view().at(x, y) = static_cast<float>(kernel::bilinear(there.red, at.x, at.y));
            out.green.view().at(x, y) = static_cast<float>(kernel::bilinear(there.green, at.x, at.y));
            out.blue.view().at(x, y) = static_cast<float>(kernel::bilinear(there.blue, at.x, at.y));
        }
    }
    return out;
}

std::vector<StrokePtr> BeforeStroke::strokesBefore() const {
    std::vector<StrokePtr> strokes;
    for (std::size_t i = 0; i < place_; ++i) strokes.push_back(plan_->strokes[i].stroke);
    return strokes;
}

BeforeStroke BeforeStroke::onLevel(int level) const {
    std::vector<StrokePtr> strokes = strokesBefore();
    strokes.push_back(stroke());
    return allOf(strokes, level, *context_).back();
}

BeforeStroke BeforeStroke::withStroke(StrokePtr stroke) const {
    std::vector<StrokePtr> strokes = strokesBefore();
    strokes.push_back(std::move(stroke));
    return allOf(strokes, level_, *context_).back();
}

void layBrought(const std::vector<BeforeStroke>& strokes, const Area& area, RgbaPlanes& out) {
    for (const BeforeStroke& one : strokes) layOne(one, area.rect, out);
}

}  // namespace dimhem::mask
