#include "core/kernel/plane_fit.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/kernel/plane_fit.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include <array>
#include <cmath>
#include <limits>

#include "core/kernel/row_transform-inl.h"

#ifndef DIMHEM_PLANE_FIT_ROWS
#define DIMHEM_PLANE_FIT_ROWS
namespace dimhem::kernel {

// Sums under the Gaussian, with the place's distance along the line to the power 0, 1 and 2; null where not wanted.
struct MomentRows {
    float *plain, *first = nullptr, *second = nullptr;
};

// A half of the Gaussian from the middle on, and the same times the distance and its square.
struct Taps {
    std::span<const float> plain, first, second;
};

// Sums of the weights, and of a picture, over a row of places.
struct WeightSums {
    const float *w, *wx, *wy, *wxx, *wxy, *wyy;
};
struct ValueSums {
    const float *v, *vx, *vy, *vv;
};

}  // namespace dimhem::kernel
#endif

HWY_BEFORE_NAMESPACE();
namespace dimhem::kernel {
namespace HWY_NAMESPACE {

namespace hn = hwy::HWY_NAMESPACE;

// at(k): the row that lies k further along, for k of either sign.
template <class At>
HWY_INLINE void Moments(At at, const Taps& taps, const MomentRows& out, std::size_t count) {
    const hn::ScalableTag<float> d;
    const auto load = [&](int k, std::size_t i) HWY_ATTR { return LoadSome(d, at(k), i, count); };
    const int reach = static_cast<int>(taps.plain.size());
    for (std::size_t i = 0; i < count; i += hn::Lanes(d)) {
        auto plain = hn::Mul(hn::Set(d, taps.plain[0]), load(0, i)), first = hn::Zero(d), second = first;
        for (int k = 1; k < reach; ++k) {
            const auto before = load(-k, i), after = load(k, i), both = hn::Add(before, after);
            const auto tap = static_cast<std::size_t>(k);
            plain = hn::MulAdd(hn::Set(d, taps.plain[tap]), both, plain);
            if (out.first) first = hn::MulAdd(hn::Set(d, taps.first[tap]), hn::Sub(after, before), first);
            if (out.second) second = hn::MulAdd(hn::Set(d, taps.second[tap]), both, second);
        }
        StoreSome(plain, d, out.plain, i, count);
        if (out.first) StoreSome(first, d, out.first, i, count);
        if (out.second) StoreSome(second, d, out.second, i, count);
    }
}

void MomentsAlong(const float* row, const Taps& taps, const MomentRows& out, std::size_t count) {
    Moments([row](int k) { return row + k; }, taps, out, count);
}

// `rows`: the middle one.
void MomentsAcross(const float* const* rows, const Taps& taps, const MomentRows& out, std::size_t count) {
    Moments([rows](int k) { return rows[k]; }, taps, out, count);
}

// From the normal equations about the weights' own middle.
void SolveRow(const WeightSums& ws, const ValueSums& vs, float ridge, float* value, float* variance,
              std::size_t count) {
    const hn::ScalableTag<float> d;
    const auto k = [&](float v) HWY_ATTR { return hn::Set(d, v); };
    for (std::size_t i = 0; i < count; i += hn::Lanes(d)) {
        const auto load = [&](const float* row) HWY_ATTR { return LoadSome(d, row, i, count); };
        const auto w = load(ws.w), inverse = hn::Div(k(1.0f), hn::Max(w, k(1e-6f)));
        const auto mean = [&](const float* row) HWY_ATTR { return hn::Mul(load(row), inverse); };
        const auto x = mean(ws.wx), y = mean(ws.wy), v = mean(vs.v);
        const auto about = [&](const float* row, auto a, auto b) HWY_ATTR { return hn::NegMulAdd(a, b, mean(row)); };
        const auto xx = hn::Add(about(ws.wxx, x, x), k(ridge)), yy = hn::Add(about(ws.wyy, y, y), k(ridge)),
                   xy = about(ws.wxy, x, y), xv = about(vs.vx, x, v), yv = about(vs.vy, y, v), vv = about(vs.vv, v, v);
        const auto det = hn::Div(k(1.0f), hn::NegMulAdd(xy, xy, hn::Mul(xx, yy)));
        const auto slopeX = hn::Mul(hn::NegMulAdd(xy, yv, hn::Mul(yy, xv)), det),
                   slopeY = hn::Mul(hn::NegMulAdd(xy, xv, hn::Mul(xx, yv)), det);
        const auto at = hn::NegMulAdd(slopeX, x, hn::NegMulAdd(slopeY, y, v));
        const auto left = hn::Max(hn::NegMulAdd(slopeX, xv, hn::NegMulAdd(slopeY, yv, vv)), hn::Zero(d));
        constexpr float leastWeight = 0.05f;
        const auto isKnown = hn::Ge(w, k(leastWeight));
        StoreSome(hn::IfThenElse(isKnown, at, v), d, value, i, count);
        StoreSome(hn::IfThenElse(isKnown, left, k(std::numeric_limits<float>::infinity())), d, variance, i, count);
    }
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::kernel
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace dimhem::kernel {

HWY_EXPORT(MomentsAlong);
HWY_EXPORT(MomentsAcross);
HWY_EXPORT(SolveRow);

namespace {

using image::Plane;

class Gaussian {
public:
    explicit Gaussian(double sigma) {
        const int reach = planeFitReach(sigma);
        double sum = 0;
        std::vector<double> half;
        for (int i = 0; i <= reach; ++i) {
            half.push_back(std::exp(-i * i / (2 * sigma * sigma)));
            sum += i == 0 ? half.back() : 2 * half.back();
        }
        for (int i = 0; i <= reach; ++i) {
            const double w = half[static_cast<std::size_t>(i)] / sum;
            plain_.push_back(static_cast<float>(w));
            first_.push_back(static_cast<float>(w * i));
            second_.push_back(static_cast<float>(w * i * i));
        }
    }
    Taps taps() const { return {plain_, first_, second_}; }
    int reach() const { return static_cast<int>(plain_.size()) - 1; }

private:
    std::vector<float> plain_, first_, second_;
};

// So many powers of the distance, 1 to 3.
using MomentPlanes = std::vector<Plane<float>>;

MomentRows rowsOf(MomentPlanes& planes, int y) {
    const auto row = [&](std::size_t i) { return i < planes.size() ? planes[i].row(y).data() : nullptr; };
    return {row(0), row(1), row(2)};
}

MomentPlanes planesOf(std::size_t count, base::Size size) {
    MomentPlanes planes;
    for (std::size_t i = 0; i < count; ++i) planes.emplace_back(size);
    return planes;
}

MomentPlanes along(const Plane<float>& from, std::size_t powers, const Gaussian& gaussian) {
    const base::Size size = from.size();
    MomentPlanes out = planesOf(powers, {size.width - 2 * gaussian.reach(), size.height});
    for (int y = 0; y < size.height; ++y) HWY_DYNAMIC_DISPATCH(MomentsAlong)
    (from.row(y).data() + gaussian.reach(), gaussian.taps(), rowsOf(out, y), out[0].row(y).size());
    return out;
}

MomentPlanes across(const Plane<float>& from, std::size_t powers, const Gaussian& gaussian) {
    const int reach = gaussian.reach();
    MomentPlanes out = planesOf(powers, {from.size().width, from.size().height - 2 * reach});
    std::vector<const float*> rows;
    for (int y = 0; y < from.size().height; ++y) rows.push_back(from.row(y).data());
    for (int y = 0; y < out[0].size().height; ++y) HWY_DYNAMIC_DISPATCH(MomentsAcross)
    (rows.data() + y + reach, gaussian.taps(), rowsOf(out, y), out[0].row(y).size());
    return out;
}

Plane<float> product(const Plane<float>& a, const Plane<float>& b) {
    Plane<float> out(a.size());
    for (int y = 0; y < a.size().height; ++y) {
        const float *l = a.row(y).data(), *r = b.row(y).data();
        float* to = out.row(y).data();
        for (int x = 0; x < a.size().width; ++x) to[x] = l[x] * r[x];
    }
    return out;
}

}  // namespace

int planeFitReach(double sigma) {
    return static_cast<int>(std::ceil(3 * sigma));
}

std::vector<PlaneFit> fittedPlanes(std::span<const Plane<float>> values, const Plane<float>& weights, double sigma) {
    const Gaussian gaussian(sigma);
    const MomentPlanes w = along(weights, 3, gaussian);
    const MomentPlanes w0 = across(w[0], 3, gaussian), w1 = across(w[1], 2, gaussian), w2 = across(w[2], 1, gaussian);
    constexpr double leastSpread = 1e-4;
    const auto ridge = static_cast<float>(leastSpread * sigma * sigma);
    std::vector<PlaneFit> fits;
    for (const Plane<float>& value : values) {
        const Plane<float> wv = product(value, weights);
        const MomentPlanes v = along(wv, 2, gaussian);
        const MomentPlanes v0 = across(v[0], 2, gaussian), v1 = across(v[1], 1, gaussian),
                           vv = across(along(product(wv, value), 1, gaussian)[0], 1, gaussian);
        PlaneFit fit{Plane<float>(w0[0].size()), Plane<float>(w0[0].size())};
        for (int y = 0; y < fit.value.size().height; ++y) {
            const auto row = [y](const Plane<float>& plane) { return plane.row(y).data(); };
            HWY_DYNAMIC_DISPATCH(SolveRow)
            ({row(w0[0]), row(w1[0]), row(w0[1]), row(w2[0]), row(w1[1]), row(w0[2])},
             {row(v0[0]), row(v1[0]), row(v0[1]), row(vv[0])}, ridge, fit.value.row(y).data(),
             fit.variance.row(y).data(), fit.value.row(y).size());
        }
        fits.push_back(std::move(fit));
    }
    return fits;
}

}  // namespace dimhem::kernel
#endif
