#include "core/edge/grown_region.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <vector>

#include "core/base/parallel.h"
#include "core/edge/hold.h"
#include "core/edge/local_evidence.h"
#include "core/edge/random_walk.h"
#include "core/kernel/components.h"
#include "core/kernel/sum_rows.h"

namespace dimhem::edge {

namespace {

constexpr double likeTolerance = 0.75;
constexpr double holeShare = 0.01;  // of the region: holes up to this are filled

template <class F>
Sides sidesBy(base::Size size, F f) {
    Sides out(size);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) out.row(y)[x] = f(x, y);
    }
    return out;
}

Sides copyOf(const Sides& from) {
    return sidesBy(from.size(), [&](int x, int y) { return from.row(y)[x]; });
}

image::Plane<std::uint8_t> onesWhere(const Sides& sides, Side side) {
    image::Plane<std::uint8_t> ones(sides.size());
    for (int y = 0; y < sides.size().height; ++y)
        std::transform(sides.row(y).begin(), sides.row(y).end(), ones.row(y).begin(),
                       [side](Side s) { return s == side ? 1 : 0; });
    return ones;
}

Sides sidesWhere(const image::Plane<Sure>& sure, Sure what, Side otherwise) {
    Sides sides(sure.size());
    for (int y = 0; y < sure.size().height; ++y) {
        std::transform(sure.row(y).begin(), sure.row(y).end(), sides.row(y).begin(),
                       [=](Sure s) { return s == what ? Side::inside : otherwise; });
    }
    return sides;
}

// Of what hangs together all that is connected with what is surely inside; and, where wanted, pieces apart whose
// pixels are surely inside by their colours.
void keepSure(Sides& sides, const image::Plane<Sure>& sure, const image::Plane<float>* apart) {
    constexpr double surelyLike = 2.5;  // mean log likelihood ratio of a piece
    constexpr double leastPixels = 12;
    const base::Size size = sides.size();
    image::Plane<std::int32_t> labels(size);
    const auto pieces = kernel::components(onesWhere(sides, Side::inside), 8, labels);
    std::vector<double> like(pieces.size(), 0);
    std::vector<bool> keep(pieces.size(), false);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            if (!labels.row(y)[x]) continue;
            const auto piece = static_cast<std::size_t>(labels.row(y)[x] - 1);
            if (sure.row(y)[x] == Sure::inside) keep[piece] = true;
            if (apart) like[piece] += double{apart->row(y)[x]};
        }
    }
    for (std::size_t i = 0; i < pieces.size(); ++i) {
        const auto pixels = static_cast<double>(pieces[i].pixels);
        if (apart && pixels >= leastPixels && like[i] > surelyLike * pixels) keep[i] = true;
    }
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const bool kept = labels.row(y)[x] && keep[static_cast<std::size_t>(labels.row(y)[x] - 1)];
            sides.row(y)[x] = kept ? Side::inside : Side::outside;
        }
    }
}

void fillHoles(Sides& sides, const image::Plane<Sure>& sure) {
    const base::Size size = sides.size();
    image::Plane<std::int32_t> labels(size);
    const auto pieces = kernel::components(onesWhere(sides, Side::outside), 4, labels);
    double inside = static_cast<double>(size.width) * size.height;
    for (const kernel::Component& piece : pieces) inside -= piece.pixels;
    std::vector<bool> fill(pieces.size());
    for (std::size_t i = 0; i < pieces.size(); ++i) {
        const base::Rect& b = pieces[i].bounds;
        const bool atBorder = b.x0 == 0 || b.y0 == 0 || b.x1 == size.width || b.y1 == size.height;
        fill[i] = !atBorder && pieces[i].pixels <= holeShare * inside;
    }
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            if (labels.row(y)[x] && sure.row(y)[x] == Sure::outside)
                fill[static_cast<std::size_t>(labels.row(y)[x] - 1)] = false;
        }
    }
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            if (labels.row(y)[x] && fill[static_cast<std::size_t>(labels.row(y)[x] - 1)])
                sides.row(y)[x] = Side::inside;
        }
    }
}

