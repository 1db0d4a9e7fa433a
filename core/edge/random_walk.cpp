#include "core/edge/random_walk.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <vector>

#include "core/kernel/box_sum.h"

namespace dimhem::edge {

namespace {

constexpr double leastStep = 0.004;  // of OKLab: smaller ones hinder nothing
constexpr float leastConductance = 1e-4f;
constexpr int windowPx = 20;  // of the contrast about a pixel, to either side

// The mean of squared steps about each pixel.
image::Plane<float> meanContrast(const Guide& guide, int step) {
    const base::Size size = guide.size();
    image::Plane<float> squares(size), ones = image::filled(size, 1.0f);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const int right = std::min(x + step, size.width - 1), down = std::min(y + step, size.height - 1);
            squares.row(y)[x] = static_cast<float>(
                0.5 * (squaredDifference(guide, x, y, right, y) + squaredDifference(guide, x, y, x, down)));
        }
    }
    image::Plane<float> mean = kernel::boxSum(squares, windowPx);
    const image::Plane<float> counts = kernel::boxSum(ones, windowPx);
    for (int y = 0; y < size.height; ++y) {
        std::transform(mean.row(y).begin(), mean.row(y).end(), counts.row(y).begin(), mean.row(y).begin(),
                       [](float sum, float count) { return sum / count; });
    }
    return mean;
}

double conductance(double squaredStep, double contrast, double noise) {
    return std::exp(-squaredStep / (2 * (leastStep * leastStep + noise * noise + contrast)));
}

// The net: pixels in rows, what each conducts to the right and down, and what is given.
struct Net {
    int width, height;
    std::vector<float> right, down, resistance;  // the last: 1 over all that a pixel conducts; 0 where it is a source
    std::vector<float> potential;
    std::size_t count() const { return potential.size(); }

    // What flows out of each pixel that is not a source.
    void flow(const std::vector<float>& v, std::vector<float>& out) const {
        const auto w = static_cast<std::size_t>(width);
        for (int y = 0; y < height; ++y) {
            for (int x = 0; x < width; ++x) {
                const std::size_t p = static_cast<std::size_t>(y) * w + static_cast<std::size_t>(x);
                float sum = 0;
                if (x + 1 < width) sum += right[p] * (v[p] - v[p + 1]);
                if (x > 0) sum += right[p - 1] * (v[p] - v[p - 1]);
                if (y + 1 < height) sum += down[p] * (v[p] - v[p + w]);
                if (y > 0) sum += down[p - w] * (v[p] - v[p - w]);
                out[p] = resistance[p] > 0 ? sum : 0;
            }
        }
    }
};

Net netOf(const Guide& guide, const Sides& sources, double noise) {
    const base::Size size = guide.size();
    const std::size_t count = static_cast<std::size_t>(size.width) * static_cast<std::size_t>(size.height);
    Net net{size.width, size.height, {}, {}, {}, {}};
    net.right.assign(count, 0);
    net.down.assign(count, 0);
    net.resistance.assign(count, 0);
    net.potential.assign(count, 0.5f);
    const image::Plane<float> contrast = meanContrast(guide, 1);
    const auto w = static_cast<std::size_t>(size.width);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const std::size_t p = static_cast<std::size_t>(y) * w + static_cast<std::size_t>(x);
            const auto towards = [&](int x1, int y1) {
                return static_cast<float>(
                           conductance(squaredDifference(guide, x, y, x1, y1), double{contrast.row(y)[x]}, noise)) +
                       leastConductance;
            };
            if (x + 1 < size.width) net.right[p] = towards(x + 1, y);
            if (y + 1 < size.height) net.down[p] = towards(x, y + 1);
        }
    }
    const Side sides[2] = {Side::outside, Side::inside};
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const std::size_t p = static_cast<std::size_t>(y) * w + static_cast<std::size_t>(x);
            const float all =
                net.right[p] + net.down[p] + (x > 0 ? net.right[p - 1] : 0) + (y > 0 ? net.down[p - w] : 0);
            net.resistance[p] = 1 / all;
            for (int j = 2 * y; j < std::min(2 * y + 2, sources.size().height); ++j) {
                for (int i = 2 * x; i < std::min(2 * x + 2, sources.size().width); ++i) {
                    for (const Side side : sides) {
                        if (sources.row(j)[i] != side) continue;
                        net.potential[p] = side == Side::inside ? 1 : 0;
                        net.resistance[p] = 0;
                    }
                }
            }
        }
    }
    return net;
}

