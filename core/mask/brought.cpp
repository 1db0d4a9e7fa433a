#include "core/mask/brought.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "core/image/tiles.h"
#include "core/kernel/bilinear.h"
#include "core/mask/brush.h"
#include "core/mask/kept_once.h"
#include "core/mask/painted.h"
#include "core/repair/carried.h"
#include "core/repair/found_source.h"
#include "core/repair/membrane.h"

namespace dimhem::mask {

namespace {

using image::EncodedPlanes;
using image::Plane;
using image::RgbaPlanes;
using repair::Hole;
using repair::holeIn;

constexpr int tilePx = image::defaultTilePx;
constexpr int lineBlockPx = 2 * tilePx, lineMarginPx = 64;  // of filling a line piece by piece

base::Rect moved(const base::Rect& r, base::Point by) {
    return {static_cast<int>(std::floor(r.x0 + by.x)), static_cast<int>(std::floor(r.y0 + by.y)),
            static_cast<int>(std::ceil(r.x1 + by.x)), static_cast<int>(std::ceil(r.y1 + by.y))};
}

// Where clone takes from for a place of the photo.
base::Point clonedFrom(const Stroke& stroke, base::Point place) {
    const Brings& brings = stroke.brush().brings;
    const base::Point first = stroke.points()[0].at, way = place - first;
    if (brings.turnDeg == 0 && brings.scalePct == 100) return place + *brings.offset;
    constexpr double degree = 3.14159265358979323846 / 180;
    const double cos = std::cos(brings.turnDeg * degree), sin = std::sin(brings.turnDeg * degree);
    const double scale = 100 / brings.scalePct;
    return first + *brings.offset + base::Point{cos * way.x + sin * way.y, cos * way.y - sin * way.x} * scale;
}

base::Rect clonedFrom(const Stroke& stroke, const base::Rect& rect) {
    base::Rect out;
    for (const base::Point corner : {base::Point{double(rect.x0), double(rect.y0)},
                                     {double(rect.x1), double(rect.y0)},
                                     {double(rect.x0), double(rect.y1)},
                                     {double(rect.x1), double(rect.y1)}}) {
        out = base::united(out, base::grown(moved({0, 0, 0, 0}, clonedFrom(stroke, corner)), 1));
    }
    return out;
}

// A stroke on a level: what it touches, and all it depends on through the strokes before it.
struct Bringing {
    std::size_t index;
    StrokePtr stroke;
    base::Rect target;   // pixels of the level
    base::Rect depends;  // what it sees of the arriving picture, itself or through others; empty: nothing
    base::ContentKey key;
};

const Brings& bringsOf(const Bringing& one) {
    return one.stroke->brush().brings;
}

// What of the level it looks at to know what it brings.
base::Rect looksAt(const Bringing& one, int level) {
    const Brings& brings = bringsOf(one);
    const base::Rect& target = one.target;
    constexpr int between = 3;  // pixels read between others
    switch (brings.kind) {
        case BringKind::nothing:
        case BringKind::colour: return {};
        case BringKind::clone:
            return base::grown(image::levelRect(clonedFrom(*one.stroke, one.stroke->bounds()), level), between);
        case BringKind::heal:
            if (brings.offset)
                return base::grown(base::united(target, moved(target, *brings.offset * (1.0 / (1 << level)))), between);
            return base::grown(target, repair::sourceReach(target.size()) + (8 << 1) + between);
        case BringKind::line: return base::grown(target, lineBlockPx + lineMarginPx);
    }
    return {};
}

// How strokes of a level bear on one another: worked out once, whatever is looked at.
using Plan = std::vector<Bringing>;

void addTo(Plan& plan, std::size_t index, const StrokePtr& stroke, int level) {
    if (stroke->brush().brings.kind == BringKind::nothing && !stroke->brush().removes) return;
    Bringing one{index, stroke, base::grown(image::levelRect(stroke->bounds(), level), 1), {}, {}};
    one.depends = looksAt(one, level);
    base::KeyBuilder key;
    key.add("stroke").add(level).add(stroke->chain(stroke->dabs().size())).add(stroke->isFinished());
    const base::Rect seen = base::united(one.depends, one.target);
    for (const Bringing& before : plan) {
        if (base::intersected(before.target, seen).empty()) continue;
        key.add(before.key);
        one.depends = base::united(one.depends, before.depends);
    }
    one.key = key.key();
    plan.push_back(std::move(one));
}

std::shared_ptr<const Plan> planOf(std::span<const StrokePtr> strokes, int level, Context& context) {
    base::KeyBuilder key;
    key.add("plan of strokes").add(level).add(strokes.size());
    for (const StrokePtr& stroke : strokes) key.add(stroke->chain(stroke->dabs().size())).add(stroke->isFinished());
    return madeOnce<Plan>(
        context, key.key(),
        [&] {
            // One that is being painted comes after those before it, which stay as they are.
            const bool goesOn = strokes.size() > 1 && !strokes.back()->isFinished();
            const std::size_t known = goesOn ? strokes.size() - 1 : 0;
            auto plan = goesOn ? std::make_shared<Plan>(*planOf(strokes.first(known), level, context))
                               : std::make_shared<Plan>();
            for (std::size_t i = known; i < strokes.size(); ++i) addTo(*plan, i, strokes[i], level);
            return std::shared_ptr<const Plan>(std::move(plan));
        },
        [](const Plan& plan) { return plan.size() * sizeof(Bringing); });
}

class Brought {
public:
    Brought(std::span<const StrokePtr> strokes, int level, Context& context)
        : strokes_(strokes),
          level_(level),
          context_(context),
          size_(image::levelSize(context.photoSize(), level)),
          plan_(planOf(strokes, level, context)),
          all_(*plan_) {}