// How much nearer each pixel is to what was added than to what was taken away, -19..9: by the edges on the way, and, if
// it is nearer to a place that was taken back, by the way itself. So what lies about a drag that takes away goes with
// it, though its colours are the thing's own. A drag beside the thing takes nothing of it: `region`, found without the
// drags that take away, tells which those are. 0 where nothing was taken away.
image::Plane<float> nearnessOfDrags(const Guide& guide, const image::Plane<Sure>& sure, const Sides& region,
                                    double noise) {
    constexpr float byWay = 6, most = 10, closePx = 6, byEdges = 1.5f;
    const base::Size size = guide.size();
    const Sides dragged = sidesBy(size, [&](int x, int y) {
        if (sure.row(y)[x] == Sure::no) return Side::unknown;
        return sure.row(y)[x] == Sure::inside ? Side::inside : Side::outside;
    });
    const Sides takenBack = sidesBy(size, [&](int x, int y) {
        return sure.row(y)[x] == Sure::outside && region.row(y)[x] == Side::inside ? Side::inside : Side::outside;
    });
    const image::Plane<float> edges = nearness(guide, dragged, noise);
    const double all = size.width + size.height;
    const image::Plane<float> toAdded = distanceToEdge(sidesWhere(sure, Sure::inside, Side::outside), all);
    const image::Plane<float> toTaken = distanceToEdge(takenBack, all);
    return image::planeOf(size, [&](int x, int y) {
        const float way = std::log((toTaken.row(y)[x] + closePx) / (toAdded.row(y)[x] + closePx));
        return byEdges * edges.row(y)[x] + std::clamp(byWay * way, -most, 0.0f);
    });
}

// The first guess: colours like those dragged over are inside; outside is what is unlike them along the picture's
// border, where most things are not. The rest is open.
Sides firstGuess(const Guide& guide, const image::Plane<Sure>& sure, const image::Plane<float>& ofDrags) {
    const base::Size size = guide.size();
    std::vector<Colour> model;
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            if (sure.row(y)[x] == Sure::inside)
                model.push_back({guide.l.row(y)[x], guide.a.row(y)[x], guide.b.row(y)[x]});
        }
    }
    const image::Plane<float> like = membership(guide, model, likeTolerance);
    const int border = std::max(2, std::min(size.width, size.height) / 10);
    Sides sides(size);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const bool atBorder = std::min({x, y, size.width - 1 - x, size.height - 1 - y}) < border;
            Side side = Side::unknown;
            if (like.row(y)[x] > 0.5f) side = ofDrags.row(y)[x] < -0.5f ? Side::outside : Side::inside;
            if (like.row(y)[x] < 0.3f && atBorder) side = Side::outside;
            if (sure.row(y)[x] == Sure::inside) side = Side::inside;
            if (sure.row(y)[x] == Sure::outside) side = Side::outside;
            sides.row(y)[x] = side;
        }
    }
    return sides;
}

// What a way of finding the region comes to.
struct Candidate {
    Sides sides;
    image::Plane<float> inside;  // what the last cut was made by
    double gaps = 1, pixels = 0;
    image::Plane<std::uint8_t> disputed{};  // 1 where another way came to the other side; empty where there was none
};

// A picture with drags over it.
struct Dragged {
    const Guide& guide;
    const image::Plane<Sure>& sure;
    double noise;
    GridCut grid = gridAlongEdges(guide);
};

using EvidenceOf = image::Plane<float> (*)(const Guide&, const Sides&, double noise);

void cutInTurn(const Dragged& dragged, const image::Plane<float>& nearness, EvidenceOf evidenceOf,
               Candidate& candidate) {
    const Guide& guide = dragged.guide;
    constexpr int rounds = 4;
    constexpr double settled = 0.0005;  // of the picture: where a round changes no more, a further one would not either
    const double pixels = static_cast<double>(guide.size().width) * guide.size().height;
    for (int round = 0; round < rounds; ++round) {
        const Sides before = copyOf(candidate.sides);
        candidate.inside = evidenceOf(guide, candidate.sides, dragged.noise);
        for (int y = 0; y < guide.size().height; ++y)
            kernel::addTo(nearness.row(y).data(), candidate.inside.row(y).data(), nearness.row(y).size());
        cutAlongEdges(dragged.grid, dragged.sure, candidate.inside, candidate.sides);
        double changed = 0;
        for (int y = 0; y < guide.size().height; ++y) {
            for (int x = 0; x < guide.size().width; ++x)
                changed += before.row(y)[x] != candidate.sides.row(y)[x] ? 1 : 0;
        }
        if (changed < settled * pixels) return;
    }
}

