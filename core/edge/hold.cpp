#include "core/edge/hold.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "core/edge/colour_bins.h"
#include "core/edge/grid_cut.h"
#include "core/edge/guided_filter.h"

namespace dimhem::edge {

namespace {

constexpr std::size_t bins = ColourBins::perAxis, allBins = ColourBins::count;
constexpr float threshold = 0.2f;  // of membership, from which coverage begins

// [1 2 1]/4 along one axis, whose bins lie `stride` apart: row after row of bins that lie side by side.
void blurAlong(std::vector<float>& histogram, std::size_t stride) {
    std::vector<float> before(stride);
    for (std::size_t block = 0; block < allBins; block += stride * bins) {
        std::copy_n(&histogram[block], stride, before.begin());
        for (std::size_t i = 0; i < bins; ++i) {
            float* row = &histogram[block + i * stride];
            const float* after = i + 1 < bins ? row + stride : row;
            for (std::size_t j = 0; j < stride; ++j) {
                const float own = row[j];
                row[j] = 0.25f * (before[j] + 2 * own + after[j]);
                before[j] = own;
            }
        }
    }
}

void finish(std::vector<float>& histogram, double count) {
    for (const std::size_t stride : {std::size_t{1}, std::size_t{bins}, std::size_t{bins * bins}}) {
        blurAlong(histogram, stride);
        blurAlong(histogram, stride);
    }
    for (float& v : histogram) v = static_cast<float>(double{v} / count);
}

// The q-quantile of window / model over the model's colours.
double shareOf(const std::vector<float>& window, const std::vector<float>& model, double q) {
    std::vector<std::pair<float, float>> ratios;
    double all = 0;
    for (std::size_t i = 0; i < allBins; ++i) {
        if (model[i] < 1e-7f) continue;
        ratios.emplace_back(window[i] / model[i], model[i]);
        all += double{model[i]};
    }
    std::sort(ratios.begin(), ratios.end());
    double sum = 0;
    for (const auto& [ratio, weight] : ratios) {
        sum += double{weight};
        if (sum >= q * all) return double{ratio};
    }
    return ratios.empty() ? 0 : double{ratios.back().first};
}

// The weakest pixel on the best way from the core: passes over the window, forth and back.
image::Plane<float> connected(const image::Plane<float>& p, const image::Plane<std::uint8_t>& core) {
    const base::Size size = p.size();
    image::Plane<float> k(size);
    for (int y = 0; y < size.height; ++y)
        std::ranges::transform(core.row(y), k.row(y).begin(), [](std::uint8_t own) { return own ? 1.0f : 0.0f; });
    const auto visit = [&](int x, int y, std::size_t first, std::size_t last) {
        float best = 0;
        for (std::size_t i = first; i < last; ++i) {
            const int nx = x + directions[i].x, ny = y + directions[i].y;
            if (nx >= 0 && ny >= 0 && nx < size.width && ny < size.height) best = std::max(best, k.row(ny)[nx]);
        }
        float& here = k.row(y)[x];
        here = std::max(here, std::min(best, p.row(y)[x]));
    };
    for (int round = 0; round < 2; ++round) {
        for (int y = 0; y < size.height; ++y) {
            for (int x = 0; x < size.width; ++x) visit(x, y, 0, 4);
        }
        for (int y = size.height - 1; y >= 0; --y) {
            for (int x = size.width - 1; x >= 0; --x) visit(x, y, 4, 8);
        }
    }
    return k;
}

// A pixel of the core: where it lies from the centre, and its colour.
struct CorePixel {
    int x, y;
    double dx, dy;
    std::array<double, 3> colour;
    bool own = true;
};

double apart(const std::array<double, 3>& a, const std::array<double, 3>& b) {
    return (a[0] - b[0]) * (a[0] - b[0]) + (a[1] - b[1]) * (a[1] - b[1]) + (a[2] - b[2]) * (a[2] - b[2]);
}

std::vector<CorePixel> pixelsOfCore(const Guide& guide, base::Point centre, double radius) {
    const base::Size size = guide.size();
    const double reach = std::max(radius, 1.0);
    std::vector<CorePixel> out;
    for (int y = std::max(0, static_cast<int>(centre.y - reach)); y < std::min<double>(size.height, centre.y + reach);
         ++y) {
        for (int x = std::max(0, static_cast<int>(centre.x - reach));
             x < std::min<double>(size.width, centre.x + reach); ++x) {
            const double dx = x + 0.5 - centre.x, dy = y + 0.5 - centre.y;
            if (dx * dx + dy * dy > reach * reach) continue;
            const auto column = static_cast<std::size_t>(x);
            out.push_back(
                {x,
                 y,
                 dx,
                 dy,
                 {double{guide.l.row(y)[column]}, double{guide.a.row(y)[column]}, double{guide.b.row(y)[column]}}});
        }
    }
    return out;
}

// The pixels' two kinds of colour (two means), the centre's own first.
struct TwoKinds {
    std::array<double, 3> mean[2]{};
    double variance[2] = {0, 0}, count[2] = {0, 0}, offX = 0, offY = 0;  // off: the middle of the other kind

