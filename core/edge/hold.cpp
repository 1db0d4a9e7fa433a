#include "core/edge/hold.h"

#include <algorithm>
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
image::Plane<float> connected(const image::Plane<float>& p, base::Point centre, double coreRadius) {
    const base::Size size = p.size();
    image::Plane<float> k(size);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const double dx = x + 0.5 - centre.x, dy = y + 0.5 - centre.y;
            k.row(y)[x] = dx * dx + dy * dy <= coreRadius * coreRadius ? 1.0f : 0.0f;
        }
    }
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

}  // namespace

image::Plane<float> membership(const Guide& guide, const std::vector<Colour>& model, double q) {
    const ColourBins axes(guide);
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

void addColours(const Guide& guide, base::Point centre, double radius, std::size_t most, std::vector<Colour>& to) {
    const base::Size size = guide.size();
    const double reach = std::max(radius, 1.0);
    const double area = 3.14159265 * reach * reach;
    const auto every = static_cast<std::size_t>(std::max(1.0, std::ceil(area / static_cast<double>(most))));
    std::size_t met = 0;
    for (int y = std::max(0, static_cast<int>(centre.y - reach)); y < std::min<double>(size.height, centre.y + reach);
         ++y) {
        for (int x = std::max(0, static_cast<int>(centre.x - reach));
             x < std::min<double>(size.width, centre.x + reach); ++x) {
            const double dx = x + 0.5 - centre.x, dy = y + 0.5 - centre.y;
            if (dx * dx + dy * dy > reach * reach || met++ % every != 0) continue;
            to.push_back({guide.l.row(y)[x], guide.a.row(y)[x], guide.b.row(y)[x]});
        }
    }
}

image::Plane<float> held(const Guide& guide, base::Point centre, double coreRadius, const std::vector<Colour>& model,
                         const HoldSettings& settings) {
    const double eps = 4e-4 + 4 * settings.noise * settings.noise;
    const image::Plane<float> p = guided(guide.l, membership(guide, model, settings.tolerance), 2, eps);
    image::Plane<float> out = connected(p, centre, coreRadius);
    for (int y = 0; y < out.size().height; ++y) {
        for (float& v : out.row(y)) {
            const float t = std::clamp((v - threshold) / (1.8f * threshold), 0.0f, 1.0f);
            v = t * t * (3 - 2 * t);
        }
    }
    return out;
}

}  // namespace dimhem::edge