void finish(const Dragged& dragged, Candidate& candidate) {
    Sides whole = copyOf(candidate.sides);
    keepSure(whole, dragged.sure, nullptr);
    fillHoles(whole, dragged.sure);
    candidate.gaps = gapsAlong(dragged.guide, whole, dragged.noise);
    for (int y = 0; y < whole.size().height; ++y)
        candidate.pixels += static_cast<double>(std::ranges::count(whole.row(y), Side::inside));
}

Candidate byColour(const Dragged& dragged, Sides guess, const image::Plane<float>& ofDrags) {
    image::Plane<float> near = nearness(dragged.guide, guess, dragged.noise);
    for (int y = 0; y < near.size().height; ++y)
        kernel::addTo(ofDrags.row(y).data(), near.row(y).data(), near.row(y).size());
    Candidate found{std::move(guess), {}};
    cutInTurn(dragged, near, evidence, found);
    finish(dragged, found);
    return found;
}

double logit(double p) {
    const double v = std::clamp(p, 1e-4, 1 - 1e-4);
    return std::log(v / (1 - v));
}

Candidate byWalk(const Dragged& dragged, const Walk& walk, double contour, const image::Plane<float>& ofDrags) {
    constexpr double most = 6;
    const image::Plane<Sure>& sure = dragged.sure;
    const base::Size size = sure.size();
    const auto nearOf = [&](int x, int y) {
        return static_cast<float>(std::clamp(logit(double{walk.potential.row(y)[x]}) - logit(contour), -most, most)) +
               std::min(0.0f, ofDrags.row(y)[x]);
    };
    const image::Plane<float> near = image::planeOf(size, nearOf);
    Candidate found{sidesBy(size,
                            [&](int x, int y) {
                                if (sure.row(y)[x] == Sure::inside) return Side::inside;
                                if (sure.row(y)[x] == Sure::outside) return Side::outside;
                                return near.row(y)[x] > 0 ? Side::inside : Side::outside;
                            }),
                    {}};
    cutInTurn(dragged, near, localEvidence, found);
    finish(dragged, found);
    return found;
}

// Where the walk ends: at drags, and at the picture's border where it is unlike them.
Sides sourcesOf(const image::Plane<Sure>& sure, const Sides& guess) {
    constexpr int borderPx = 3;
    const base::Size size = sure.size();
    return sidesBy(size, [&](int x, int y) {
        if (sure.row(y)[x] == Sure::inside) return Side::inside;
        const bool atBorder = std::min({x, y, size.width - 1 - x, size.height - 1 - y}) < borderPx;
        const bool out = sure.row(y)[x] == Sure::outside || (atBorder && guess.row(y)[x] == Side::outside);
        return out ? Side::outside : Side::unknown;
    });
}

// Fewest gaps; where edges are clear the larger of nearly as good ones, since a patch of a thing of many colours has as
// clear an edge as the whole. The first, found by colour, needs not be better than the others by as much.
std::size_t best(const std::vector<Candidate>& found) {
    constexpr double near = 0.1, clear = 0.2, forSize = 0.6, forColour = 0.03, blind = 0.3;
    double least = 1, largest = 1;
    for (const Candidate& c : found) least = std::min(least, c.gaps);
    for (const Candidate& c : found) {
        if (c.gaps < least + near) largest = std::max(largest, c.pixels);
    }
    const double weight = forSize * std::max(0.0, 1 - least / clear);
    // Where no contour lies along edges, as in texture, gaps tell little.
    const double margin = forColour + 0.5 * std::max(0.0, least - blind);
    std::size_t at = 0;
    double lowest = 1e9;
    for (std::size_t i = 0; i < found.size(); ++i) {
        if (found[i].gaps >= least + near) continue;
        const double cost = found[i].gaps + (i > 0 ? margin : 0) + weight * (1 - found[i].pixels / largest);
        if (cost >= lowest) continue;
        lowest = cost;
        at = i;
    }
    return at;
}