    void gather(std::vector<CorePixel>& pixels) {
        std::array<double, 3> sum[2]{};
        double squares[2] = {0, 0}, number[2] = {0, 0};
        offX = offY = 0;
        for (CorePixel& p : pixels) {
            p.own = apart(p.colour, mean[0]) <= apart(p.colour, mean[1]);
            const int kind = p.own ? 0 : 1;
            for (std::size_t c = 0; c < 3; ++c) sum[kind][c] += p.colour[c];
            squares[kind] += apart(p.colour, mean[kind]);
            number[kind] += 1;
            if (!p.own) offX += p.dx, offY += p.dy;
        }
        for (int kind = 0; kind < 2; ++kind) {
            count[kind] = number[kind];
            if (number[kind] == 0) continue;
            for (std::size_t c = 0; c < 3; ++c) mean[kind][c] = sum[kind][c] / number[kind];
            variance[kind] = squares[kind] / number[kind];
        }
        if (number[1] > 0) offX /= number[1], offY /= number[1];
    }
};

TwoKinds kindsOf(std::vector<CorePixel>& pixels, double radius) {
    TwoKinds kinds;
    const double inner = std::max(1.2, 0.2 * radius);
    double count = 0;
    for (const CorePixel& p : pixels) {
        if (p.dx * p.dx + p.dy * p.dy > inner * inner) continue;
        for (std::size_t c = 0; c < 3; ++c) kinds.mean[0][c] += p.colour[c];
        count += 1;
    }
    for (double& c : kinds.mean[0]) c /= std::max(1.0, count);
    kinds.mean[1] = std::ranges::max_element(pixels, {}, [&](const CorePixel& p) {
                        return apart(p.colour, kinds.mean[0]);
                    })->colour;
    constexpr int rounds = 6;
    for (int round = 0; round < rounds; ++round) kinds.gather(pixels);
    return kinds;
}

// Whether the core lies on two things: two kinds well apart, the other one beside the centre and not all about it.
bool isOnTwoThings(const TwoKinds& kinds, double radius, double noise) {
    constexpr double leastApart = 0.035, leastOff = 0.25, leastShare = 0.04, timesSpread = 3;
    const double all = kinds.count[0] + kinds.count[1], distance = std::sqrt(apart(kinds.mean[0], kinds.mean[1]));
    return kinds.count[1] > leastShare * all && distance > leastApart + 3 * noise &&
           distance > timesSpread * std::sqrt(std::max(kinds.variance[0], kinds.variance[1])) &&
           std::hypot(kinds.offX, kinds.offY) > leastOff * radius;
}

}  // namespace

image::Plane<float> membership(const Guide& guide, const std::vector<Colour>& model, double q) {
    const ColourBins axes(colourSums(guide, base::rectOf(guide.size())));
    const base::Size size = guide.size();
    image::Plane<std::uint16_t> bin(size);
    std::vector<float> inWindow(allBins, 0.0f), inModel(allBins, 0.0f);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const std::size_t i = axes.of({guide.l.row(y)[x], guide.a.row(y)[x], guide.b.row(y)[x]});
            bin.row(y)[x] = static_cast<std::uint16_t>(i);
            ++inWindow[i];
        }
    }
    for (const Colour& c : model) ++inModel[axes.of(c)];
    finish(inWindow, static_cast<double>(size.width) * size.height);
    finish(inModel, static_cast<double>(model.size()));
    const double share = shareOf(inWindow, inModel, q);
    for (std::size_t i = 0; i < allBins; ++i)
        inModel[i] = inWindow[i] > 0 ? std::min(1.0f, static_cast<float>(share) * inModel[i] / inWindow[i]) : 0.0f;
    image::Plane<float> p(size);
    for (int y = 0; y < size.height; ++y) {
        std::transform(bin.row(y).begin(), bin.row(y).end(), p.row(y).begin(),
                       [&](std::uint16_t i) { return inModel[i]; });
    }
    return p;
}

