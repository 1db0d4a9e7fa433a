#include "core/edge/local_evidence.h"

#include <algorithm>
#include <cmath>
#include <optional>

#include "core/base/parallel.h"
#include "core/edge/colour_mixture.h"

namespace dimhem::edge {

namespace {

constexpr int blockPx = 48, every = 2;
constexpr int reachPx = blockPx;  // so that a window is made up of blocks
constexpr double mostLocalLikely = 8;
constexpr double strangers = 0.05;   // the share of each side whose colours are unlike all that was seen of it
constexpr double leanOnWhole = 300;  // samples of the whole picture's model in a window's

struct SideModel {
    std::optional<ColourMixture> near;
    double share = 0;  // of what the window itself holds
};

// The colours of one side, counted.
struct Counted {
    std::vector<float> counts = std::vector<float>(ColourBins::count, 0.0f);
    double all = 0;
    void add(std::size_t bin) {
        ++counts[bin];
        ++all;
    }
    ColourMixture mixture(const ColourBins& bins, double noise) const {
        std::vector<ColourMixture::Sample> samples;
        for (std::size_t i = 0; i < counts.size(); ++i) {
            if (counts[i] > 0) samples.push_back({bins.centre(i), counts[i]});
        }
        return ColourMixture(samples, noise);
    }
};

struct Whole {
    const Guide& guide;
    const Sides& sides;
    double noise;
    ColourBins bins;
    std::optional<ColourMixture> inside, outside;
};

// The ratio of the window about one block, for each bin of its own that occurs.
class WindowModel {
public:
    WindowModel(const Whole& whole, const base::Rect& window, const ColourSums& colours) : bins_(colours) {
        Counted inside, outside;
        for (int y = window.y0; y < window.y1; y += every) {
            for (int x = window.x0; x < window.x1; x += every) {
                const Side side = whole.sides.row(y)[x];
                if (side != Side::unknown) (side == Side::inside ? inside : outside).add(bin(whole.guide, x, y));
            }
        }
        fit(inside, whole.noise, inside_);
        fit(outside, whole.noise, outside_);
        stranger_ = strangers / whole.bins.volume();
        ratio_.assign(ColourBins::count, unknown);
    }

    float at(const Whole& whole, int x, int y) {
        const std::size_t i = bin(whole.guide, x, y);
        if (ratio_[i] == unknown) {
            const Colour c = bins_.centre(i);
            const double ratio = logOf(inside_, whole.inside, c) - logOf(outside_, whole.outside, c);
            ratio_[i] = static_cast<float>(std::clamp(ratio, -mostLocalLikely, mostLocalLikely));
        }
        return ratio_[i];
    }

private:
    static constexpr float unknown = 1e9f;

    std::size_t bin(const Guide& guide, int x, int y) const {
        return bins_.of({guide.l.row(y)[x], guide.a.row(y)[x], guide.b.row(y)[x]});
    }
    void fit(const Counted& counted, double noise, SideModel& to) const {
        to.share = counted.all / (counted.all + leanOnWhole);
        if (counted.all > 0) to.near = counted.mixture(bins_, noise);
    }
    double logOf(const SideModel& side, const std::optional<ColourMixture>& whole, const Colour& c) const {
        double density = stranger_;
        if (side.near) density += side.share * side.near->density(c);
        if (whole) density += (1 - side.share) * whole->density(c);
        return std::log(density);
    }

