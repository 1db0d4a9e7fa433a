#include "core/repair/patches.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>
#include <limits>
#include <memory>
#include <vector>

#include "core/repair/membrane.h"

namespace dimhem::repair {

namespace {

using Colour = std::array<float, 3>;
constexpr int radius = patchRadius, side = 2 * radius + 1;

struct Place {
    int x = 0, y = 0;
};

// A number that looks random and goes by the place and the turn alone: the finaliser of splitmix64 (Steele, Lea and
// Flood 2014, cited from memory).
std::uint32_t chance(int x, int y, int turn) {
    std::uint64_t v = static_cast<std::uint64_t>(static_cast<std::uint32_t>(x)) << 40 ^
                      static_cast<std::uint64_t>(static_cast<std::uint32_t>(y)) << 16 ^
                      static_cast<std::uint64_t>(turn);
    v += 0x9e3779b97f4a7c15u;
    v = (v ^ (v >> 30)) * 0xbf58476d1ce4e5b9u;
    v = (v ^ (v >> 27)) * 0x94d049bb133111ebu;
    return static_cast<std::uint32_t>(v >> 32);
}

struct Level {
    base::Size size;
    std::vector<Colour> pixels;
    std::vector<std::uint8_t> hole, sources;  // `sources`: a whole patch about it may be taken from

