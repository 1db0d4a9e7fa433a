#include "core/repair/membrane.h"

#include <algorithm>
#include <cmath>
#include <vector>

namespace dimhem::repair {

namespace {

struct Span {
    int first = 0, last = 0;
};

// The equations of one level: of each cell of the hole, (sum of the weights) x - sum of weight x neighbour = b. Cells
// have a rim of one all round, whose weights are 0, so that no loop asks whether it stands at the border.
class Grid {
public:
    explicit Grid(base::Size size) : size_(size), stride_(static_cast<std::size_t>(size.width) + 2) {
        const std::size_t count = stride_ * (static_cast<std::size_t>(size.height) + 2);
        right.assign(count, 0);
        below.assign(count, 0);
        known.assign(count, 0);
        diagonal.assign(count, 0);
        inverse.assign(count, 0);
        spans.resize(static_cast<std::size_t>(size.height));
    }

    base::Size size() const { return size_; }
    std::size_t stride() const { return stride_; }
    std::size_t count() const { return right.size(); }
    std::size_t at(int x, int y) const {
        return static_cast<std::size_t>(y + 1) * stride_ + static_cast<std::size_t>(x + 1);
    }
    bool isOfHole(std::size_t i) const { return inverse[i] > 0; }

    // What is left to be done once the weights stand: `active` says which cells are of the hole.
    template <class Active>
    void finish(Active active) {
        for (int y = 0; y < size_.height; ++y) {
            Span& span = spans[static_cast<std::size_t>(y)];
            span = {size_.width, 0};
            for (int x = 0; x < size_.width; ++x) {
                const std::size_t i = at(x, y);
                if (!active(x, y)) continue;
                const float all = right[i] + right[i - 1] + below[i] + below[i - stride_] + known[i];
                diagonal[i] = all;
                inverse[i] = all > 0 ? 1 / all : 0;
                span = {std::min(span.first, x), x + 1};
            }
        }
    }

    // visit(first cell, how many) of each row's part with cells of the hole.
    template <class Visit>
    void forEachRow(Visit visit) const {
        for (int y = 0; y < size_.height; ++y) {
            const Span span = spans[static_cast<std::size_t>(y)];
            if (span.first < span.last) visit(at(span.first, y), static_cast<std::size_t>(span.last - span.first));
        }
    }

    std::vector<float> right, below;  // weight of the cell and the one right of it, below it
    std::vector<float> known;         // weight of its neighbours that are known
    std::vector<float> diagonal;      // the sum of its weights; 0 of cells that are not of the hole
    std::vector<float> inverse;       // one over it, or 0
    std::vector<Span> spans;

private:
    base::Size size_;
    std::size_t stride_;
};

using Values = std::vector<float>;

constexpr float damping = 0.8f;  // of Jacobi's method, so that no pixel pattern stays

Grid finestGrid(const Hole& hole) {
    const base::Size size = hole.size();
    Grid grid(size);
    const auto isHole = [&](int x, int y) { return hole.view().at(x, y) != 0; };
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const std::size_t i = grid.at(x, y);
            const auto link = [&](int otherX, int otherY, float& weight, std::size_t other) {
                if (otherX >= size.width || otherY >= size.height) return;
                const bool here = isHole(x, y), there = isHole(otherX, otherY);
                if (here && there) weight = 1;
                if (here && !there) grid.known[i] += 1;
                if (!here && there) grid.known[other] += 1;
            };
            link(x + 1, y, grid.right[i], i + 1);
            link(x, y + 1, grid.below[i], i + grid.stride());
        }
    }
    grid.finish(isHole);
    return grid;
}

// Cells of two by two. Half of the sum of their outer weights makes the same equation at twice the distance.
Grid coarserGrid(const Grid& fine) {
    const base::Size size{(fine.size().width + 1) / 2, (fine.size().height + 1) / 2};
    Grid grid(size);
    std::vector<std::uint8_t> active(grid.count(), 0);
    for (int y = 0; y < fine.size().height; ++y) {
        for (int x = 0; x < fine.size().width; ++x) {
            const std::size_t i = fine.at(x, y), to = grid.at(x / 2, y / 2);
            if (!fine.isOfHole(i)) continue;
            active[to] = 1;
            grid.known[to] += 0.5f * fine.known[i];
            if (x % 2) grid.right[to] += 0.5f * fine.right[i];
            if (y % 2) grid.below[to] += 0.5f * fine.below[i];
        }
    }
    grid.finish([&](int x, int y) { return active[grid.at(x, y)] != 0; });
    return grid;
}

// out[i] = f(i, the sum over the neighbours of cell i) over all cells of the hole. Whatever else lies in a row's span
// has no weights and holds 0, as does all beside it.
template <class F>
void forEachSum(const Grid& grid, const Values& x, Values& out, F f) {
    const std::size_t down = grid.stride();
    grid.forEachRow([&](std::size_t first, std::size_t count) {
        const float *right = &grid.right[first], *left = right - 1, *below = &grid.below[first], *above = below - down;
        const float* at = &x[first];
        float* __restrict to = &out[first];
        for (std::size_t i = 0; i < count; ++i) {
            const float* here = at + i;
            to[i] = f(first + i,
                      right[i] * here[1] + left[i] * here[-1] + below[i] * here[down] + above[i] * *(here - down));
        }
    });
}

