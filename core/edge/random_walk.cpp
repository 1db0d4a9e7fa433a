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

// The net: pixels in rows with a free place before each row and a row of them below and above, so that every pixel has
// four neighbours; what each conducts to the right and down, nothing at the borders.
struct Net {
    int width, height;
    std::size_t stride, begin, end;  // of its pixels and the free places between them
    // The last: 1 over all that a pixel conducts; 0 where it is a source, or no pixel.
    std::vector<float> right, down, resistance;
    std::vector<float> potential;

    Net(int w, int h)
        : width(w),
          height(h),
          stride(static_cast<std::size_t>(w) + 1),
          begin(stride),
          end(stride * (static_cast<std::size_t>(h) + 1)),
          right(end + stride, 0.0f),
          down(right),
          resistance(right),
          potential(right) {}
    std::size_t at(int x, int y) const {
        return (static_cast<std::size_t>(y) + 1) * stride + static_cast<std::size_t>(x) + 1;
    }
    std::vector<float> zeros() const { return std::vector<float>(right.size(), 0.0f); }

    // What flows out of each pixel.
    void flow(const std::vector<float>& potentials, std::vector<float>& out) const {
        const float* v = potentials.data();
        const float* r = right.data();
        const float* d = down.data();
        float* to = out.data();
        for (std::size_t p = begin; p < end; ++p) {
            to[p] = r[p] * (v[p] - v[p + 1]) + r[p - 1] * (v[p] - v[p - 1]) + d[p] * (v[p] - v[p + stride]) +
                    d[p - stride] * (v[p] - v[p - stride]);
        }
    }
};

Net netOf(const Guide& guide, const Sides& sources, double noise) {
    const base::Size size = guide.size();
    Net net(size.width, size.height);
    const image::Plane<float> contrast = meanContrast(guide, 1);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const auto towards = [&](int x1, int y1) {
                return static_cast<float>(
                           conductance(squaredDifference(guide, x, y, x1, y1), double{contrast.row(y)[x]}, noise)) +
                       leastConductance;
            };
            if (x + 1 < size.width) net.right[net.at(x, y)] = towards(x + 1, y);
            if (y + 1 < size.height) net.down[net.at(x, y)] = towards(x, y + 1);
        }
    }
    const Side sides[2] = {Side::outside, Side::inside};
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const std::size_t p = net.at(x, y);
            net.potential[p] = 0.5f;
            net.resistance[p] = 1 / (net.right[p] + net.down[p] + net.right[p - 1] + net.down[p - net.stride]);
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

// The sum of products, always in the same order.
double product(const std::vector<float>& a, const std::vector<float>& b, std::size_t begin, std::size_t end) {
    std::array<double, 4> sums{};
    std::size_t p = begin;
    for (; p + 4 <= end; p += 4) {
        for (std::size_t i = 0; i < 4; ++i) sums[i] += double{a[p + i]} * double{b[p + i]};
    }
    for (; p < end; ++p) sums[0] += double{a[p]} * double{b[p]};
    return sums[0] + sums[1] + (sums[2] + sums[3]);
}

// Conjugate gradients; what each pixel conducts in all evens them out.
void solve(Net& net) {
    constexpr int mostRounds = 800;
    std::vector<float> left = net.zeros(), eased = left, way = left, out = left;
    net.flow(net.potential, left);
    for (std::size_t p = net.begin; p < net.end; ++p) {
        // A source, and a place without a pixel, is left as it is.
        left[p] = net.resistance[p] > 0 ? -left[p] : 0;
        way[p] = eased[p] = left[p] * net.resistance[p];
    }
    double power = product(left, eased, net.begin, net.end);
    const double enough = 1e-11 * static_cast<double>(net.width) * net.height;
    for (int round = 0; round < mostRounds && power > enough; ++round) {
        net.flow(way, out);
        const double along = product(way, out, net.begin, net.end);
        if (along <= 0) break;
        const auto step = static_cast<float>(power / along);
        for (std::size_t p = net.begin; p < net.end; ++p) {
            net.potential[p] += step * way[p];
            left[p] -= step * out[p];
            eased[p] = left[p] * net.resistance[p];
        }
        const double next = product(left, eased, net.begin, net.end);
        const auto turn = static_cast<float>(next / power);
        power = next;
        for (std::size_t p = net.begin; p < net.end; ++p) way[p] = eased[p] + turn * way[p];
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
    for (int y = 0; y < net.height; ++y) {
        for (int x = 0; x < net.width; ++x) {
            const std::size_t p = net.at(x, y);
            if (x + 1 < net.width) cross(p, p + 1, net.right[p]);
            if (y + 1 < net.height) cross(p, p + net.stride, net.down[p]);
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
        for (int x = 0; x < guide.size().width; ++x) walk.potential.row(y)[x] = net.potential[net.at(x / 2, y / 2)];
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
