#include "core/adjust/banding_step.h"

#include <algorithm>
#include <cmath>
#include <complex>
#include <numbers>
#include <optional>
#include <random>

namespace dimhem::adjust {

namespace {

using image::Plane;

constexpr int side = 8, binsPerLevel = 8, bins = 256 * binsPerLevel;
constexpr double mostStep = 7, perLevel = 1.0 / binsPerLevel;
constexpr std::size_t fewestBlocks = 64;

double levelOf(std::size_t bin) {
    return (static_cast<double>(bin) + 0.5) * perLevel;
}

// Two blocks somewhere in each cell of 16 pixels: blocks at even distances would find steps in every even slope.
template <class Visit>
void forEachPlace(base::Size size, Visit visit) {
    constexpr int cell = 16, perCell = 2;
    std::minstd_rand random(1);
    // Not by a distribution of the standard library: each has its own.
    const auto off = [&] { return static_cast<int>(random() % (cell - side + 1)); };
    for (int y = 0; y + cell <= size.height; y += cell) {
        for (int x = 0; x + cell <= size.width; x += cell) {
            for (int i = 0; i < perCell; ++i) {
                const int by = off();
                visit(x + by, y + off());
            }
        }
    }
}

float meanOver(const Plane<float>& plane, int x0, int y0) {
    float sum = 0;
    for (int y = y0; y < y0 + side; ++y) {
        for (int x = x0; x < x0 + side; ++x) sum += plane.row(y)[static_cast<std::size_t>(x)];
    }
    return sum / (side * side);
}

// The noise of a block by second differences, which no slope and few steps add to: Immerkaer, "Fast noise variance
// estimation", 1996, cited from memory; by the median instead of the mean.
float grainOf(const Plane<float>& plane, int x0, int y0) {
    std::vector<float> found;
    for (int y = y0 + 1; y < y0 + side - 1; ++y) {
        const float *a = plane.row(y - 1).data(), *b = plane.row(y).data(), *c = plane.row(y + 1).data();
        for (int x = x0 + 1; x < x0 + side - 1; ++x) {
            const float corners = a[x - 1] + a[x + 1] + c[x - 1] + c[x + 1], sides = a[x] + b[x - 1] + b[x + 1] + c[x];
            found.push_back(std::abs(corners - 2 * sides + 4 * b[x]));
        }
    }
    const auto middle = found.begin() + static_cast<std::ptrdiff_t>(found.size() / 2);
    std::nth_element(found.begin(), middle, found.end());
    constexpr float medianToSigma = 1 / 0.6745f, sigmaToResponse = 6;
    return 255 * *middle * medianToSigma / sigmaToResponse;
}

// How many blocks by their mean, in eighths of a level.
using Histogram = std::vector<double>;

Histogram smoothed(const Histogram& histogram, double sigmaLevels) {
    const double sigma = sigmaLevels * binsPerLevel;
    const int reach = static_cast<int>(std::ceil(3 * sigma));
    std::vector<double> taps;
    for (int i = -reach; i <= reach; ++i) taps.push_back(std::exp(-i * i / (2 * sigma * sigma)));
    Histogram out(histogram.size(), 0.0);
    for (int b = 0; b < bins; ++b) {
        const double here = histogram[static_cast<std::size_t>(b)];
        if (here == 0) continue;
        for (int i = std::max(-reach, -b); i <= reach && b + i < bins; ++i)
            out[static_cast<std::size_t>(b + i)] += here * taps[static_cast<std::size_t>(i + reach)];
    }
    const double sum = sigma * std::sqrt(2 * std::numbers::pi);
    for (double& value : out) value /= sum;
    return out;
}

// The density evened out: of tones that hardly any block has, nothing is known.
Histogram weighted(const Histogram& histogram, double step) {
    const Histogram about = smoothed(histogram, 0.75 * step);
    double all = 0;
    for (const double count : histogram) all += count;
    const double hardlyAny = all / 20000;
    Histogram out(histogram.size());
    for (std::size_t b = 0; b < out.size(); ++b) out[b] = histogram[b] / (about[b] + hardlyAny);
    return out;
}

std::complex<double> accordance(const Histogram& weights, double step) {
    std::complex<double> sum = 0;
    double all = 0;
    for (std::size_t b = 0; b < weights.size(); ++b) {
        if (weights[b] == 0) continue;
        sum += weights[b] * std::polar(1.0, 2 * std::numbers::pi * levelOf(b) / step);
        all += weights[b];
    }
    return all > 0 ? sum / all : 0;
}

// The most rungs on end that at least a hundredth of the blocks lie near.
int rungsOnEnd(const Histogram& histogram, double step, double phase) {
    std::vector<double> near(static_cast<std::size_t>(256 / step) + 3, 0.0);
    double all = 0;
    for (std::size_t b = 0; b < histogram.size(); ++b) {
        const double at = (levelOf(b) - phase) / step, rung = std::round(at);
        all += histogram[b];
        if (std::abs(at - rung) < 0.3) near[static_cast<std::size_t>(rung + 1)] += histogram[b];
    }
    int most = 0, run = 0;
    for (const double count : near) {
        run = count >= all / 100 ? run + 1 : 0;
        most = std::max(most, run);
    }
    return most;
}

struct Found {
    double step, phase, strength;
    double blocks = 0;  // that it was found among
};

double phaseOf(std::complex<double> sum, double step) {
    const double phase = std::arg(sum) / (2 * std::numbers::pi) * step;
    return phase < 0 ? phase + step : phase;
}

// Steps so far apart that none between them is missed, over all tones.
std::vector<double> triedSteps(double leastStep) {
    constexpr double apart = 1.0 / (8 * 256);
    std::vector<double> steps;
    for (double each = 1 / mostStep; each <= 1 / leastStep; each += apart) steps.push_back(1 / each);
    return steps;
}

std::optional<Found> found(const Histogram& histogram, double leastStep) {
    std::vector<Found> tried;
    Histogram weights;
    double weightedFor = 0;
    for (const double step : triedSteps(leastStep)) {
        if (weights.empty() || weightedFor / step > 1.1) {
            weights = weighted(histogram, step);
            weightedFor = step;
        }
        const std::complex<double> sum = accordance(weights, step);
        tried.push_back({step, phaseOf(sum, step), std::abs(sum), 0});
    }
    std::vector<Found> tops;
    for (std::size_t i = 1; i + 1 < tried.size(); ++i) {
        const bool isTop = tried[i].strength >= tried[i - 1].strength && tried[i].strength >= tried[i + 1].strength;
        constexpr int fewestRungs = 4;
        if (isTop && rungsOnEnd(histogram, tried[i].step, tried[i].phase) >= fewestRungs) tops.push_back(tried[i]);
    }
    const auto best = std::ranges::max_element(tops, {}, &Found::strength);
    if (best == tops.end()) return std::nullopt;
    // The largest stands first.
    return *std::ranges::find_if(tops, [&](const Found& top) { return top.strength >= 0.7 * best->strength; });
}

// Of a step that so many blocks, of no step at all, would hardly ever seem to have: the strength of so many random
// phases is about 1 / sqrt(blocks), and the greatest of many tries some times that.
bool isBeyondChance(const std::optional<Found>& found, double least) {
    return found && found->strength >= std::max(least, 5 / std::sqrt(found->blocks));
}

bool agree(const std::optional<Found>& a, const std::optional<Found>& b) {
    constexpr double mostApart = 0.06;
    return a && b && std::abs(a->step - b->step) <= mostApart * std::max(a->step, b->step);
}

}  // namespace

void StepMeter::add(const image::EncodedPlanes& picture, const Plane<float>& coverage) {
    constexpr float leastCovered = 0.9f;
    const Plane<float>* planes[3] = {&picture.red, &picture.green, &picture.blue};
    forEachPlace(picture.size(), [&](int x, int y) {
        if (coverage.size().width > 0 && meanOver(coverage, x, y) <= leastCovered) return;
        Block block;
        for (std::size_t c = 0; c < block.size(); ++c) {
            const float mean = meanOver(*planes[c], x, y);
            float squares = 0;
            for (int row = y; row < y + side; ++row) {
                for (int column = x; column < x + side; ++column) {
                    const float d = planes[c]->row(row)[static_cast<std::size_t>(column)] - mean;
                    squares += d * d;
                }
            }
            block[c] = {255 * mean, 255 * std::sqrt(squares / (side * side)), grainOf(*planes[c], x, y)};
        }
        blocks_.push_back(block);
    });
}

BandingSteps StepMeter::steps() const {
    BandingSteps steps;
    if (blocks_.size() < fewestBlocks) return steps;
    std::array<std::optional<Found>, 3> of;
    float mostApart = 0;
    for (std::size_t c = 0; c < steps.size(); ++c) {
        // Half of the flatter half's grain is what there is of it in a smooth place.
        std::vector<float> grain;
        for (const Block& block : blocks_) grain.push_back(block[c].grain);
        const auto quarter = grain.begin() + static_cast<std::ptrdiff_t>(grain.size() / 4);
        std::nth_element(grain.begin(), quarter, grain.end());
        steps[c].grain = *quarter;
        for (const Block& block : blocks_) mostApart = std::max(mostApart, std::abs(block[c].mean - block[1].mean));
        // Blocks that lie on one step, or where noise or a file hides that, those that are nearly even. Even places of
        // any photo of 8 bits lie on steps of one level: that is banding where most of what is nearly even does.
        struct Choice {
            double even, leastStep;
        };
        for (const auto& [even, leastStep] : {Choice{0.3, 1.4}, Choice{1.2, 0.9}}) {
            constexpr double ofGrain = 1.3;
            const double most = std::hypot(even, ofGrain * steps[c].grain);
            Histogram histogram(bins, 0.0);
            std::size_t count = 0;
            for (const Block& block : blocks_) {
                const double mean = block[c].mean;
                if (block[c].deviation >= most || mean < 0.5 || mean > 254.5) continue;
                const auto bin = static_cast<std::size_t>(std::clamp(mean / perLevel, 0.0, bins - 1.0));
                histogram[bin] += 1;
                ++count;
            }
            if (count < fewestBlocks) continue;
            std::optional<Found> next = found(histogram, leastStep);
            if (next) next->blocks = static_cast<double>(count);
            if (next && (!of[c] || next->strength > of[c]->strength)) of[c] = next;
        }
    }
    // Channels of a grey photo agree in any case: there the step itself must be beyond doubt.
    const double least = mostApart < 0.5 ? 0.5 : 0.3;
    for (std::optional<Found>& found : of) {
        if (!isBeyondChance(found, least)) found.reset();
    }
    for (std::size_t c = 0; c < steps.size(); ++c) {
        const bool agrees = agree(of[c], of[(c + 1) % 3]) || agree(of[c], of[(c + 2) % 3]);
        if (!agrees) continue;
        steps[c].step = of[c]->step;
        steps[c].phase = of[c]->phase;
    }
    return steps;
}

}  // namespace dimhem::adjust