// out = b - A x
void residual(const Grid& grid, const Values& b, const Values& x, Values& out) {
    forEachSum(grid, x, out, [&, own = grid.diagonal.data(), b = b.data(), x = x.data()](std::size_t i, float sum) {
        return b[i] + sum - own[i] * x[i];
    });
}

// Each cell moved most of the way to what its equation says, `scratch` being as long as x.
void smooth(const Grid& grid, const Values& b, Values& x, Values& scratch) {
    forEachSum(grid, x, scratch, [inverse = grid.inverse.data(), b = b.data(), x = x.data()](std::size_t i, float sum) {
        return x[i] + damping * (inverse[i] * (b[i] + sum) - x[i]);
    });
    x.swap(scratch);
}

class Multigrid {
public:
    explicit Multigrid(const Hole& hole) {
        grids_.push_back(finestGrid(hole));
        constexpr int smallest = 4;
        while (std::max(grids_.back().size().width, grids_.back().size().height) > smallest)
            grids_.push_back(coarserGrid(grids_.back()));
        for (const Grid& grid : grids_) {
            work_.push_back({Values(grid.count(), 0), Values(grid.count(), 0), Values(grid.count(), 0)});
        }
    }

    const Grid& finest() const { return grids_[0]; }

    // About the x of A x = b, always the same linear map of b.
    const Values& cycle(const Values& b) {
        work_[0].b = b;
        descend(0);
        return work_[0].x;
    }

private:
    struct Work {
        Values x, b, scratch;
    };
    static constexpr int sweeps = 3, sweepsOnCoarsest = 24;

    void descend(std::size_t level) {
        const Grid& grid = grids_[level];
        Work& now = work_[level];
        std::ranges::fill(now.x, 0.0f);
        const bool isCoarsest = level + 1 == grids_.size();
        for (int i = 0; i < (isCoarsest ? sweepsOnCoarsest : sweeps); ++i) smooth(grid, now.b, now.x, now.scratch);
        if (isCoarsest) return;
        residual(grid, now.b, now.x, now.scratch);
        restrict(grid, now.scratch, grids_[level + 1], work_[level + 1].b);
        descend(level + 1);
        addCoarser(grids_[level + 1], work_[level + 1].x, grid, now.x);
        for (int i = 0; i < sweeps; ++i) smooth(grid, now.b, now.x, now.scratch);
    }

    // Where a fine cell lies between coarse ones: the near one counts three quarters, the other one a quarter.
    static int otherOf(int fine) { return fine % 2 ? fine / 2 + 1 : fine / 2 - 1; }

    static void restrict(const Grid& fine, const Values& from, const Grid& coarse, Values& to) {
        std::ranges::fill(to, 0.0f);
        for (int y = 0; y < fine.size().height; ++y) {
            const Span span = fine.spans[static_cast<std::size_t>(y)];
            const int near = y / 2, far = otherOf(y);
            for (int x = span.first; x < span.last; ++x) {
                const float value = from[fine.at(x, y)];
                const int nearX = x / 2, farX = otherOf(x);
                to[coarse.at(nearX, near)] += 0.5625f * value;
                to[coarse.at(farX, near)] += 0.1875f * value;
                to[coarse.at(nearX, far)] += 0.1875f * value;
                to[coarse.at(farX, far)] += 0.0625f * value;
            }
        }
        for (std::size_t i = 0; i < to.size(); ++i) {
            if (!coarse.isOfHole(i)) to[i] = 0;
        }
    }

    static void addCoarser(const Grid& coarse, const Values& from, const Grid& fine, Values& to) {
        for (int y = 0; y < fine.size().height; ++y) {
            const Span span = fine.spans[static_cast<std::size_t>(y)];
            const int near = y / 2, far = otherOf(y);
            for (int x = span.first; x < span.last; ++x) {
                const std::size_t i = fine.at(x, y);
                if (!fine.isOfHole(i)) continue;
                const int nearX = x / 2, farX = otherOf(x);
                to[i] += 0.5625f * from[coarse.at(nearX, near)] + 0.1875f * from[coarse.at(farX, near)] +
                         0.1875f * from[coarse.at(nearX, far)] + 0.0625f * from[coarse.at(farX, far)];
            }
        }
    }

    std::vector<Grid> grids_;
    std::vector<Work> work_;
};

double dot(const Grid& grid, const Values& a, const Values& b) {
    double sum = 0;
    grid.forEachRow([&](std::size_t first, std::size_t count) {
        constexpr std::size_t lanes = 16;
        float part[lanes] = {};
        std::size_t i = 0;
        for (; i + lanes <= count; i += lanes) {
            for (std::size_t lane = 0; lane < lanes; ++lane) part[lane] += a[first + i + lane] * b[first + i + lane];
        }
        for (; i < count; ++i) part[0] += a[first + i] * b[first + i];
        for (const float lane : part) sum += double{lane};
    });
    return sum;
}

