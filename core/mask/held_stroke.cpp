#include "core/mask/held_stroke.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <span>

#include "core/base/parallel.h"
#include "core/edge/guided_filter.h"
#include "core/edge/hold.h"
#include "core/image/tiles.h"
#include "core/mask/across_levels.h"
#include "core/mask/seen_guide.h"

namespace dimhem::mask {

namespace {

constexpr double mostRadius = 80;   // of the brush on the level it is worked out on
constexpr double windowPart = 1.2;  // of the radius: looked at about a dab
constexpr double corePart = 0.12;   // of the radius: where the thing's colours are taken
constexpr double inwardPart = 0.3;  // of the radius: how far inside a thing it looks from close to its edge
constexpr double stepPart = 0.2;    // of the radius: way between two dabs that look
constexpr double memoryPart = 4;    // of the radius: how near a dab's colours are to serve another
constexpr std::size_t coloursOfDab = 200, coloursOfModel = 4000;
constexpr std::size_t looksAtOnce = 32;  // each has up to half a megabyte in hand
constexpr int heldTilePx = 64;

// 0: not known; 1..255: nothing to all of it belongs.
struct HoldTile {
    std::array<std::uint8_t, heldTilePx * heldTilePx> value{};
};

struct Look {
    base::Point at;  // in pixels of the level
    double radius;
    std::vector<edge::Colour> colours;
};

// Immutable; one more dab makes another that shares the tiles it does not touch.
struct Field {
    std::size_t dabs = 0;
    base::ContentKey chain;
    std::map<std::pair<int, int>, std::shared_ptr<const HoldTile>> tiles;  // by row and column
    std::vector<std::shared_ptr<const Look>> looks;