    bool isNear(const Bringing& one, const base::Rect& rect) const {
        return !base::intersected(one.target, rect).empty();
    }

    base::ContentKey keyOn(const base::Rect& rect) {
        base::KeyBuilder key = keyOf(Area{rect, level_});
        for (const Bringing& one : all_) {
            if (isNear(one, rect)) key.add(keyOf(one));
        }
        return key.key();
    }

    // Those before `end` over a rectangle, which may reach beyond the photo.
    void lay(std::size_t end, const base::Rect& rect, RgbaPlanes& out) {
        for (const Bringing& one : all_) {
            if (one.index >= end) break;
            if (isNear(one, rect)) layOne(one, rect, out);
        }
    }

    std::optional<base::Point> offsetOf(const Bringing& one);
    std::optional<base::Point> offsetOfItsBeginning(const Bringing& one);
    const std::vector<Bringing>& all() const { return all_; }

private:
    // With the picture it depends on.
    base::ContentKey keyOf(const Bringing& one) {
        base::KeyBuilder key;
        key.add(one.key);
        if (!one.depends.empty()) key.add(context_.pictureKey(Seen::arriving, {one.depends, level_}));
        if (one.stroke->brush().holds) key.add(context_.pictureKey(Seen::photo, {one.target, level_}));
        return key.key();
    }
    static base::KeyBuilder keyOf(const Area& area) { return mask::keyOf(area).add("brought"); }

