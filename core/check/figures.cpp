#include "core/check/figures.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>

#include "core/check/contours.h"
#include "core/edge/sides.h"
#include "core/kernel/components.h"

namespace dimhem::check {

namespace {

using edge::Guide;
using edge::Side;
using edge::Sides;

constexpr float coversFrom = 0.12f;  // less than that is hardly seen
constexpr double sameColour = 0.06;  // OKLab; also the side of a cell when colours are counted

struct Colour {
    double l = 0, a = 0, b = 0;
};

Colour colourAt(const Guide& guide, int x, int y) {
    return {double{guide.l.row(y)[x]}, double{guide.a.row(y)[x]}, double{guide.b.row(y)[x]}};
}

double distance(const Colour& p, const Colour& q) {
    return std::hypot(p.l - q.l, p.a - q.a, p.b - q.b);
}

// Where nothing changes much from two pixels on one side to two on the other, either way.
image::Plane<std::uint8_t> withoutSteps(const Guide& guide, double step) {
    constexpr int reach = 2;
    const base::Size size = guide.size();
    const auto inX = [&](int x) { return std::clamp(x, 0, size.width - 1); };
    const auto inY = [&](int y) { return std::clamp(y, 0, size.height - 1); };
    image::Plane<std::uint8_t> even(size);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const double across = edge::squaredDifference(guide, inX(x - reach), y, inX(x + reach), y),
                         along = edge::squaredDifference(guide, x, inY(y - reach), x, inY(y + reach));
            even.row(y)[x] = std::max(across, along) < step * step ? 1 : 0;
        }
    }
    return even;
}

// Where the mask is nearly as full as it gets.
struct Zone {
    float from = 1;
    double pixels = 0;
};

Zone fullestZone(const image::Plane<float>& mask) {
    float most = 0;
    for (int y = 0; y < mask.size().height; ++y) most = std::max(most, std::ranges::max(mask.row(y)));
    Zone zone{0.8f * most, 0};
    for (int y = 0; y < mask.size().height; ++y)
        zone.pixels += static_cast<double>(std::ranges::count_if(mask.row(y), [&](float v) { return v >= zone.from; }));
    return zone;
}

// How often each colour comes, in cells of sameColour.
class Colours {
public:
    void add(const Colour& c) {
        Cell& cell = cells_[cellOf(c)];
        ++cell.n;
        cell.sum = {cell.sum.l + c.l, cell.sum.a + c.a, cell.sum.b + c.b};
        ++all_;
    }
    Colour commonest() const {
        const auto largest = std::ranges::max_element(cells_, {}, [](const auto& cell) { return cell.second.n; });
        if (largest == cells_.end()) return {};
        const Cell& cell = largest->second;
        return {cell.sum.l / cell.n, cell.sum.a / cell.n, cell.sum.b / cell.n};
    }
    // Those that come often, with what is next to them.
    bool isCommon(const Colour& c) const {
        constexpr double leastShare = 0.02;
        const Place at = cellOf(c);
        for (int i = 0; i < 27; ++i) {
            const auto near = cells_.find({at[0] + i % 3 - 1, at[1] + i / 3 % 3 - 1, at[2] + i / 9 - 1});
            if (near != cells_.end() && near->second.n >= leastShare * all_) return true;
        }
        return false;
    }

private:
    using Place = std::array<int, 3>;
    struct Cell {
        double n = 0;
        Colour sum;
    };
    static Place cellOf(const Colour& c) {
        // A pixel that is no number, or far beyond all colours, has a cell of its own.
        const auto in = [](double v) { return v > -8 && v < 8 ? static_cast<int>(std::floor(v / sameColour)) : 1000; };
        return {in(c.l), in(c.a), in(c.b)};
    }
    std::map<Place, Cell> cells_;
    double all_ = 0;
};

Colours coloursUnder(const image::Plane<float>& mask, const Guide& guide, float from) {
    Colours colours;
    for (int y = 0; y < mask.size().height; ++y) {
        for (int x = 0; x < mask.size().width; ++x) {
            if (mask.row(y)[x] >= from) colours.add(colourAt(guide, x, y));
        }
    }
    return colours;
}

// The ground with all slivers beside it that are nowhere some pixels deep: soft clouds and wires have such.
Sides withoutSlivers(const Sides& ground) {
    constexpr double leastDeep = 2.5, aboutIt = 3;
    const base::Size size = ground.size();
    const auto isDeep = [&, depth = edge::distanceToEdge(ground, 2 * leastDeep)](int x, int y) {
        return ground.row(y)[x] != Side::inside && double{depth.row(y)[x]} >= leastDeep;
    };
    Sides cores(size);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) cores.row(y)[x] = isDeep(x, y) ? Side::inside : Side::outside;
    }
    const image::Plane<float> toCore = edge::distanceToEdge(cores, 2 * aboutIt);
    Sides out(size);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const bool isSolid = cores.row(y)[x] == Side::inside ||
                                 (ground.row(y)[x] != Side::inside && double{toCore.row(y)[x]} <= aboutIt);
            out.row(y)[x] = isSolid ? Side::outside : Side::inside;
        }
    }
    return out;
}

