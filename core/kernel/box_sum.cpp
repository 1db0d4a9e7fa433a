#include "core/kernel/box_sum.h"

#include <algorithm>
#include <vector>

#include "core/kernel/sum_rows.h"

namespace dimhem::kernel {

namespace {

// Sums of `length` neighbours by doubling: of two, of four, of eight, those that make up the length added together.
// What each sum is made of, and in what order, depends on its own place alone, and no error runs along.
//   visit(at)    adds the present sums that begin `at` places further to the outcome
//   twice(step)  makes each present sum one of twice as many, with its neighbour `step` places further
template <class Visit, class Twice>
void doubling(int length, Visit visit, Twice twice) {
    int at = 0;
    for (int step = 1; step <= length; step *= 2) {
        if (length & step) {
            visit(at);
            at += step;
        }
        if (2 * step <= length) twice(step);
    }
}

// `sums` and `next` have room for the row and a radius on either side.
void sumAcross(const float* in, float* out, int width, int radius, std::vector<float>& sums, std::vector<float>& next) {
    int valid = width + 2 * radius;
    std::fill(sums.begin(), sums.end(), 0.0f);
    std::copy_n(in, width, sums.data() + radius);
    std::fill_n(out, width, 0.0f);
    doubling(
        2 * radius + 1, [&](int at) { addTo(sums.data() + at, out, static_cast<std::size_t>(width)); },
        [&](int step) {
            valid -= step;
            sumOf(sums.data(), sums.data() + step, next.data(), static_cast<std::size_t>(valid));
            std::swap(sums, next);
        });
}

int within(int at, int radius, int length) {
    return std::min(at + radius, length - 1) - std::max(at - radius, 0) + 1;
}

}  // namespace

image::Plane<float> boxSum(const image::Plane<float>& values, int radius) {
    const int width = values.size().width, height = values.size().height, padded = height + 2 * radius;
    image::Plane<float> sums({width, padded}), out(values.size());
    std::vector<float> row(static_cast<std::size_t>(width + 2 * radius)), next(row.size());
    for (int y = 0; y < padded; ++y) {
        const bool within = y >= radius && y < radius + height;
        if (within) {
            sumAcross(values.row(y - radius).data(), sums.row(y).data(), width, radius, row, next);
        } else {
            std::fill_n(sums.row(y).data(), width, 0.0f);
        }
    }
    for (int y = 0; y < height; ++y) std::fill_n(out.row(y).data(), width, 0.0f);
    int valid = padded;
    doubling(
        2 * radius + 1,
        [&](int at) {
            for (int y = 0; y < height; ++y) addTo(sums.row(y + at).data(), out.row(y).data(), out.row(y).size());
        },
        [&](int step) {
            valid -= step;
            for (int y = 0; y < valid; ++y) addTo(sums.row(y + step).data(), sums.row(y).data(), sums.row(y).size());
        });
    return out;
}

image::Plane<float> boxMean(const image::Plane<float>& values, int radius) {
    image::Plane<float> out = boxSum(values, radius);
    const int width = values.size().width, height = values.size().height;
    std::vector<float> across(static_cast<std::size_t>(width));
    for (int x = 0; x < width; ++x)
        across[static_cast<std::size_t>(x)] = 1.0f / static_cast<float>(within(x, radius, width));
    for (int y = 0; y < height; ++y) {
        const float down = 1.0f / static_cast<float>(within(y, radius, height));
        float* row = out.row(y).data();
        for (std::size_t x = 0; x < across.size(); ++x) row[x] *= across[x] * down;
    }
    return out;
}

}  // namespace dimhem::kernel