// By those that lie along edges about as well.
image::Plane<std::uint8_t> disputedBy(const std::vector<Candidate>& found, std::size_t chosen) {
    constexpr double nearlyAsGood = 0.25;
    image::Plane<std::uint8_t> disputed = image::filled(found[chosen].sides.size(), std::uint8_t{0});
    for (std::size_t i = 0; i < found.size(); ++i) {
        if (i == chosen || found[i].gaps > found[chosen].gaps + nearlyAsGood) continue;
        for (int y = 0; y < disputed.size().height; ++y) {
            for (int x = 0; x < disputed.size().width; ++x)
                disputed.row(y)[x] |= found[i].sides.row(y)[x] != found[chosen].sides.row(y)[x] ? 1 : 0;
        }
    }
    return disputed;
}

// Whether the piece reaches the region's edge: what stands alone, as a hole or an island that is not there, would not
// move it.
std::vector<bool> thoseAtTheEdge(const image::Plane<std::int32_t>& labels, std::size_t count, const Sides& sides) {
    std::vector<bool> touches(count);
    const base::Size size = labels.size();
    for (int y = 0; y + 1 < size.height; ++y) {
        for (int x = 0; x + 1 < size.width; ++x) {
            const Side side = sides.row(y)[x];
            const bool isEdge = side != sides.row(y)[x + 1] || side != sides.row(y + 1)[x];
            if (!isEdge) continue;
            for (const auto label : {labels.row(y)[x], labels.row(y)[x + 1], labels.row(y + 1)[x]}) {
                if (label) touches[static_cast<std::size_t>(label - 1)] = true;
            }
        }
    }
    return touches;
}

// The largest of what is disputed at the region's edge, without the slivers along it.
std::vector<UnsurePlace> unsureIn(const image::Plane<std::uint8_t>& disputed, const Sides& sides) {
    constexpr double leastRadius = 5;
    constexpr std::size_t most = 3;
    const base::Size size = disputed.size();
    if (size.empty()) return {};
    const image::Plane<float> depth =
        distanceToEdge(sidesBy(size, [&](int x, int y) { return disputed.row(y)[x] ? Side::inside : Side::outside; }),
                       size.width + size.height);
    image::Plane<std::int32_t> labels(size);
    const auto pieces = kernel::components(disputed, 4, labels);
    std::vector<UnsurePlace> places(pieces.size());
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            if (!labels.row(y)[x]) continue;
            UnsurePlace& place = places[static_cast<std::size_t>(labels.row(y)[x] - 1)];
            place.pixels += 1;
            const double deep = double{depth.row(y)[x]};
            if (deep > place.radiusPx) place = {x, y, deep, place.pixels};
        }
    }
    const std::vector<bool> atTheEdge = thoseAtTheEdge(labels, places.size(), sides);
    for (std::size_t i = 0; i < places.size(); ++i) {
        if (!atTheEdge[i]) places[i].radiusPx = 0;
    }
    std::erase_if(places, [](const UnsurePlace& p) { return p.radiusPx < leastRadius; });
    std::ranges::sort(places, std::greater(), &UnsurePlace::pixels);
    places.resize(std::min(most, places.size()));
    return places;
}