    std::size_t at(int x, int y) const {
        return static_cast<std::size_t>(y) * static_cast<std::size_t>(size.width) + static_cast<std::size_t>(x);
    }
    bool holds(int x, int y) const { return x >= 0 && y >= 0 && x < size.width && y < size.height; }
};

// Of places a patch may be taken about: all of it on the picture, known and free.
std::vector<std::uint8_t> sourcesOf(const Level& level, const std::vector<std::uint8_t>& usable) {
    // Sums of what is not usable over all above and left.
    const auto width = static_cast<std::size_t>(level.size.width) + 1;
    std::vector<int> sums(width * (static_cast<std::size_t>(level.size.height) + 1), 0);
    const auto sumAt = [&](int x, int y) -> int& {
        return sums[static_cast<std::size_t>(y) * width + static_cast<std::size_t>(x)];
    };
    for (int y = 0; y < level.size.height; ++y) {
        for (int x = 0; x < level.size.width; ++x)
            sumAt(x + 1, y + 1) = sumAt(x, y + 1) + sumAt(x + 1, y) - sumAt(x, y) + (usable[level.at(x, y)] ? 0 : 1);
    }
    std::vector<std::uint8_t> out(level.pixels.size(), 0);
    for (int y = radius; y + radius < level.size.height; ++y) {
        for (int x = radius; x + radius < level.size.width; ++x) {
            const int x0 = x - radius, y0 = y - radius, x1 = x + radius + 1, y1 = y + radius + 1;
            out[level.at(x, y)] = sumAt(x1, y1) - sumAt(x0, y1) - sumAt(x1, y0) + sumAt(x0, y0) == 0;
        }
    }
    return out;
}

struct Pyramid {
    std::vector<Level> levels;  // the finest first
    std::vector<std::vector<std::uint8_t>> usable;
};

Level finestLevel(const image::EncodedPlanes& planes, const Hole& hole) {
    Level level{planes.size(), {}, {}, {}};
    for (int y = 0; y < level.size.height; ++y) {
        for (int x = 0; x < level.size.width; ++x) {
            level.pixels.push_back(
                {planes.red.view().at(x, y), planes.green.view().at(x, y), planes.blue.view().at(x, y)});
            level.hole.push_back(hole.view().at(x, y));
        }
    }
    return level;
}

// Colours of what is known under each pixel; a hole where anything is.
Level halved(const Level& fine, const std::vector<std::uint8_t>& usable, std::vector<std::uint8_t>& coarseUsable) {
    Level coarse{{(fine.size.width + 1) / 2, (fine.size.height + 1) / 2}, {}, {}, {}};
    for (int y = 0; y < coarse.size.height; ++y) {
        for (int x = 0; x < coarse.size.width; ++x) {
            Colour sum{};
            float known = 0;
            std::uint8_t hole = 0, use = 1;
            for (int i = 0; i < 4; ++i) {
                const int fx = 2 * x + i % 2, fy = 2 * y + i / 2;
                if (!fine.holds(fx, fy)) continue;
                const std::size_t from = fine.at(fx, fy);
                hole = hole | fine.hole[from];
                use = use & usable[from];
                if (fine.hole[from]) continue;
                known += 1;
                for (std::size_t c = 0; c < 3; ++c) sum[c] += fine.pixels[from][c];
            }
            for (float& channel : sum) channel /= std::max(known, 1.0f);
            coarse.pixels.push_back(sum);
            coarse.hole.push_back(hole);
            coarseUsable.push_back(use);
        }
    }
    return coarse;
}

bool hasSources(const Level& level) {
    return std::ranges::find(level.sources, 1) != level.sources.end();
}

// The hole as it came out on the level above: what lay in it must not count for how alike patches are.
void fillFrom(const Level& coarse, Level& fine) {
    for (int y = 0; y < fine.size.height; ++y) {
        for (int x = 0; x < fine.size.width; ++x) {
            if (fine.hole[fine.at(x, y)]) fine.pixels[fine.at(x, y)] = coarse.pixels[coarse.at(x / 2, y / 2)];
        }
    }
}

// How deep the hole is: rounds of eating one pixel off it.
int depthOf(const Level& level) {
    std::vector<std::uint8_t> left = level.hole;
    int depth = 0;
    for (bool any = true; any; ++depth) {
        any = false;
        std::vector<std::uint8_t> next = left;
        for (int y = 0; y < level.size.height; ++y) {
            for (int x = 0; x < level.size.width; ++x) {
                if (!left[level.at(x, y)]) continue;
                any = true;
                for (const auto& [nx, ny] : {std::pair{x - 1, y}, {x + 1, y}, {x, y - 1}, {x, y + 1}}) {
                    if (level.holds(nx, ny) && !left[level.at(nx, ny)]) next[level.at(x, y)] = 0;
                }
            }
        }
        if (next == left) break;  // all of it is a hole
        left.swap(next);
    }
    return depth;
}

Pyramid pyramidOf(const image::EncodedPlanes& planes, const Hole& hole, const Hole& takesFrom) {
    Pyramid out;
    out.levels.push_back(finestLevel(planes, hole));
    std::vector<std::uint8_t> usable;
    for (int y = 0; y < hole.size().height; ++y) {
        for (int x = 0; x < hole.size().width; ++x)
            usable.push_back(hole.view().at(x, y) == 0 && takesFrom.view().at(x, y) != 0);
    }
    out.levels[0].sources = sourcesOf(out.levels[0], usable);
    constexpr int deepEnough = 4, smallest = 4 * side;
    while (depthOf(out.levels.back()) > deepEnough) {
        const Level& fine = out.levels.back();
        if (std::min(fine.size.width, fine.size.height) < smallest) break;
        std::vector<std::uint8_t> coarseUsable;
        Level coarse = halved(fine, usable, coarseUsable);
        coarse.sources = sourcesOf(coarse, coarseUsable);
        if (!hasSources(coarse)) break;
        out.levels.push_back(std::move(coarse));
        usable = std::move(coarseUsable);
    }
    return out;
}

void fillMembraneOf(Level& level, const std::function<void()>& pause) {
    Hole hole(level.size);
    image::EncodedPlanes planes(level.size);
    for (int y = 0; y < level.size.height; ++y) {
        for (int x = 0; x < level.size.width; ++x) {
            const std::size_t i = level.at(x, y);
            hole.view().at(x, y) = level.hole[i];
            planes.red.view().at(x, y) = level.pixels[i][0];
            planes.green.view().at(x, y) = level.pixels[i][1];
            planes.blue.view().at(x, y) = level.pixels[i][2];
        }
    }
    image::Plane<float>* const channels[] = {&planes.red, &planes.green, &planes.blue};
    fillMembrane(channels, hole, pause);
    for (int y = 0; y < level.size.height; ++y) {
        for (int x = 0; x < level.size.width; ++x)
            level.pixels[level.at(x, y)] = {planes.red.view().at(x, y), planes.green.view().at(x, y),
                                            planes.blue.view().at(x, y)};
    }
}

// On one level: for each place whose patch touches the hole, the place of the best patch known.
class Matching {
public:
    explicit Matching(Level& level) : level_(level), match_(level.pixels.size()), apart_(level.pixels.size(), 0) {
        for (int y = 0; y < level.size.height; ++y) {
            for (int x = 0; x < level.size.width; ++x) {
                if (level.sources[level.at(x, y)]) free_.push_back({x, y});
                if (touchesHole(x, y)) targets_.push_back({x, y});
            }
        }
    }