void solve(Net& net) {
    constexpr int mostRounds = 800;
    const std::size_t n = net.count();
    std::vector<float> left(n), eased(n), way(n), out(n);
    net.flow(net.potential, left);
    double power = 0;
    for (std::size_t p = 0; p < n; ++p) {
        left[p] = -left[p];
        eased[p] = left[p] * net.resistance[p];
        way[p] = eased[p];
        power += double{left[p]} * double{eased[p]};
    }
    const double enough = 1e-11 * static_cast<double>(n);
    for (int round = 0; round < mostRounds && power > enough; ++round) {
        net.flow(way, out);
        double along = 0;
        for (std::size_t p = 0; p < n; ++p) along += double{way[p]} * double{out[p]};
        if (along <= 0) break;
        const auto step = static_cast<float>(power / along);
        double next = 0;
        for (std::size_t p = 0; p < n; ++p) {
            net.potential[p] += step * way[p];
            left[p] -= step * out[p];
            eased[p] = left[p] * net.resistance[p];
            next += double{left[p]} * double{eased[p]};
        }
        const auto turn = static_cast<float>(next / power);
        power = next;
        for (std::size_t p = 0; p < n; ++p) way[p] = eased[p] + turn * way[p];
    }
}

double bestContour(const Net& net) {
    std::array<double, 101> length{}, conducted{};
    const auto cross = [&](std::size_t p, std::size_t q, float c) {
        const float low = 100 * std::min(net.potential[p], net.potential[q]),
                    high = 100 * std::max(net.potential[p], net.potential[q]);
        for (int t = std::max(0, static_cast<int>(std::ceil(low))); t <= 100 && static_cast<float>(t) < high; ++t) {
            length[static_cast<std::size_t>(t)] += 1;
            conducted[static_cast<std::size_t>(t)] += double{c};
        }
    };
    const auto w = static_cast<std::size_t>(net.width);
    for (int y = 0; y < net.height; ++y) {
        for (int x = 0; x < net.width; ++x) {
            const std::size_t p = static_cast<std::size_t>(y) * w + static_cast<std::size_t>(x);
            if (x + 1 < net.width) cross(p, p + 1, net.right[p]);
            if (y + 1 < net.height) cross(p, p + w, net.down[p]);
        }
    }
    double least = 1e9, best = 0.35;
    for (std::size_t t = 5; t <= 95; ++t) {
        const double mean = (conducted[t] + 1) / (length[t] + 1);
        if (mean >= least) continue;
        least = mean;
        best = static_cast<double>(t) / 100;
    }
    return best;
}

}  // namespace

Walk walked(const Guide& guide, const Sides& sources, double noise) {
    Net net = netOf(halved(guide), sources, noise / 4);
    solve(net);
    Walk walk{image::Plane<float>(guide.size()), bestContour(net)};
    for (int y = 0; y < guide.size().height; ++y) {
        for (int x = 0; x < guide.size().width; ++x)
            walk.potential.row(y)[x] =
                net.potential[static_cast<std::size_t>(y / 2) * static_cast<std::size_t>(net.width) +
                              static_cast<std::size_t>(x / 2)];
    }
    return walk;
}

double gapsAlong(const Guide& guide, const Sides& sides, double noise) {
    const base::Size size = guide.size();
    const image::Plane<float> contrast = meanContrast(guide, 4);
    double sum = 0, count = 0;
    const auto step = [&](int x, int y, int dx, int dy) {
        if (!isWithin(size, x + 2 * dx, y + 2 * dy) || !isWithin(size, x - dx, y - dy)) return;
        if ((sides.row(y)[x] == Side::inside) == (sides.row(y + dy)[x + dx] == Side::inside)) return;
        const double squared = squaredDifference(guide, x - dx, y - dy, x + 2 * dx, y + 2 * dy);
        sum += conductance(squared, double{contrast.row(y)[x]}, noise * 0.7);
        count += 1;
    };
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            step(x, y, 1, 0);
            step(x, y, 0, 1);
        }
    }
    return count > 0 ? sum / count : 1;
}

}  // namespace dimhem::edge