// A step between what lies on both sides of a pixel that is clearly one, whatever the noise.
double clearStep(double noise) {
    return 0.04 + noise;
}

// What the gradient is laid for.
struct Ground {
    image::Plane<std::uint8_t> reached;  // surely, without the steps
    Sides sides;                         // of all pixels
};

// Where the ground begins: the even pixels of the zone that have its commonest colour. None where that is no third of
// the zone, or steps are all over it, as in grass.
std::vector<base::Point> startsIn(const image::Plane<float>& mask, const Guide& guide, const Zone& zone,
                                  const image::Plane<std::uint8_t>& even) {
    constexpr double leastShare = 0.33, leastEven = 0.6;
    const Colour common = coloursUnder(mask, guide, zone.from).commonest();
    std::vector<base::Point> starts;
    double like = 0, evenInZone = 0;
    for (int y = 0; y < mask.size().height; ++y) {
        for (int x = 0; x < mask.size().width; ++x) {
            if (mask.row(y)[x] < zone.from) continue;
            evenInZone += even.row(y)[x];
            if (!(distance(colourAt(guide, x, y), common) <= sameColour)) continue;
            ++like;
            if (even.row(y)[x]) starts.push_back({double(x), double(y)});
        }
    }
    if (like < leastShare * zone.pixels || evenInZone < leastEven * zone.pixels) return {};
    return starts;
}

// What the colours run on over without a step from there, as long as they are such as come often where the mask is
// strong. Steps of such colours belong to what lies nearest.
Ground groundOf(const image::Plane<float>& mask, const Guide& guide, const Zone& zone, double noise) {
    const base::Size size = mask.size();
    const image::Plane<std::uint8_t> even = withoutSteps(guide, clearStep(noise));
    const std::vector<base::Point> starts = startsIn(mask, guide, zone, even);
    if (starts.empty()) return {};
    const Colours usual = coloursUnder(mask, guide, 0.35f * zone.from);
    image::Plane<std::uint8_t> isUsual(size), goesOn(size);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            isUsual.row(y)[x] = usual.isCommon(colourAt(guide, x, y)) ? 1 : 0;
            goesOn.row(y)[x] = even.row(y)[x] & isUsual.row(y)[x];
        }
    }
    image::Plane<std::uint8_t> reached = kernel::floodedFrom(goesOn, starts);
    Sides sides = image::filled(size, Side::unknown);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            if (reached.row(y)[x]) {
                sides.row(y)[x] = Side::inside;
            } else if (even.row(y)[x] || !isUsual.row(y)[x]) {
                sides.row(y)[x] = Side::outside;
            }
        }
    }
    edge::fillUnknown(sides);
    return {std::move(reached), withoutSlivers(sides)};
}

// The mean colour of one piece about a place.
struct Near {
    double n = 0;
    Colour sum;
    void add(const Colour& c) { sum = {sum.l + c.l, sum.a + c.a, sum.b + c.b}, ++n; }
    Colour mean() const { return {sum.l / n, sum.a / n, sum.b / n}; }
};

// How much of the border between a piece and the ground, where the mask covers it, is a clear edge.
class Border {
public:
    Border(const image::Plane<float>& mask, const Guide& guide, const Sides& ground,
           const image::Plane<std::int32_t>& labels, double noise)
        : mask_(mask), guide_(guide), ground_(ground), labels_(labels), leastStep_(clearStep(noise)) {}

    // What goes in far is no play of soft colours: less of its border will do.
    bool isClear(std::int32_t label, const base::Rect& bounds, float deepPx) const {
        constexpr float farPx = 12;
        constexpr int leastPx = 12;
        const double clearShare = deepPx > farPx ? 0.55 : 0.75;
        int border = 0, clear = 0;
        for (int y = bounds.y0; y < bounds.y1; ++y) {
            for (int x = bounds.x0; x < bounds.x1; ++x) {
                if (labels_.row(y)[x] != label || isGround(x, y) || mask_.row(y)[x] < coversFrom) continue;
                if (!isBesideGround(x, y)) continue;
                ++border;
                clear += isStep(label, x, y);
            }
        }
        return border >= leastPx && clear >= clearShare * border;
    }

private:
    bool isGround(int x, int y) const {
        return edge::isWithin(ground_.size(), x, y) && ground_.row(y)[x] == Side::inside;
    }
    bool isBesideGround(int x, int y) const {
        return isGround(x - 1, y) || isGround(x + 1, y) || isGround(x, y - 1) || isGround(x, y + 1);
    }
    // The difference between what lies on both sides up to so far.
    double differenceAt(std::int32_t label, int x, int y, int reach) const {
        Near piece, ground;
        for (int ny = y - reach; ny <= y + reach; ++ny) {
            for (int nx = x - reach; nx <= x + reach; ++nx) {
                if (!edge::isWithin(labels_.size(), nx, ny)) continue;
                if (isGround(nx, ny)) {
                    ground.add(colourAt(guide_, nx, ny));
                } else if (labels_.row(ny)[nx] == label) {
                    piece.add(colourAt(guide_, nx, ny));
                }
            }
        }
        return distance(piece.mean(), ground.mean());
    }
    // Most of the difference is there at once: where it goes on growing, it is a passage.
    bool isStep(std::int32_t label, int x, int y) const {
        constexpr int near = 4, far = 12;
        constexpr double mostOfIt = 0.5;
        const double step = differenceAt(label, x, y, near);
        return step > leastStep_ && step > mostOfIt * differenceAt(label, x, y, far);
    }

