#include "core/repair/found_source.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <vector>

namespace dimhem::repair {

namespace {

using Colour = std::array<float, 3>;
constexpr int rimPx = 3;

struct Pixel {
    int x, y;
};

// A hole with its rim, thinned out to so many pixels that judging a source costs the same for any of them.
struct Outline {
    std::vector<Pixel> rim, inside;
    base::Rect bounds;  // of the hole
};

template <class Is>
std::vector<Pixel> somePixels(base::Size size, std::size_t most, Is is) {
    std::vector<Pixel> all, some;
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            if (is(x, y)) all.push_back({x, y});
        }
    }
    const std::size_t step = std::max<std::size_t>(1, all.size() / most);
    for (std::size_t i = 0; i < all.size(); i += step) some.push_back(all[i]);
    return some;
}

Outline outlineOf(const Hole& hole) {
    constexpr std::size_t mostRim = 600, mostInside = 300;
    const base::Size size = hole.size();
    const auto isHole = [&](int x, int y) {
        return x >= 0 && y >= 0 && x < size.width && y < size.height && hole.view().at(x, y) != 0;
    };
    const auto isRim = [&](int x, int y) {
        if (isHole(x, y)) return false;
        for (int dy = -rimPx; dy <= rimPx; ++dy) {
            for (int dx = -rimPx; dx <= rimPx; ++dx) {
                if (isHole(x + dx, y + dy)) return true;
            }
        }
        return false;
    };
    Outline out;
    out.rim = somePixels(size, mostRim, isRim);
    out.inside = somePixels(size, mostInside, isHole);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            if (isHole(x, y)) out.bounds = base::united(out.bounds, {x, y, x + 1, y + 1});
        }
    }
    return out;
}

class Judge {
public:
    Judge(const image::EncodedPlanes& planes, const Hole& hole)
        : planes_(planes), hole_(hole), outline_(outlineOf(hole)) {
        detail_ = detailOf(outline_.rim, 0, 0);
    }

    bool hasRim() const { return !outline_.rim.empty() && !outline_.inside.empty(); }
    const base::Rect& bounds() const { return outline_.bounds; }

    bool mayTake(int dx, int dy) const {
        const base::Rect from{outline_.bounds.x0 + dx, outline_.bounds.y0 + dy, outline_.bounds.x1 + dx,
                              outline_.bounds.y1 + dy};
        if (from.x0 < rimPx || from.y0 < rimPx || from.x1 + rimPx > hole_.size().width ||
            from.y1 + rimPx > hole_.size().height)
            return false;
        return std::ranges::none_of(outline_.inside, [&](const Pixel& p) { return isHole(p.x + dx, p.y + dy); });
    }

    double cost(int dx, int dy) const {
        Colour sum{};
        double squares = 0, count = 0;
        for (const Pixel& p : outline_.rim) {
            if (isHole(p.x + dx, p.y + dy)) continue;
            const Colour a = at(p.x, p.y), b = at(p.x + dx, p.y + dy);
            for (std::size_t c = 0; c < 3; ++c) {
                const float d = a[c] - b[c];
                sum[c] += d;
                squares += double{d} * double{d};
            }
            count += 1;
        }
        if (count < 0.5 * static_cast<double>(outline_.rim.size())) return 1e9;
        double means = 0;
        for (const float s : sum) means += double{s} * double{s} / count / count;
        const double apart = std::max(0.0, squares / count - means);
        const double detail = detailOf(outline_.inside, dx, dy) - detail_;
        const double size = std::max(outline_.bounds.width(), outline_.bounds.height());
        const double farOff = 1 + 0.02 * std::hypot(dx, dy) / size;
        return (apart + 0.1 * means + 4 * detail * detail) * farOff + 1e-9 * std::hypot(dx, dy);
    }

private:
    bool isHole(int x, int y) const {
        return x >= 0 && y >= 0 && x < hole_.size().width && y < hole_.size().height && hole_.view().at(x, y) != 0;
    }

    Colour at(int x, int y) const {
        const int px = std::clamp(x, 0, hole_.size().width - 1), py = std::clamp(y, 0, hole_.size().height - 1);
        return {planes_.red.view().at(px, py), planes_.green.view().at(px, py), planes_.blue.view().at(px, py)};
    }

    // Root mean square of what a pixel is apart from the one right of it and the one below, of green.
    double detailOf(const std::vector<Pixel>& pixels, int dx, int dy) const {
        double sum = 0, count = 1e-9;
        for (const Pixel& p : pixels) {
            const int x = p.x + dx, y = p.y + dy;
            if (isHole(x, y) || isHole(x + 1, y) || isHole(x, y + 1)) continue;
            const float own = at(x, y)[1], right = at(x + 1, y)[1] - own, below = at(x, y + 1)[1] - own;
            sum += double{right} * double{right} + double{below} * double{below};
            count += 2;
        }
        return std::sqrt(sum / count);
    }

    const image::EncodedPlanes& planes_;
    const Hole& hole_;
    Outline outline_;
    double detail_ = 0;
};

struct Source {
    double cost;
    int dx, dy;
};

}  // namespace

int sourceReach(base::Size hole) {
    return 3 * std::max(hole.width, hole.height) + 8;
}

std::optional<base::Point> findSource(const image::EncodedPlanes& planes, const Hole& hole, int rank) {
    const Judge judge(planes, hole);
    if (!judge.hasRim()) return std::nullopt;
    const int reach = sourceReach(judge.bounds().size());
    const int step = std::max(1, reach / 40);
    std::vector<Source> sources;
    for (int dy = -reach; dy <= reach; dy += step) {
        for (int dx = -reach; dx <= reach; dx += step) {
            if (judge.mayTake(dx, dy)) sources.push_back({judge.cost(dx, dy), dx, dy});
        }
    }
    std::ranges::sort(sources, {}, &Source::cost);
    const double apart = std::max(2.0 * step, 0.35 * std::max(judge.bounds().width(), judge.bounds().height()));
    std::vector<Source> best;
    for (const Source& source : sources) {
        const bool isNear = std::ranges::any_of(
            best, [&](const Source& b) { return std::hypot(b.dx - source.dx, b.dy - source.dy) < apart; });
        if (!isNear) best.push_back(source);
        if (static_cast<int>(best.size()) > rank) break;
    }
    if (best.empty()) return std::nullopt;
    return base::Point{static_cast<double>(best.back().dx), static_cast<double>(best.back().dy)};
}

}  // namespace dimhem::repair