image::Plane<std::uint8_t> coreOf(const Guide& guide, base::Point centre, double radius, double noise,
                                  double inwardPx) {
    image::Plane<std::uint8_t> out = image::filled(guide.size(), std::uint8_t{0});
    std::vector<CorePixel> pixels = pixelsOfCore(guide, centre, radius);
    if (pixels.empty()) return out;
    const TwoKinds kinds = kindsOf(pixels, radius);
    const bool two = isOnTwoThings(kinds, std::max(radius, 1.0), noise);
    for (const CorePixel& p : pixels) out.row(p.y)[static_cast<std::size_t>(p.x)] = !two || p.own ? 1 : 0;
    if (!two) return out;
    const double off = std::hypot(kinds.offX, kinds.offY);
    const base::Point inward = centre - base::Point{kinds.offX, kinds.offY} * (inwardPx / off);
    for (const CorePixel& p : pixelsOfCore(guide, inward, radius)) {
        const bool like = apart(p.colour, kinds.mean[0]) < apart(p.colour, kinds.mean[1]);
        if (like) out.row(p.y)[static_cast<std::size_t>(p.x)] = 1;
    }
    return out;
}

void addColours(const Guide& guide, const image::Plane<std::uint8_t>& core, std::size_t most, std::vector<Colour>& to) {
    std::size_t count = 0, met = 0;
    for (int y = 0; y < core.size().height; ++y) count += static_cast<std::size_t>(std::ranges::count(core.row(y), 1));
    const std::size_t every = std::max<std::size_t>(1, (count + most - 1) / most);
    for (int y = 0; y < core.size().height; ++y) {
        for (int x = 0; x < core.size().width; ++x) {
            if (!core.view().at(x, y) || met++ % every != 0) continue;
            to.push_back({guide.l.row(y)[x], guide.a.row(y)[x], guide.b.row(y)[x]});
        }
    }
}

image::Plane<float> held(const Guide& guide, const image::Plane<std::uint8_t>& core, const std::vector<Colour>& model,
                         const HoldSettings& settings) {
    const double eps = 4e-4 + 4 * settings.noise * settings.noise;
    const image::Plane<float> p = guided(guide.l, membership(guide, model, settings.tolerance), 2, eps);
    image::Plane<float> out = connected(p, core);
    for (int y = 0; y < out.size().height; ++y) {
        for (float& v : out.row(y)) {
            const float t = std::clamp((v - threshold) / (1.8f * threshold), 0.0f, 1.0f);
            v = t * t * (3 - 2 * t);
        }
    }
    return out;
}

}  // namespace dimhem::edge