// to += factor x from
void addTo(const Grid& grid, Values& to, float factor, const Values& from) {
    grid.forEachRow([&](std::size_t first, std::size_t count) {
        for (std::size_t i = first; i < first + count; ++i) to[i] += factor * from[i];
    });
}

// What the known neighbours bring in, less `middle`, about which the values lie.
Values knownSums(const Grid& grid, const image::Plane<float>& plane, const Hole& hole, float middle) {
    Values b(grid.count(), 0);
    const base::Size size = hole.size();
    grid.forEachRow([&](std::size_t first, std::size_t count) {
        for (std::size_t i = first; i < first + count; ++i) {
            if (grid.known[i] == 0) continue;
            const int x = static_cast<int>(i % grid.stride()) - 1, y = static_cast<int>(i / grid.stride()) - 1;
            for (const auto& [nx, ny] : {std::pair{x - 1, y}, {x + 1, y}, {x, y - 1}, {x, y + 1}}) {
                const bool inside = nx >= 0 && ny >= 0 && nx < size.width && ny < size.height;
                if (inside && !hole.view().at(nx, ny)) b[i] += plane.view().at(nx, ny) - middle;
            }
        }
    });
    return b;
}

float meanKnown(const image::Plane<float>& plane, const Hole& hole) {
    double sum = 0, count = 1e-9;
    for (int y = 0; y < hole.size().height; ++y) {
        for (int x = 0; x < hole.size().width; ++x) {
            if (hole.view().at(x, y)) continue;
            sum += double{plane.view().at(x, y)};
            count += 1;
        }
    }
    return static_cast<float>(sum / count);
}

void solve(Multigrid& multigrid, image::Plane<float>& plane, const Hole& hole, const std::function<void()>& pause) {
    constexpr int mostSteps = 60;
    constexpr double accuracy = 5e-5;  // of the residual, beside what it began with
    const Grid& grid = multigrid.finest();
    const float middle = meanKnown(plane, hole);
    Values r = knownSums(grid, plane, hole, middle), x(grid.count(), 0), p(grid.count(), 0), ap(grid.count(), 0);
    const Values none(grid.count(), 0);
    const double begun = dot(grid, r, r);
    double before = 1;
    for (int step = 0; step < mostSteps && dot(grid, r, r) > accuracy * accuracy * begun; ++step) {
        pause();
        const Values& z = multigrid.cycle(r);
        const double rz = dot(grid, r, z);
        const auto beta = static_cast<float>(step == 0 ? 0 : rz / before);
        before = rz;
        grid.forEachRow([&](std::size_t first, std::size_t count) {
            for (std::size_t i = first; i < first + count; ++i) p[i] = z[i] + beta * p[i];
        });
        residual(grid, none, p, ap);  // less A p
        const double curvature = -dot(grid, p, ap);
        if (!(curvature > 0)) break;
        const auto alpha = static_cast<float>(rz / curvature);
        addTo(grid, x, alpha, p);
        addTo(grid, r, alpha, ap);
    }
    for (int y = 0; y < hole.size().height; ++y) {
        for (int column = 0; column < hole.size().width; ++column) {
            if (hole.view().at(column, y)) plane.view().at(column, y) = middle + x[grid.at(column, y)];
        }
    }
}

bool anything(const Hole& hole, std::uint8_t of) {
    for (int y = 0; y < hole.size().height; ++y) {
        if (std::ranges::find(hole.row(y), of) != hole.row(y).end()) return true;
    }
    return false;
}

}  // namespace

void fillMembrane(std::span<image::Plane<float>* const> planes, const Hole& hole, const std::function<void()>& pause) {
    if (!anything(hole, 1) || !anything(hole, 0)) return;
    Multigrid multigrid(hole);
    for (image::Plane<float>* plane : planes) solve(multigrid, *plane, hole, pause);
}

void relaxMembrane(image::Plane<float>& plane, const Hole& hole, int rounds) {
    const base::Size size = plane.size();
    image::Plane<float> next = image::copied(plane);
    for (int round = 0; round < rounds; ++round) {
        for (int y = 0; y < size.height; ++y) {
            for (int x = 0; x < size.width; ++x) {
                if (!hole.view().at(x, y)) continue;
                float sum = 0, count = 0;
                for (const auto& [nx, ny] : {std::pair{x - 1, y}, {x + 1, y}, {x, y - 1}, {x, y + 1}}) {
                    if (nx < 0 || ny < 0 || nx >= size.width || ny >= size.height) continue;
                    sum += plane.view().at(nx, ny);
                    count += 1;
                }
                float& value = next.view().at(x, y);
                value = plane.view().at(x, y);
                if (count > 0) value += damping * (sum / count - value);
            }
        }
        std::swap(plane, next);
    }
}

}  // namespace dimhem::repair