    // The picture before a stroke, over a rectangle that may reach beyond the photo.
    EncodedPlanes pictureBefore(std::size_t index, const base::Rect& rect) {
        EncodedPlanes picture(rect.size());
        context_.readPicture(Seen::arriving, {rect, level_}, picture);
        RgbaPlanes over(rect.size());
        lay(index, rect, over);
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

    // What a stroke brings to its part of a tile of the grid through the origin, made once.
    std::shared_ptr<const RgbaPlanes> tileOf(const Bringing& one, const base::Rect& tile) {
        const base::ContentKey key = keyOf(Area{tile, level_}).add(keyOf(one)).key();
        return madeOnce<RgbaPlanes>(
            context_, key,
            [&] {
                auto made = std::make_shared<RgbaPlanes>(tile.size());
                made->alpha = strokeOver(*one.stroke, {tile, level_}, context_);
                if (!one.stroke->brush().removes) bring(one, tile, made->colours);
                return std::shared_ptr<const RgbaPlanes>(std::move(made));
            },
            [](const RgbaPlanes& planes) { return planes.bytes(); });
    }

    void layOne(const Bringing& one, const base::Rect& rect, RgbaPlanes& out) {
        image::forEachTile(base::intersected(one.target, rect), tilePx, [&](const base::Rect& tile) {
            const base::Rect whole = base::intersected(tile, one.target);
            layPart(*tileOf(one, whole), whole, base::intersected(whole, rect), one.stroke->brush().removes, rect, out);
        });
    }

    static void layPart(const RgbaPlanes& made, const base::Rect& tile, const base::Rect& part, bool removes,
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

    static void copyRgba(const RgbaPlanes& from, const base::Rect& fromRect, RgbaPlanes& to, const base::Rect& toRect) {
        image::copyShared(from.colours, fromRect, to.colours, toRect);
        image::copyShared(from.alpha, fromRect, to.alpha, toRect);
    }

    void bring(const Bringing& one, const base::Rect& tile, EncodedPlanes& out) {
        switch (bringsOf(one).kind) {
            case BringKind::nothing: break;
            case BringKind::colour: bringColour(bringsOf(one).colour, out); break;
            case BringKind::clone: bringClone(one, tile, out); break;
            case BringKind::heal: bringHealed(one, tile, out); break;
            case BringKind::line: bringLine(one, tile, out); break;
        }
    }

    static void bringColour(const colour::EncodedRgb& colour, EncodedPlanes& out) {
        const base::Size size = out.size();
        out.red = image::filled(size, static_cast<float>(colour.r));
        out.green = image::filled(size, static_cast<float>(colour.g));
        out.blue = image::filled(size, static_cast<float>(colour.b));
    }

    // The picture before the stroke at places of the photo, as from(place) says.
    template <class From>
    EncodedPlanes taken(std::size_t index, const base::Rect& rect, From from) {
        const double scale = 1 << level_;
        const auto placeOf = [&](double x, double y) { return from(base::Point{x * scale, y * scale}) * (1 / scale); };
        base::Rect wanted;
        for (const auto& [x, y] :
             {std::pair{rect.x0, rect.y0}, {rect.x1, rect.y0}, {rect.x0, rect.y1}, {rect.x1, rect.y1}})
            wanted = base::united(wanted, base::grown(moved({0, 0, 1, 1}, placeOf(x, y)), 2));
        // Beyond the photo its edge goes on: no more than a little of that need be read.
        wanted = base::intersected(wanted, base::grown(base::rectOf(size_), 2));
        if (wanted.empty()) wanted = {0, 0, 1, 1};
        const EncodedPlanes picture = pictureBefore(index, wanted);
        EncodedPlanes out(rect.size());
        for (int y = 0; y < rect.height(); ++y) {
            for (int x = 0; x < rect.width(); ++x) {
                const base::Point at =
                    placeOf(rect.x0 + x + 0.5, rect.y0 + y + 0.5) - base::Point{double(wanted.x0), double(wanted.y0)};
                out.red.view().at(x, y) = static_cast<float>(kernel::bilinear(picture.red, at.x, at.y));
                out.green.view().at(x, y) = static_cast<float>(kernel::bilinear(picture.green, at.x, at.y));
                out.blue.view().at(x, y) = static_cast<float>(kernel::bilinear(picture.blue, at.x, at.y));
            }
        }
        return out;
    }

    void bringClone(const Bringing& one, const base::Rect& tile, EncodedPlanes& out) {
        out = taken(one.index, tile, [&](base::Point place) { return clonedFrom(*one.stroke, place); });
    }

    // What heals a stroke: the difference of tone over all of it, on a level where that is worked out in a moment.
    struct Healing {
        base::Rect rect;
        int level;
        std::array<Plane<float>, 3> tone;
    };

    std::shared_ptr<const Healing> healingOf(const Bringing& one, base::Point offset) {
        constexpr double mostPixels = 5e5;
        if (static_cast<double>(one.target.width()) * one.target.height() > mostPixels && level_ < image::maxLevel) {
            Brought coarser(strokes_.first(one.index + 1), level_ + 1, context_);
            return coarser.healingOf(coarser.all_.back(), offset);
        }
        const base::ContentKey key =
            base::KeyBuilder().add("healing").add(offset.x).add(offset.y).add(keyOf(one)).key();
        return madeOnce<Healing>(
            context_, key, [&] { return std::make_shared<const Healing>(heal(one, offset)); },
            [](const Healing& made) { return 3 * made.tone[0].bytes(); });
    }

    Healing heal(const Bringing& one, base::Point offset) {
        const base::Rect rect = base::intersected(base::grown(one.target, 2), base::rectOf(size_));
        Healing out{rect, level_, {}};
        if (rect.empty()) return out;
        const Hole hole = holeIn(strokeOver(*one.stroke, {rect, level_}, context_));
        const EncodedPlanes below = pictureBefore(one.index, rect),
                            source = taken(one.index, rect, [&](base::Point place) { return place + offset; });
        const auto differenceOf = [&](const Plane<float>& a, const Plane<float>& b) {
            return image::planeOf(rect.size(), [&](int x, int y) {
                return hole.view().at(x, y) ? 0.0f : a.view().at(x, y) - b.view().at(x, y);
            });
        };
        out.tone = {differenceOf(below.red, source.red), differenceOf(below.green, source.green),
                    differenceOf(below.blue, source.blue)};
        Plane<float>* const planes[] = {&out.tone[0], &out.tone[1], &out.tone[2]};
        repair::fillMembrane(planes, hole);
        return out;
    }

    void bringHealed(const Bringing& one, const base::Rect& tile, EncodedPlanes& out) {
        const auto offset = offsetOf(one);
        if (!offset) {
            out = pictureBefore(one.index, tile);
            return;
        }
        out = taken(one.index, tile, [&](base::Point place) { return place + *offset; });
        const auto healing = healingOf(one, *offset);
        if (healing->rect.empty()) return;
        const double scale = 1.0 / (1 << (healing->level - level_));
        Plane<float>* const channels[] = {&out.red, &out.green, &out.blue};
        for (std::size_t c = 0; c < 3; ++c) {
            for (int y = 0; y < tile.height(); ++y) {
                for (int x = 0; x < tile.width(); ++x)
                    channels[c]->view().at(x, y) += static_cast<float>(
                        kernel::bilinear(healing->tone[c], (tile.x0 + x + 0.5) * scale - healing->rect.x0,
                                         (tile.y0 + y + 0.5) * scale - healing->rect.y0));
            }
        }
    }

    // While it is being drawn, smoothly: there is no time for more.
    static void fillLine(EncodedPlanes& planes, const Hole& hole, bool finished) {
        constexpr double evenPx = 0.7;
        if (finished) return repair::fillAlong(planes, hole, {}, evenPx, repair::Elsewhere::patches);
        Plane<float>* const channels[] = {&planes.red, &planes.green, &planes.blue};
        repair::fillMembrane(channels, hole);
    }

    void bringLine(const Bringing& one, const base::Rect& tile, EncodedPlanes& out) {
        const int bx = base::floorDiv(tile.x0, lineBlockPx) * lineBlockPx,
                  by = base::floorDiv(tile.y0, lineBlockPx) * lineBlockPx;
        const base::Rect rect = base::intersected(
            base::grown({bx, by, bx + lineBlockPx, by + lineBlockPx}, lineMarginPx), base::rectOf(size_));
        out = pictureBefore(one.index, tile);
        if (rect.empty()) return;
        const base::ContentKey key = keyOf(Area{rect, level_}).add("line").add(keyOf(one)).key();
        const auto filled = madeOnce<EncodedPlanes>(
            context_, key,
            [&] {
                auto planes = std::make_shared<EncodedPlanes>(pictureBefore(one.index, rect));
                fillLine(*planes, holeIn(strokeOver(*one.stroke, {rect, level_}, context_)), one.stroke->isFinished());
                return std::shared_ptr<const EncodedPlanes>(std::move(planes));
            },
            [](const EncodedPlanes& planes) { return planes.bytes(); });
        image::copyShared(*filled, rect, out, tile);
    }

    std::span<const StrokePtr> strokes_;
    int level_;
    Context& context_;
    base::Size size_;
    std::shared_ptr<const Plan> plan_;
    const Plan& all_;
};

// Looked for on a level of its own, which goes by the size of the stroke: the same for every view.
std::optional<base::Point> Brought::offsetOf(const Bringing& one) {
    const Brings& brings = bringsOf(one);
    if (brings.kind != BringKind::heal) return std::nullopt;
    if (brings.offset) return brings.offset;
    if (!one.stroke->isFinished()) return offsetOfItsBeginning(one);
    constexpr double sidePx = 48;
    const base::Rect& bounds = one.stroke->bounds();
    const int level = image::levelOfLength(std::max(bounds.width(), bounds.height()), sidePx);
    if (level != level_) {
        Brought other(strokes_.first(one.index + 1), level, context_);
        return other.offsetOf(other.all_.back());
    }
    const base::ContentKey key = base::KeyBuilder().add("found source").add(keyOf(one)).key();
    const auto found = keptOnce<std::optional<base::Point>>(
        context_, key,
        [&] {
            const base::Rect rect =
                base::intersected(base::grown(one.target, repair::sourceReach(one.target.size())), base::rectOf(size_));
            std::optional<base::Point> offset;
            if (!rect.empty()) {
                const Hole hole = holeIn(strokeOver(*one.stroke, {rect, level_}, context_));
                offset = repair::findSource(pictureBefore(one.index, rect), hole, brings.rank);
            }
            if (offset) *offset = *offset * (1 << level_);
            return std::make_shared<const std::optional<base::Point>>(offset);
        },
        [](const auto& value) { return sizeof value; });
    return *found;
}

// Of a stroke that is being painted: looked for once, where it begins, and anew when it is done.
std::optional<base::Point> Brought::offsetOfItsBeginning(const Bringing& one) {
    std::vector<StrokePtr> strokes(strokes_.begin(), strokes_.begin() + static_cast<std::ptrdiff_t>(one.index));
    const StrokePoint first[] = {one.stroke->points()[0]};
    strokes.push_back(Stroke::through(one.stroke->brush(), first)->finished());
    Brought beginning(strokes, level_, context_);
    return beginning.offsetOf(beginning.all_.back());
}

}  // namespace

bool bringsAnything(std::span<const StrokePtr> strokes) {
    return std::ranges::any_of(
        strokes, [](const StrokePtr& stroke) { return stroke->brush().brings.kind != BringKind::nothing; });
}

base::ContentKey broughtKey(std::span<const StrokePtr> strokes, const Area& area, Context& context) {
    return Brought(strokes, area.level, context).keyOn(area.rect);
}

void layBrought(std::span<const StrokePtr> strokes, const Area& area, Context& context, RgbaPlanes& out) {
    Brought(strokes, area.level, context).lay(strokes.size(), area.rect, out);
}

std::optional<base::Point> foundOffset(std::span<const StrokePtr> strokes, Context& context) {
    Brought brought(strokes, 0, context);
    if (brought.all().empty() || brought.all().back().index + 1 != strokes.size()) return std::nullopt;
    return brought.offsetOf(brought.all().back());
}

}  // namespace dimhem::mask