    void beginAtRandom() {
        for (const Place& t : targets_) begin(t, anySource(t, -1));
    }

    void beginFrom(const Matching& coarser) {
        for (const Place& t : targets_) {
            const Place half{std::min(t.x / 2, coarser.level_.size.width - 1),
                             std::min(t.y / 2, coarser.level_.size.height - 1)};
            const Place from = coarser.match_[coarser.level_.at(half.x, half.y)];
            const Place wanted{2 * from.x + t.x % 2, 2 * from.y + t.y % 2};
            begin(t, isSource(wanted) ? wanted : anySource(t, -1));
        }
    }

    // Once over all targets, there or back: what its neighbours take, shifted along, then places ever nearer the best.
    void improve(int turn) {
        const bool back = turn % 2 != 0;
        const int step = back ? 1 : -1;
        for (std::size_t i = 0; i < targets_.size(); ++i) {
            const Place t = targets_[back ? targets_.size() - 1 - i : i];
            const std::size_t own = level_.at(t.x, t.y);
            apart_[own] = distance(t, match_[own], std::numeric_limits<float>::max());  // the hole has changed
            for (const Place& n : {Place{t.x + step, t.y}, Place{t.x, t.y + step}}) {
                if (!level_.holds(n.x, n.y) || !touchesHole(n.x, n.y)) continue;
                const Place from = match_[level_.at(n.x, n.y)];
                consider(t, {from.x + t.x - n.x, from.y + t.y - n.y});
            }
            int around = std::max(level_.size.width, level_.size.height);
            for (int k = 0; around >= 1; ++k, around /= 2) {
                const Place best = match_[own];
                const std::uint32_t random = chance(t.x, t.y, turn * 64 + k);
                const int span = 2 * around + 1;
                consider(t, {best.x + static_cast<int>(random % static_cast<std::uint32_t>(span)) - around,
                             best.y + static_cast<int>((random >> 12) % static_cast<std::uint32_t>(span)) - around});
            }
        }
    }

    // Each pixel of the hole: what the patches over it say, the likelier ones the more.
    void vote(double sharpness) {
        const double usual = usualDistance();
        std::vector<Colour> sums(level_.pixels.size(), Colour{});
        std::vector<float> weights(level_.pixels.size(), 0);
        for (const Place& t : targets_) {
            const std::size_t own = level_.at(t.x, t.y);
            const auto weight = static_cast<float>(std::exp(-sharpness * double{apart_[own]} / (2 * usual)));
            const Place from = match_[own];
            for (int dy = -radius; dy <= radius; ++dy) {
                for (int dx = -radius; dx <= radius; ++dx) {
                    const int x = t.x + dx, y = t.y + dy;
                    if (!level_.holds(x, y) || !level_.hole[level_.at(x, y)]) continue;
                    const Colour& says = level_.pixels[level_.at(from.x + dx, from.y + dy)];
                    const std::size_t to = level_.at(x, y);
                    for (std::size_t c = 0; c < 3; ++c) sums[to][c] += weight * says[c];
                    weights[to] += weight;
                }
            }
        }
        for (std::size_t i = 0; i < sums.size(); ++i) {
            if (!level_.hole[i] || !(weights[i] > 0)) continue;
            for (std::size_t c = 0; c < 3; ++c) level_.pixels[i][c] = sums[i][c] / weights[i];
        }
    }

private:
    bool isSource(const Place& p) const { return level_.holds(p.x, p.y) && level_.sources[level_.at(p.x, p.y)]; }

    bool touchesHole(int x, int y) const {
        for (int dy = -radius; dy <= radius; ++dy) {
            for (int dx = -radius; dx <= radius; ++dx) {
                if (level_.holds(x + dx, y + dy) && level_.hole[level_.at(x + dx, y + dy)]) return true;
            }
        }
        return false;
    }