// The best of the ways of finding it, before its parts are sorted.
Candidate foundWith(const Dragged& dragged, const image::Plane<float>& ofDrags) {
    const Sides guess = firstGuess(dragged.guide, dragged.sure, ofDrags);
    // Where a way finds a contour without gaps, the further ones would find no better.
    constexpr double surelyAll = 0.04, clearly = 0.1;
    std::vector<Candidate> found(2);
    Walk walk;
    base::parallelForAll(2, {}, {}, [&](std::size_t i) {
        if (i == 0) found[0] = byColour(dragged, copyOf(guess), ofDrags);
        if (i == 1) walk = walked(dragged.guide, sourcesOf(dragged.sure, guess), dragged.noise);
    });
    if (found[0].gaps < surelyAll) return std::move(found[0]);
    found[1] = byWalk(dragged, walk, walk.contour, ofDrags);
    if (std::min(found[0].gaps, found[1].gaps) > clearly) {
        // The contour of least conductance lies within the thing's edge, or a little beyond it where noise blurs it.
        constexpr double beyond[] = {0.1, 0.2};
        found.resize(2 + std::size(beyond));
        base::parallelForAll(std::size(beyond), {}, {}, [&](std::size_t i) {
            found[2 + i] = byWalk(dragged, walk, std::min(0.95, walk.contour + beyond[i]), ofDrags);
        });
    }
    const std::size_t at = best(found);
    found[at].disputed = disputedBy(found, at);
    return std::move(found[at]);
}

bool takesAway(const image::Plane<Sure>& sure) {
    for (int y = 0; y < sure.size().height; ++y) {
        if (std::ranges::count(sure.row(y), Sure::outside) > 0) return true;
    }
    return false;
}

// Of half the size: what any of the four pixels is.
image::Plane<Sure> halved(const image::Plane<Sure>& sure) {
    const base::Size size = sure.size();
    image::Plane<Sure> out = image::filled({(size.width + 1) / 2, (size.height + 1) / 2}, Sure::no);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            if (sure.row(y)[x] != Sure::no) out.row(y / 2)[x / 2] = sure.row(y)[x];
        }
    }
    return out;
}

image::Plane<Sure> withoutTaken(const image::Plane<Sure>& sure) {
    image::Plane<Sure> added(sure.size());
    for (int y = 0; y < sure.size().height; ++y) {
        std::transform(sure.row(y).begin(), sure.row(y).end(), added.row(y).begin(),
                       [](Sure s) { return s == Sure::outside ? Sure::no : s; });
    }
    return added;
}

// With drags that take away it is found twice: first without them, at half the size, which tells well enough which of
// them lie within it.
Candidate foundWith(const Dragged& dragged) {
    const base::Size size = dragged.guide.size();
    if (!takesAway(dragged.sure)) return foundWith(dragged, image::filled(size, 0.0f));
    const Guide half = halved(dragged.guide);
    const image::Plane<Sure> added = halved(withoutTaken(dragged.sure));
    Candidate without = foundWith({half, added, dragged.noise / 2}, image::filled(half.size(), 0.0f));
    keepSure(without.sides, added, nullptr);
    const Sides region = sidesBy(size, [&](int x, int y) { return without.sides.row(y / 2)[x / 2]; });
    return foundWith(dragged, nearnessOfDrags(dragged.guide, dragged.sure, region, dragged.noise));
}

}  // namespace

GrownRegion grownRegion(const Guide& guide, const image::Plane<Sure>& sure, const RegionSettings& settings) {
    const double noise = settings.noise;
    const Dragged dragged{guide, sure, noise};
    Candidate chosen = foundWith(dragged);
    if (settings.bias != 0) {
        image::Plane<float> inside = image::planeOf(
            guide.size(), [&](int x, int y) { return chosen.inside.row(y)[x] + static_cast<float>(settings.bias); });
        cutAlongEdges(dragged.grid, sure, inside, chosen.sides);
    }
    if (settings.apart) {
        const image::Plane<float> like = evidence(guide, chosen.sides, noise);
        for (int y = 0; y < guide.size().height; ++y) {
            for (int x = 0; x < guide.size().width; ++x) {
                if (sure.row(y)[x] == Sure::no && double{like.row(y)[x]} > 2.5) chosen.sides.row(y)[x] = Side::inside;
            }
        }
        keepSure(chosen.sides, sure, &like);
    } else {
        keepSure(chosen.sides, sure, nullptr);
    }
    fillHoles(chosen.sides, sure);
    std::vector<UnsurePlace> unsure = unsureIn(chosen.disputed, chosen.sides);
    return {std::move(chosen.sides), std::move(unsure)};
}

}  // namespace dimhem::edge