    const image::Plane<float>& mask_;
    const Guide& guide_;
    const Sides& ground_;
    const image::Plane<std::int32_t>& labels_;
    double leastStep_;
};

double coveredBy(const image::Plane<float>& mask, const Sides& sides, Side side) {
    double sum = 0;
    for (int y = 0; y < mask.size().height; ++y) {
        for (int x = 0; x < mask.size().width; ++x) {
            if (sides.row(y)[x] == side) sum += double{mask.row(y)[x]};
        }
    }
    return sum;
}

// What of a piece the mask covers, and how far it goes in from the ground.
struct Extent {
    double covered = 0;
    float deepPx = 0;
};

std::vector<Extent> extentsOf(const image::Plane<float>& mask, const Sides& ground,
                              const image::Plane<std::int32_t>& labels, std::size_t count) {
    constexpr double deepEnough = 64;
    const image::Plane<float> depth = edge::distanceToEdge(ground, deepEnough);
    std::vector<Extent> out(count);
    for (int y = 0; y < labels.size().height; ++y) {
        for (int x = 0; x < labels.size().width; ++x) {
            if (!labels.row(y)[x] || ground.row(y)[x] == Side::inside || mask.row(y)[x] < coversFrom) continue;
            Extent& extent = out[static_cast<std::size_t>(labels.row(y)[x] - 1)];
            extent.covered += double{mask.row(y)[x]};
            extent.deepPx = std::max(extent.deepPx, depth.row(y)[x]);
        }
    }
    return out;
}

// What is not reached hangs together by its steps, as the parts of one thing do; of it counts what is not the ground's.
std::vector<Finding> beside(const Ground& found, const image::Plane<float>& mask, const Guide& guide, double noise) {
    constexpr double leastCovered = 0.0005;  // of all pixels
    constexpr float leastDeepPx = 3;
    constexpr double roughPx = 2;
    const Sides& ground = found.sides;
    const base::Size size = mask.size();
    image::Plane<std::uint8_t> others(size);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) others.row(y)[x] = !found.reached.row(y)[x] && mask.row(y)[x] > 0 ? 1 : 0;
    }
    image::Plane<std::int32_t> labels(size);
    const auto pieces = kernel::components(others, 4, labels);
    const std::vector<Extent> extents = extentsOf(mask, ground, labels, pieces.size());
    const Border border(mask, guide, ground, labels, noise);
    std::vector<Finding> out;
    for (std::size_t i = 0; i < pieces.size(); ++i) {
        const auto label = static_cast<std::int32_t>(i + 1);
        if (extents[i].covered < leastCovered * size.width * size.height || extents[i].deepPx < leastDeepPx) continue;
        if (!border.isClear(label, pieces[i].bounds, extents[i].deepPx)) continue;
        out.push_back({FindingKind::spill, pieces[i].bounds, extents[i].covered,
                       longestOutline(
                           pieces[i].bounds,
                           [&](int x, int y) { return labels.row(y)[x] == label && ground.row(y)[x] != Side::inside; }),
                       true, roughPx});
    }
    return out;
}

}  // namespace

std::vector<Finding> figuresIn(const image::Plane<float>& mask, const edge::Guide& guide, double noise) {
    constexpr double leastZone = 0.015, leastGround = 0.4;
    const base::Size size = mask.size();
    const Zone zone = fullestZone(mask);
    if (zone.from <= coversFrom || zone.pixels < leastZone * size.width * size.height) return {};
    const Ground ground = groundOf(mask, guide, zone, noise);
    if (ground.sides.size().empty()) return {};
    const double on = coveredBy(mask, ground.sides, Side::inside), off = coveredBy(mask, ground.sides, Side::outside);
    if (on < leastGround * (on + off)) return {};
    std::vector<Finding> found = beside(ground, mask, guide, noise);
    largestFirst(found);
    return found;
}

}  // namespace dimhem::check