    std::size_t bytes() const {
        constexpr std::size_t looked = 4096;  // what is kept of one look, about
        return tiles.size() * (sizeof(HoldTile) + 64) + looks.size() * looked;
    }
};

int levelOf(const BrushSettings& brush) {
    return image::levelOfLength(brush.sizePx / 2, mostRadius);
}

// The colours of the look itself and of those before it near by.
std::vector<edge::Colour> modelFor(const Field& field, std::size_t index) {
    const Look& look = *field.looks[index];
    std::vector<const Look*> near;
    std::size_t all = 0;
    for (std::size_t i = index; i-- > 0;) {
        const Look& other = *field.looks[i];
        const base::Point way = other.at - look.at;
        if (std::hypot(way.x, way.y) > memoryPart * look.radius) continue;
        near.push_back(&other);
        all += other.colours.size();
    }
    std::vector<edge::Colour> model = look.colours;
    const std::size_t every = all / coloursOfModel + 1;
    std::size_t i = 0;
    for (const Look* other : near) {
        for (const edge::Colour& c : other->colours) {
            if (i++ % every == 0) model.push_back(c);
        }
    }
    return model;
}

void raise(Field& field, const image::Plane<float>& belongs, const base::Rect& window, const Look& look) {
    const double reach = windowPart * look.radius;
    image::forEachTile(window, heldTilePx, [&](const base::Rect& rect) {
        std::shared_ptr<const HoldTile>& tile = field.tiles[{rect.y0 / heldTilePx, rect.x0 / heldTilePx}];
        auto next = tile ? std::make_shared<HoldTile>(*tile) : std::make_shared<HoldTile>();
        const base::Rect both = base::intersected(rect, window);
        for (int y = both.y0; y < both.y1; ++y) {
            for (int x = both.x0; x < both.x1; ++x) {
                if (std::hypot(x + 0.5 - look.at.x, y + 0.5 - look.at.y) > reach) continue;
                std::uint8_t& v = next->value[static_cast<std::size_t>((y - rect.y0) * heldTilePx + x - rect.x0)];
                const float membership = belongs.row(y - window.y0)[x - window.x0];
                v = std::max(v, static_cast<std::uint8_t>(1 + std::lround(membership * 254)));
            }
        }
        tile = std::move(next);
    });
}

// Where the brush looks about it: at its first dab, and at each that is a step on from where it last did.
std::vector<Look> looksFrom(const Field& field, const Stroke& stroke, std::size_t dabs) {
    const double scale = 1 << levelOf(stroke.brush());
    std::vector<Look> looks;
    const Look* last = field.looks.empty() ? nullptr : field.looks.back().get();
    for (std::size_t i = field.dabs; i < dabs; ++i) {
        const Stroke::Dab& dab = stroke.dabs()[i];
        Look look{{dab.x / scale, dab.y / scale}, std::max(1.0, dab.radius / scale), {}};
        if (last) {
            const base::Point way = look.at - last->at;
            if (std::hypot(way.x, way.y) < stepPart * look.radius) continue;
        }
        looks.push_back(std::move(look));
        last = &looks.back();
    }
    return looks;
}

struct Seeing {
    Area window;
    edge::Guide guide;
    image::Plane<std::uint8_t> core;  // of the window
};

Seeing seeingOf(const Look& look, int level, const PhotoRead& photo) {
    const int reach = static_cast<int>(std::ceil(windowPart * look.radius)) + 2;
    const int cx = static_cast<int>(std::floor(look.at.x)), cy = static_cast<int>(std::floor(look.at.y));
    const Area window{{cx - reach, cy - reach, cx + reach + 1, cy + reach + 1}, level};
    const base::Point centre{look.at.x - window.rect.x0, look.at.y - window.rect.y0};
    edge::Guide guide = smoothGuideOver(window, photo);
    auto core = edge::coreOf(guide, centre, std::max(1.0, corePart * look.radius), noiseAt(level, photo),
                             inwardPart * look.radius);
    return {window, std::move(guide), std::move(core)};
}

void forEach(std::size_t count, const std::function<void(std::size_t)>& work) {
    base::parallelForAll(count, {}, {}, work);
}

// Looks depend on the colours of those before them alone: they are worked out side by side.
void lookTogether(Field& field, std::span<Look> looks, int level, const BrushSettings& brush, const PhotoRead& photo) {
    std::vector<Seeing> seen(looks.size());
    forEach(looks.size(), [&](std::size_t i) {
        seen[i] = seeingOf(looks[i], level, photo);
        edge::addColours(seen[i].guide, seen[i].core, coloursOfDab, looks[i].colours);
    });
    const std::size_t first = field.looks.size();
    for (Look& look : looks) field.looks.push_back(std::make_shared<const Look>(std::move(look)));
    const edge::HoldSettings settings{brush.tolerancePct / 100, noiseAt(level, photo)};
    std::vector<image::Plane<float>> belongs(seen.size());
    forEach(seen.size(), [&](std::size_t i) {
        belongs[i] = edge::held(seen[i].guide, seen[i].core, modelFor(field, first + i), settings);
    });
    for (std::size_t i = 0; i < seen.size(); ++i)
        raise(field, belongs[i], seen[i].window.rect, *field.looks[first + i]);
}

// Goes on from where the same stroke stood when it was last asked for.
constexpr auto fieldFrom = [](const PhotoRead& photo, const Stroke& stroke, std::size_t dabs) {
    const base::ContentKey latest = base::KeyBuilder().add("held so far").add(stroke.seed()).add(photo.key()).key();
    const auto before = std::static_pointer_cast<const Field>(photo.store().findLatest(latest));
    const bool goesOn = before && before->dabs <= dabs && before->chain == stroke.chain(before->dabs);
    auto field = goesOn ? std::make_shared<Field>(*before) : std::make_shared<Field>();
    std::vector<Look> looks = looksFrom(*field, stroke, dabs);
    for (std::size_t i = 0; i < looks.size(); i += looksAtOnce) {
        const std::size_t count = std::min(looksAtOnce, looks.size() - i);
        lookTogether(*field, std::span(looks).subspan(i, count), levelOf(stroke.brush()), stroke.brush(), photo);
    }
    field->dabs = dabs;
    field->chain = stroke.chain(dabs);
    photo.store().keepLatest(latest, field, field->bytes());
    return field;
};

Staged<Field> fieldOf(const Stroke& stroke, std::size_t dabs, const PhotoRead& photo) {
    return stage::kept(photo.store(),
                       staged<Field>("held", fieldFrom, photo, stage::keyed(stroke.chain(dabs), stroke), dabs));
}

// Below 0 where it is not known.
constexpr auto readField = [](const Field& field, const base::Rect& rect) {
    image::Plane<float> out(rect.size());
    image::forEachTile(rect, heldTilePx, [&](const base::Rect& place) {
        const auto found = field.tiles.find({place.y0 / heldTilePx, place.x0 / heldTilePx});
        const HoldTile* tile = found == field.tiles.end() ? nullptr : found->second.get();
        const base::Rect both = base::intersected(place, rect);
        for (int y = both.y0; y < both.y1; ++y) {
            for (int x = both.x0; x < both.x1; ++x) {
                const int v =
                    tile ? tile->value[static_cast<std::size_t>((y - place.y0) * heldTilePx + x - place.x0)] : 0;
                out.row(y - rect.y0)[x - rect.x0] = v == 0 ? -1.0f : static_cast<float>(v - 1) / 254;
            }
        }
    });
    return out;
};

// Holds what is not known to none. Where all of it is almost none or almost all, that.
std::optional<std::uint16_t> sameEverywhere(image::Plane<float>& known) {
    float least = 1, most = 0;
    for (int y = 0; y < known.size().height; ++y) {
        for (float& v : known.row(y)) {
            v = std::max(v, 0.0f);
            least = std::min(least, v);
            most = std::max(most, v);
        }
    }
    constexpr float almost = 0.01f;
    if (most < almost) return std::uint16_t{0};
    if (least > 1 - almost) return std::uint16_t{65535};
    return std::nullopt;
}

// The same area in pixels so many levels finer.
base::Rect finer(const base::Rect& r, int levels) {
    const int times = 1 << levels;
    return {r.x0 * times, r.y0 * times, r.x1 * times, r.y1 * times};
}

// The mean over the pixels of the field that make up one of the area's, `coarser` levels up.
constexpr auto averagedField = [](const Field& field, const Area& area, int coarser) {
    image::Plane<float> out(area.rect.size());
    for (int y = 0; y < out.size().height; ++y) std::fill_n(out.row(y).data(), out.size().width, 0.0f);
    const base::Rect& r = area.rect;
    const base::Rect wanted = finer(r, coarser);
    const float share = 1.0f / static_cast<float>(254 << (2 * coarser));
    for (const auto& [place, tile] : field.tiles) {
        const base::Rect rect{place.second * heldTilePx, place.first * heldTilePx, (place.second + 1) * heldTilePx,
                              (place.first + 1) * heldTilePx};
        const base::Rect both = base::intersected(rect, wanted);
        for (int y = both.y0; y < both.y1; ++y) {
            const std::uint8_t* from = tile->value.data() + (y - rect.y0) * heldTilePx - rect.x0;
            float* to = out.row((y >> coarser) - r.y0).data() - r.x0;
            for (int x = both.x0; x < both.x1; ++x)
                to[x >> coarser] += share * static_cast<float>(std::max(0, from[x] - 1));
        }
    }
    return coverageOf(out);
};

Staged<edge::Guide> guideStage(const Area& area, const PhotoRead& photo) {
    return stage::kept(
        photo.store(),
        staged<edge::Guide>(
            "guide", [](const PhotoRead& photo, const Area& area) { return guideOver(area, photo); }, photo, area));
}

// The guided filter's lines are worked out on the coarser level (He and Sun, "Fast Guided Filter", 2015).
Staged<edge::Guiding> guidingStage(const Area& coarse, const PhotoRead& photo) {
    return stage::kept(photo.store(), staged<edge::Guiding>(
                                          "guiding",
                                          [](const PhotoRead& photo, const Area& coarse) {
                                              return std::make_shared<edge::Guiding>(guideOver(coarse, photo), 2, 1e-4);
                                          },
                                          photo, coarse));
}

// While it is painted: averaged for coarser levels; for finer ones drawn along the finer picture's edges by the guided
// filter.
constexpr auto shownWhilePainted = [](const Field& field, const PhotoRead& photo, int level, const Area& area) {
    if (area.level >= level) return averagedField(field, area, area.level - level);
    constexpr int margin = 6;
    const int times = 1 << (level - area.level);
    const auto down = [times](int v) { return base::floorDiv(v, times); };
    const Area coarse{{down(area.rect.x0) - margin, down(area.rect.y0) - margin, down(area.rect.x1) + margin + 1,
                       down(area.rect.y1) + margin + 1},
                      level};
    image::Plane<float> known = readField(field, coarse.rect);
    if (const auto same = sameEverywhere(known)) return std::make_shared<const Coverage>(*same);
    const edge::Lines lines = guidingStage(coarse, photo).value()->linesFor(known);
    const auto fine = guideStage(area, photo).value();
    const double step = 1.0 / times;
    const base::Point first{(area.rect.x0 + 0.5) * step - coarse.rect.x0, (area.rect.y0 + 0.5) * step - coarse.rect.y0};
    return coverageOf(lines.over(*fine, first, step));
};

// Of a run, those that have found anything over a rectangle of their level.
std::vector<const Stroke*> bearingOn(std::span<const StrokePtr> run, const base::Rect& rect) {
    std::vector<const Stroke*> bearing;
    for (const StrokePtr& stroke : run) {
        if (dabsThatHold(*stroke, finer(rect, levelOf(stroke->brush()))) > 0) bearing.push_back(stroke.get());
    }
    return bearing;
}

// Of each pixel the most that any stroke found.
constexpr auto mostOf = [](const std::vector<Staged<Field>>& fields, const base::Rect& rect) {
    Field all;
    for (const Staged<Field>& field : fields) {
        for (const auto& [place, tile] : field.value()->tiles) {
            const int x = place.second * heldTilePx, y = place.first * heldTilePx;
            if (base::intersected({x, y, x + heldTilePx, y + heldTilePx}, rect).empty()) continue;
            std::shared_ptr<const HoldTile>& known = all.tiles[place];
            if (!known) {
                known = tile;
                continue;
            }
            auto most = std::make_shared<HoldTile>(*known);
            std::ranges::transform(most->value, tile->value, most->value.begin(),
                                   [](std::uint8_t a, std::uint8_t b) { return std::max(a, b); });
            known = std::move(most);
        }
    }
    return all;
};

// What the strokes of a run found over a rectangle of their level.
Staged<Field> foundTogether(std::span<const StrokePtr> run, const base::Rect& rect, const PhotoRead& photo) {
    std::vector<Staged<Field>> fields;
    for (const Stroke* stroke : bearingOn(run, rect)) fields.push_back(fieldOf(*stroke, stroke->dabs().size(), photo));
    return staged<Field>("held together", mostOf, std::move(fields), rect);
}

FoundPtr foundBy(std::span<const StrokePtr> run, const PhotoRead& photo) {
    auto found = std::make_shared<Found>();
    found->level = levelOf(run.front()->brush());
    found->over = [run, photo](const base::Rect& rect) {
        return staged<image::Plane<float>>("held on its level", readField, foundTogether(run, rect, photo), rect);
    };
    return found;
}

// From far enough, what the fine edge comes to is in the mean already: a thumbnail need not work it out.
bool isFar(const Area& area, int foundLevel) {
    constexpr int farLevels = 3;
    return area.level >= foundLevel + farLevels;
}

}  // namespace

std::size_t dabsThatHold(const Stroke& stroke, const base::Rect& photoRect) {
    const int level = levelOf(stroke.brush());
    const double margin = (windowPart - 1) * stroke.brush().sizePx / 2 + (stroke.isFinished() ? 64 : 8) * (1 << level);
    const int m = static_cast<int>(std::ceil(margin));
    const base::Rect wide{photoRect.x0 - m, photoRect.y0 - m, photoRect.x1 + m, photoRect.y1 + m};
    const std::size_t touching = stroke.dabsUpToLastTouching(wide);
    return stroke.isFinished() && touching > 0 ? stroke.dabs().size() : touching;
}

bool holdTogether(const Stroke& before, const Stroke& next) {
    const BrushSettings &a = before.brush(), &b = next.brush();
    return before.isFinished() && next.isFinished() && a.holds && b.holds && a.removes == b.removes &&
           a.strengthPct == b.strengthPct && a.tolerancePct == b.tolerancePct && levelOf(a) == levelOf(b) &&
           a.brings.kind == BringKind::nothing && b.brings.kind == BringKind::nothing;
}

Staged<Coverage> heldBy(std::span<const StrokePtr> run, const Area& area, const PhotoRead& photo) {
    const FoundPtr found = foundBy(run, photo);
    if (!isFar(area, found->level)) return acrossLevels(found, area, photo);
    const int coarser = area.level - found->level;
    return staged<Coverage>("held, from far", averagedField, foundTogether(run, finer(area.rect, coarser), photo), area,
                            coarser);
}

Staged<Coverage> heldSoFar(const Stroke& stroke, std::size_t dabs, const Area& area, const PhotoRead& photo) {
    return staged<Coverage>("held so far", shownWhilePainted, fieldOf(stroke, dabs, photo), photo,
                            levelOf(stroke.brush()), area);
}

void prepareToHold(base::Point place, double sizePx, const std::function<bool()>& goesOn, const PhotoRead& photo) {
    constexpr double about = 1.6;  // of the radius: the window of a dab and a little of the way it may go
    constexpr int piecePx = 64;
    BrushSettings brush;
    brush.sizePx = sizePx;
    const int level = levelOf(brush), scale = 1 << level;
    const double reach = about * sizePx / 2 / scale;
    const base::Point at{place.x / scale, place.y / scale};
    const base::Rect whole = base::rectOf(image::levelSize(photo.size(), level));
    for (double y = at.y - reach; y < at.y + reach; y += piecePx) {
        for (double x = at.x - reach; x < at.x + reach; x += piecePx) {
            if (!goesOn()) return;
            const int px = static_cast<int>(x), py = static_cast<int>(y);
            const base::Rect piece = base::intersected({px, py, px + piecePx, py + piecePx}, whole);
            if (!piece.empty()) smoothGuideOver({piece, level}, photo);
        }
    }
}

std::array<float, 3> holdColourAt(base::Point place, double sizePx, const PhotoRead& photo) {
    BrushSettings brush;
    brush.sizePx = sizePx;
    const int level = levelOf(brush), scale = 1 << level;
    const double core = std::max(1.0, corePart * sizePx / 2 / scale);
    const int reach = static_cast<int>(std::ceil(core)) + 1;
    const int cx = static_cast<int>(std::floor(place.x / scale)), cy = static_cast<int>(std::floor(place.y / scale));
    const Area area{{cx - reach, cy - reach, cx + reach + 1, cy + reach + 1}, level};
    const image::EncodedPlanes picture = photo.picture(area);
    std::array<double, 3> sum{};
    double count = 0;
    for (int y = 0; y < picture.size().height; ++y) {
        for (int x = 0; x < picture.size().width; ++x) {
            if (std::hypot(x - reach, y - reach) > core) continue;
            sum[0] += double{picture.red.row(y)[x]};
            sum[1] += double{picture.green.row(y)[x]};
            sum[2] += double{picture.blue.row(y)[x]};
            ++count;
        }
    }
    return {static_cast<float>(sum[0] / count), static_cast<float>(sum[1] / count), static_cast<float>(sum[2] / count)};
}

}  // namespace dimhem::mask
