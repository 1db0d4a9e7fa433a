#include "core/edge/colour_mixture.h"

#include <algorithm>
#include <cmath>

namespace dimhem::edge {

namespace {

constexpr std::size_t mostParts = 5;
constexpr int rounds = 8;
constexpr double leastOfMixture = 3e-5;
using Sample = ColourMixture::Sample;

double squaredDistance(const Colour& a, const std::array<double, 3>& b) {
    double sum = 0;
    for (std::size_t c = 0; c < 3; ++c) sum += (double{a[c]} - b[c]) * (double{a[c]} - b[c]);
    return sum;
}

// The first centre is the mean; each further one is the sample that counts for most, by weight and distance, among
// those not yet near a centre.
std::vector<std::array<double, 3>> firstCentres(const std::vector<Sample>& samples) {
    std::array<double, 3> mean{};
    double weight = 0;
    for (const Sample& s : samples) {
        for (std::size_t c = 0; c < 3; ++c) mean[c] += double{s.weight} * double{s.colour[c]};
        weight += double{s.weight};
    }
    for (double& v : mean) v /= weight;
    std::vector<std::array<double, 3>> centres = {mean};
    std::vector<double> nearest(samples.size(), 1e9);
    while (centres.size() < mostParts) {
        std::size_t best = 0;
        double most = 0;
        for (std::size_t i = 0; i < samples.size(); ++i) {
            nearest[i] = std::min(nearest[i], squaredDistance(samples[i].colour, centres.back()));
            if (const double counts = nearest[i] * double{samples[i].weight}; counts > most) {
                most = counts;
                best = i;
            }
        }
        if (most <= 0) break;
        const Colour& c = samples[best].colour;
        centres.push_back({double{c[0]}, double{c[1]}, double{c[2]}});
    }
    return centres;
}

std::size_t nearestCentre(const Colour& colour, const std::vector<std::array<double, 3>>& centres) {
    std::size_t best = 0;
    double least = 1e9;
    for (std::size_t i = 0; i < centres.size(); ++i) {
        const double d = squaredDistance(colour, centres[i]);
        if (d < least) {
            least = d;
            best = i;
        }
    }
    return best;
}

struct Moments {
    double weight = 0;
    std::array<double, 3> sum{};
    std::array<double, 6> square{};
    void add(const Sample& s) {
        const double w = double{s.weight};
        weight += w;
        for (std::size_t i = 0, k = 0; i < 3; ++i) {
            sum[i] += w * double{s.colour[i]};
            for (std::size_t j = i; j < 3; ++j) square[k++] += w * double{s.colour[i]} * double{s.colour[j]};
        }
    }
};

std::vector<Moments> moments(const std::vector<Sample>& samples, const std::vector<std::array<double, 3>>& centres) {
    std::vector<Moments> out(centres.size());
    for (const Sample& s : samples) out[nearestCentre(s.colour, centres)].add(s);
    return out;
}

}  // namespace

ColourMixture::ColourMixture(const std::vector<Sample>& samples, double noise) {
    if (samples.empty()) return;
    std::vector<std::array<double, 3>> centres = firstCentres(samples);
    std::vector<Moments> found;
    for (int round = 0; round < rounds; ++round) {
        found = moments(samples, centres);
        const auto before = centres;
        for (std::size_t i = 0; i < centres.size(); ++i) {
            for (std::size_t c = 0; c < 3 && found[i].weight > 0; ++c)
                centres[i][c] = found[i].sum[c] / found[i].weight;
        }
        if (centres == before) break;
    }
    double all = 0;
    for (const Moments& m : found) all += m.weight;
    for (const Moments& m : found) {
        if (m.weight <= 0) continue;
        Part part;
        for (std::size_t c = 0; c < 3; ++c) part.mean[c] = m.sum[c] / m.weight;
        std::array<double, 6> v{};
        for (std::size_t i = 0, k = 0; i < 3; ++i) {
            for (std::size_t j = i; j < 3; ++j, ++k) {
                v[k] = m.square[k] / m.weight - part.mean[i] * part.mean[j];
                if (i == j) v[k] = std::max(v[k], 0.0) + leastOfMixture + noise * noise;
            }
        }
        const double i0 = v[3] * v[5] - v[4] * v[4], i1 = v[2] * v[4] - v[1] * v[5], i2 = v[1] * v[4] - v[2] * v[3];
        const double det = v[0] * i0 + v[1] * i1 + v[2] * i2;
        part.inverse = {i0 / det,
                        i1 / det,
                        i2 / det,
                        (v[0] * v[5] - v[2] * v[2]) / det,
                        (v[1] * v[2] - v[0] * v[4]) / det,
                        (v[0] * v[3] - v[1] * v[1]) / det};
        part.logWeight = std::log(m.weight / all) - 0.5 * std::log(det) - 1.5 * std::log(2 * 3.14159265358979);
        parts_.push_back(part);
    }
}

double ColourMixture::density(const Colour& colour) const {
    constexpr double nextToNothing = -30;  // as a logarithm
    if (parts_.empty()) return 1;
    double sum = 0;
    for (const Part& p : parts_) {
        const double x = double{colour[0]} - p.mean[0], y = double{colour[1]} - p.mean[1],
                     z = double{colour[2]} - p.mean[2];
        const double d = p.inverse[0] * x * x + p.inverse[3] * y * y + p.inverse[5] * z * z +
                         2 * (p.inverse[1] * x * y + p.inverse[2] * x * z + p.inverse[4] * y * z);
        const double log = p.logWeight - 0.5 * d;
        if (log > nextToNothing) sum += std::exp(log);
    }
    return sum;
}

}  // namespace dimhem::edge