    Place anySource(const Place& t, int turn) const { return free_[chance(t.x, t.y, turn) % free_.size()]; }

    void begin(const Place& t, const Place& from) {
        const std::size_t own = level_.at(t.x, t.y);
        match_[own] = from;
        apart_[own] = distance(t, from, std::numeric_limits<float>::max());
    }

    void consider(const Place& t, const Place& from) {
        if (!isSource(from)) return;
        const std::size_t own = level_.at(t.x, t.y);
        const float apart = distance(t, from, apart_[own]);
        if (apart < apart_[own]) {
            apart_[own] = apart;
            match_[own] = from;
        }
    }

    // The mean square over the pixels of the patch that lie on the picture; `enough`: no use in going on beyond it.
    float distance(const Place& t, const Place& from, float enough) const {
        const int x0 = std::max(-radius, -t.x), x1 = std::min(radius, level_.size.width - 1 - t.x);
        const int y0 = std::max(-radius, -t.y), y1 = std::min(radius, level_.size.height - 1 - t.y);
        const auto count = static_cast<float>((x1 - x0 + 1) * (y1 - y0 + 1));
        float sum = 0;
        for (int dy = y0; dy <= y1; ++dy) {
            const Colour* a = &level_.pixels[level_.at(t.x + x0, t.y + dy)];
            const Colour* b = &level_.pixels[level_.at(from.x + x0, from.y + dy)];
            for (int i = 0; i <= x1 - x0; ++i) {
                const float r = a[i][0] - b[i][0], g = a[i][1] - b[i][1], l = a[i][2] - b[i][2];
                sum += r * r + g * g + l * l;
            }
            if (sum >= enough * count) return sum / count;
        }
        return sum / count;
    }

    // Three quarters of the patches are nearer.
    double usualDistance() const {
        std::vector<float> all;
        for (const Place& t : targets_) all.push_back(apart_[level_.at(t.x, t.y)]);
        if (all.empty()) return 1;
        const auto at = all.begin() + static_cast<std::ptrdiff_t>(all.size() * 3 / 4);
        std::nth_element(all.begin(), at, all.end());
        return std::max(double{*at}, 1e-7);
    }

    Level& level_;
    std::vector<Place> match_;
    std::vector<float> apart_;
    std::vector<Place> targets_, free_;
};

}  // namespace

void fillWithPatches(image::EncodedPlanes& planes, const Hole& hole, const Hole& takesFrom,
                     const std::function<void()>& pause) {
    Pyramid pyramid = pyramidOf(planes, hole, takesFrom);
    if (!hasSources(pyramid.levels[0])) {
        image::Plane<float>* const channels[] = {&planes.red, &planes.green, &planes.blue};
        return fillMembrane(channels, hole, pause);
    }
    fillMembraneOf(pyramid.levels.back(), pause);
    std::unique_ptr<Matching> coarser;
    for (std::size_t i = pyramid.levels.size(); i-- > 0;) {
        if (coarser) fillFrom(pyramid.levels[i + 1], pyramid.levels[i]);
        auto matching = std::make_unique<Matching>(pyramid.levels[i]);
        if (coarser) {
            matching->beginFrom(*coarser);
            matching->vote(1);
        } else {
            matching->beginAtRandom();
        }
        const int rounds = i + 1 == pyramid.levels.size() ? 6 : i == 0 ? 2 : 3;
        for (int round = 0; round < rounds; ++round) {
            pause();
            matching->improve(2 * round);
            matching->improve(2 * round + 1);
            const bool last = i == 0 && round + 1 == rounds;
            matching->vote(last ? 8 : 1);  // sharp at the end: means of patches are soft
        }
        coarser = std::move(matching);
    }
    const Level& done = pyramid.levels[0];
    for (int y = 0; y < done.size.height; ++y) {
        for (int x = 0; x < done.size.width; ++x) {
            if (!done.hole[done.at(x, y)]) continue;
            const Colour& colour = done.pixels[done.at(x, y)];
            planes.red.view().at(x, y) = colour[0];
            planes.green.view().at(x, y) = colour[1];
            planes.blue.view().at(x, y) = colour[2];
        }
    }
}

}  // namespace dimhem::repair