    ColourBins bins_;
    SideModel inside_, outside_;
    double stranger_ = 0;
    std::vector<float> ratio_;
};

void modelWhole(Whole& whole) {
    Counted inside, outside;
    for (int y = 0; y < whole.sides.size().height; y += every) {
        for (int x = 0; x < whole.sides.size().width; x += every) {
            const Side side = whole.sides.row(y)[x];
            if (side == Side::unknown) continue;
            const Colour c{whole.guide.l.row(y)[x], whole.guide.a.row(y)[x], whole.guide.b.row(y)[x]};
            (side == Side::inside ? inside : outside).add(whole.bins.of(c));
        }
    }
    if (inside.all > 0) whole.inside = inside.mixture(whole.bins, whole.noise);
    if (outside.all > 0) whole.outside = outside.mixture(whole.bins, whole.noise);
}

}  // namespace

image::Plane<float> localEvidence(const Guide& guide, const Sides& sides, double noise) {
    const base::Size size = guide.size();
    const int columns = (size.width + blockPx - 1) / blockPx, rows = (size.height + blockPx - 1) / blockPx;
    const auto within = [&](const base::Rect& rect) { return base::intersected(rect, base::rectOf(size)); };
    std::vector<ColourSums> sums(static_cast<std::size_t>(columns * rows));
    ColourSums all;
    for (int i = 0; i < columns * rows; ++i) {
        const int x0 = i % columns * blockPx, y0 = i / columns * blockPx;
        all += sums[static_cast<std::size_t>(i)] = colourSums(guide, within({x0, y0, x0 + blockPx, y0 + blockPx}));
    }
    // Of a block and those beside it.
    const auto sumsAbout = [&](int column, int row) {
        ColourSums sum;
        for (int y = std::max(0, row - 1); y <= std::min(rows - 1, row + 1); ++y) {
            for (int x = std::max(0, column - 1); x <= std::min(columns - 1, column + 1); ++x)
                sum += sums[static_cast<std::size_t>(y * columns + x)];
        }
        return sum;
    };
    Whole whole{guide, sides, noise, ColourBins(all), {}, {}};
    modelWhole(whole);
    // Each block's share fades towards the middles of the blocks about it.
    image::Plane<float> out = image::filled(size, 0.0f);
    std::vector<image::Plane<float>> parts(static_cast<std::size_t>(columns * rows));
    const auto reachOf = [&](int i) {
        const int x0 = i % columns * blockPx, y0 = i / columns * blockPx;
        return within({x0 - blockPx / 2, y0 - blockPx / 2, x0 + 3 * blockPx / 2, y0 + 3 * blockPx / 2});
    };
    base::parallelForAll(parts.size(), {}, {}, [&](std::size_t i) {
        const int at = static_cast<int>(i), x0 = at % columns * blockPx, y0 = at / columns * blockPx;
        const base::Rect reach = reachOf(at);
        WindowModel model(whole, within({x0 - reachPx, y0 - reachPx, x0 + blockPx + reachPx, y0 + blockPx + reachPx}),
                          sumsAbout(at % columns, at / columns));
        parts[i] = image::Plane<float>(reach.size());
        for (int y = reach.y0; y < reach.y1; ++y) {
            for (int x = reach.x0; x < reach.x1; ++x) parts[i].row(y - reach.y0)[x - reach.x0] = model.at(whole, x, y);
        }
    });
    const auto fade = [](int v, int start, bool first, bool last) {  // of a block along one way
        const double d = (v + 0.5 - start) / blockPx - 0.5;          // -1..1 from its middle
        if ((first && d < 0) || (last && d > 0)) return 1.0;
        return std::max(0.0, 1 - std::abs(d));
    };
    for (int i = 0; i < columns * rows; ++i) {
        const int column = i % columns, row = i / columns;
        const base::Rect reach = reachOf(i);
        for (int y = reach.y0; y < reach.y1; ++y) {
            const double fy = fade(y, row * blockPx, row == 0, row == rows - 1);
            for (int x = reach.x0; x < reach.x1; ++x) {
                const double f = fy * fade(x, column * blockPx, column == 0, column == columns - 1);
                out.row(y)[x] +=
                    static_cast<float>(f) * parts[static_cast<std::size_t>(i)].row(y - reach.y0)[x - reach.x0];
            }
        }
    }
    return out;
}

}  // namespace dimhem::edge
