#include "core/kernel/sliding_dct.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/kernel/sliding_dct.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include <algorithm>
#include <cmath>
#include <vector>

#include "core/image/tiles.h"

#ifndef DIMHEM_SLIDING_DCT_ROOM
#define DIMHEM_SLIDING_DCT_ROOM
namespace dimhem::kernel {

// Memory for one row of patches. Columns of the plane are kept in two halves, the even and the odd ones, so that the
// same column of neighbouring patches lies side by side: a vector holds as many patches as it has lanes.
struct PatchRows {
    static constexpr std::size_t before = 4, beyond = 32;  // floats that may be read on either side of the columns
    explicit PatchRows(std::size_t columns)
        : half(before + columns / 2 + beyond),
          noisy(8 * 2 * half),
          pilot(8 * 2 * half),
          made(64 * half),
          weight(half),
          sum(8 * 2 * half) {}

    std::size_t half;
    std::vector<float> noisy, pilot;  // coefficients down each column: of frequency k and half h, from (2 k + h) half
    std::vector<float> made;          // what patches make of their column j at frequency k, from (8 k + j) half
    std::vector<float> weight;        // of patches
    std::vector<float> sum;           // rows of a band of the plane, weighted: of row k and half h, from (2 k + h) half
};

}  // namespace dimhem::kernel
#endif

HWY_BEFORE_NAMESPACE();
namespace dimhem::kernel {
namespace HWY_NAMESPACE {

namespace hn = hwy::HWY_NAMESPACE;

template <std::size_t n>
using At = std::integral_constant<std::size_t, n>;

// cos(k pi / 16) / 2, and the square root of an eighth.
constexpr float c1 = 0.490392640f, c2 = 0.461939766f, c3 = 0.415734806f, c5 = 0.277785117f, c6 = 0.191341716f,
                c7 = 0.0975451610f, c4 = 0.353553391f;

// Added to what a patch keeps of its coefficients before that divides its weight: a patch of nothing but noise counts
// up to nine times as much as one that keeps all, and no more, or it would show among neighbours with an edge in them.
constexpr float evenness = 8;

// How much a patch counts towards its sides: sin(pi (x + 1/2) / 8).
constexpr float taper[8] = {0.195090322f, 0.555570233f, 0.831469612f, 0.980785280f,
                            0.980785280f, 0.831469612f, 0.555570233f, 0.195090322f};

// The orthonormal DCT of eight values, in place.
template <class D, class V = hn::Vec<D>>
HWY_INLINE void Forward(D d, V& x0, V& x1, V& x2, V& x3, V& x4, V& x5, V& x6, V& x7) {
    const auto k = [&](float c) HWY_ATTR { return hn::Set(d, c); };
    const V s0 = hn::Add(x0, x7), s1 = hn::Add(x1, x6), s2 = hn::Add(x2, x5), s3 = hn::Add(x3, x4);
    const V d0 = hn::Sub(x0, x7), d1 = hn::Sub(x1, x6), d2 = hn::Sub(x2, x5), d3 = hn::Sub(x3, x4);
    const V t0 = hn::Add(s0, s3), t1 = hn::Add(s1, s2), t2 = hn::Sub(s0, s3), t3 = hn::Sub(s1, s2);
    x0 = hn::Mul(hn::Add(t0, t1), k(c4));
    x4 = hn::Mul(hn::Sub(t0, t1), k(c4));
    x2 = hn::MulAdd(t2, k(c2), hn::Mul(t3, k(c6)));
    x6 = hn::MulSub(t2, k(c6), hn::Mul(t3, k(c2)));
    x1 = hn::MulAdd(d0, k(c1), hn::MulAdd(d1, k(c3), hn::MulAdd(d2, k(c5), hn::Mul(d3, k(c7)))));
    x3 = hn::NegMulAdd(d1, k(c7), hn::NegMulAdd(d2, k(c1), hn::MulSub(d0, k(c3), hn::Mul(d3, k(c5)))));
    x5 = hn::NegMulAdd(d1, k(c1), hn::MulAdd(d0, k(c5), hn::MulAdd(d2, k(c7), hn::Mul(d3, k(c3)))));
    x7 = hn::NegMulAdd(d1, k(c5), hn::MulAdd(d0, k(c7), hn::MulSub(d2, k(c3), hn::Mul(d3, k(c1)))));
}

// Its inverse.
template <class D, class V = hn::Vec<D>>
HWY_INLINE void Inverse(D d, V& x0, V& x1, V& x2, V& x3, V& x4, V& x5, V& x6, V& x7) {
    const auto k = [&](float c) HWY_ATTR { return hn::Set(d, c); };
    const V p = hn::Mul(hn::Add(x0, x4), k(c4)), q = hn::Mul(hn::Sub(x0, x4), k(c4));
    const V r = hn::MulAdd(x2, k(c2), hn::Mul(x6, k(c6))), t = hn::MulSub(x2, k(c6), hn::Mul(x6, k(c2)));
    const V e0 = hn::Add(p, r), e3 = hn::Sub(p, r), e1 = hn::Add(q, t), e2 = hn::Sub(q, t);
    const V o0 = hn::MulAdd(x1, k(c1), hn::MulAdd(x3, k(c3), hn::MulAdd(x5, k(c5), hn::Mul(x7, k(c7)))));
    const V o1 = hn::NegMulAdd(x3, k(c7), hn::NegMulAdd(x5, k(c1), hn::MulSub(x1, k(c3), hn::Mul(x7, k(c5)))));
    const V o2 = hn::NegMulAdd(x3, k(c1), hn::MulAdd(x1, k(c5), hn::MulAdd(x5, k(c7), hn::Mul(x7, k(c3)))));
    const V o3 = hn::NegMulAdd(x3, k(c5), hn::MulAdd(x1, k(c7), hn::MulSub(x5, k(c3), hn::Mul(x7, k(c1)))));
    x0 = hn::Add(e0, o0);
    x7 = hn::Sub(e0, o0);
    x1 = hn::Add(e1, o1);
    x6 = hn::Sub(e1, o1);
    x2 = hn::Add(e2, o2);
    x5 = hn::Sub(e2, o2);
    x3 = hn::Add(e3, o3);
    x4 = hn::Sub(e3, o3);
}

// The coefficients down each column of eight rows that begin at `rows`, one every `stride` floats.
void DownColumns(const float* const* rows, std::size_t length, std::size_t half, float* out) {
    const hn::ScalableTag<float> d;
    for (std::size_t h = 0; h < 2; ++h) {
        for (std::size_t i = 0; i < length; i += hn::Lanes(d)) {
            const std::size_t at = h * half + i;
            auto x0 = hn::LoadU(d, rows[0] + at), x1 = hn::LoadU(d, rows[1] + at), x2 = hn::LoadU(d, rows[2] + at),
                 x3 = hn::LoadU(d, rows[3] + at), x4 = hn::LoadU(d, rows[4] + at), x5 = hn::LoadU(d, rows[5] + at),
                 x6 = hn::LoadU(d, rows[6] + at), x7 = hn::LoadU(d, rows[7] + at);
            Forward(d, x0, x1, x2, x3, x4, x5, x6, x7);
            float* to = out + at;
            const std::size_t next = 2 * half;
            hn::StoreU(x0, d, to);
            hn::StoreU(x1, d, to + next);
            hn::StoreU(x2, d, to + 2 * next);
            hn::StoreU(x3, d, to + 3 * next);
            hn::StoreU(x4, d, to + 4 * next);
            hn::StoreU(x5, d, to + 5 * next);
            hn::StoreU(x6, d, to + 6 * next);
            hn::StoreU(x7, d, to + 7 * next);
        }
    }
}

// One over v, to the last bit or two.
template <class D, class V = hn::Vec<D>>
HWY_INLINE V Reciprocal(D d, V v) {
    const V about = hn::ApproximateReciprocal(v);
    return hn::Mul(about, hn::NegMulAdd(v, about, hn::Set(d, 2.0f)));
}

// Pass two: by the coefficient of the pilot. `kept` gathers how much of the coefficients stays.
template <class D, class V>
HWY_INLINE void ByPilot(D d, V& c, V pilot, V variance, V& kept) {
    const V signal = hn::MulAdd(pilot, pilot, hn::Set(d, 1e-15f));
    const V gain = hn::Mul(signal, Reciprocal(d, hn::Add(signal, variance)));
    c = hn::Mul(gain, c);
    kept = hn::MulAdd(gain, gain, kept);
}

// Pass one: kept or made none.
template <class D, class V>
HWY_INLINE void BySize(D d, V& c, V variance, V& kept) {
    const auto keep = hn::Gt(hn::Mul(c, c), hn::Mul(hn::Set(d, 9.0f), variance));
    c = hn::IfThenElseZero(keep, c);
    kept = hn::Add(kept, hn::IfThenElseZero(keep, hn::Set(d, 1.0f)));
}

// As many patches as a vector has lanes, from the i-th on, at frequency k down: from columns to columns. `n0` to `n3`
// are their noise by band.
template <std::size_t k, bool withPilot, class D, class V>
HWY_INLINE void ShrinkAcross(D d, PatchRows& rows, std::size_t i, V n0, V n1, V n2, V n3, V& kept) {
    const std::size_t half = rows.half, at = 2 * k * half + PatchRows::before + i;
    const float *even = rows.noisy.data() + at, *odd = even + half;
    V c0 = hn::LoadU(d, even), c1 = hn::LoadU(d, odd), c2 = hn::LoadU(d, even + 1), c3 = hn::LoadU(d, odd + 1),
      c4 = hn::LoadU(d, even + 2), c5 = hn::LoadU(d, odd + 2), c6 = hn::LoadU(d, even + 3), c7 = hn::LoadU(d, odd + 3);
    Forward(d, c0, c1, c2, c3, c4, c5, c6, c7);
    V p0 = c0, p1 = c1, p2 = c2, p3 = c3, p4 = c4, p5 = c5, p6 = c6, p7 = c7;
    if constexpr (withPilot) {
        even = rows.pilot.data() + at;
        odd = even + half;
        p0 = hn::LoadU(d, even), p1 = hn::LoadU(d, odd), p2 = hn::LoadU(d, even + 1), p3 = hn::LoadU(d, odd + 1);
        p4 = hn::LoadU(d, even + 2), p5 = hn::LoadU(d, odd + 2), p6 = hn::LoadU(d, even + 3),
        p7 = hn::LoadU(d, odd + 3);
        Forward(d, p0, p1, p2, p3, p4, p5, p6, p7);
    }
    const auto shrink = [&](auto u, V& c, V pilot) HWY_ATTR {
        constexpr std::size_t band = bandOf(static_cast<int>(k + u()));
        const V variance = band == 0 ? n0 : band == 1 ? n1 : band == 2 ? n2 : n3;
        if constexpr (withPilot) {
            ByPilot(d, c, pilot, variance, kept);
        } else {
            BySize(d, c, variance, kept);
        }
    };
    if constexpr (k > 0) shrink(At<0>(), c0, p0);
    shrink(At<1>(), c1, p1);
    shrink(At<2>(), c2, p2);
    shrink(At<3>(), c3, p3);
    shrink(At<4>(), c4, p4);
    shrink(At<5>(), c5, p5);
    shrink(At<6>(), c6, p6);
    shrink(At<7>(), c7, p7);
    Inverse(d, c0, c1, c2, c3, c4, c5, c6, c7);
    // One array for each column of a patch, so that nothing is read that was just written.
    float* to = rows.made.data() + 8 * k * half + PatchRows::before + i;
    hn::StoreU(c0, d, to);
    hn::StoreU(c1, d, to + half);
    hn::StoreU(c2, d, to + 2 * half);
    hn::StoreU(c3, d, to + 3 * half);
    hn::StoreU(c4, d, to + 4 * half);
    hn::StoreU(c5, d, to + 5 * half);
    hn::StoreU(c6, d, to + 6 * half);
    hn::StoreU(c7, d, to + 7 * half);
}

// A row of patches: what becomes of each coefficient, and the patches' weights. `variances` are by patch, those past
// the last one read but of no weight.
template <bool withPilot>
HWY_INLINE void ShrinkPatches(PatchRows& rows, const float* const* variances, std::size_t patches) {
    const hn::ScalableTag<float> d;
    for (std::size_t i = 0; i < patches; i += hn::Lanes(d)) {
        const auto n0 = hn::LoadU(d, variances[0] + i), n1 = hn::LoadU(d, variances[1] + i),
                   n2 = hn::LoadU(d, variances[2] + i), n3 = hn::LoadU(d, variances[3] + i);
        auto kept = hn::Set(d, evenness);
        ShrinkAcross<0, withPilot>(d, rows, i, n0, n1, n2, n3, kept);
        ShrinkAcross<1, withPilot>(d, rows, i, n0, n1, n2, n3, kept);
        ShrinkAcross<2, withPilot>(d, rows, i, n0, n1, n2, n3, kept);
        ShrinkAcross<3, withPilot>(d, rows, i, n0, n1, n2, n3, kept);
        ShrinkAcross<4, withPilot>(d, rows, i, n0, n1, n2, n3, kept);
        ShrinkAcross<5, withPilot>(d, rows, i, n0, n1, n2, n3, kept);
        ShrinkAcross<6, withPilot>(d, rows, i, n0, n1, n2, n3, kept);
        ShrinkAcross<7, withPilot>(d, rows, i, n0, n1, n2, n3, kept);
        const auto within = hn::FirstN(d, patches - std::min(patches, i));
        hn::StoreU(hn::IfThenElseZero(within, Reciprocal(d, kept)), d, rows.weight.data() + PatchRows::before + i);
    }
}

void ShrinkRow(PatchRows& rows, bool withPilot, const float* const* variances, std::size_t patches) {
    if (withPilot) {
        ShrinkPatches<true>(rows, variances, patches);
    } else {
        ShrinkPatches<false>(rows, variances, patches);
    }
}

// What all patches of a row make of the eight rows they lie on, added to `sums` and `weights`: rows of two halves.
void AddRow(const PatchRows& rows, std::size_t length, float* const* sums, float* const* weights) {
    const hn::ScalableTag<float> d;
    const std::size_t half = rows.half, first = PatchRows::before;
    for (std::size_t i = first; i < first + length; i += hn::Lanes(d)) {
        const float* w = rows.weight.data() + i;
        const auto w0 = hn::LoadU(d, w), w1 = hn::LoadU(d, w - 1), w2 = hn::LoadU(d, w - 2), w3 = hn::LoadU(d, w - 3);
        for (std::size_t h = 0; h < 2; ++h) {
            // Column i of a half is column 2 o + h of the patch that begins o columns before.
            const auto v0 = hn::Mul(w0, hn::Set(d, taper[h])), v1 = hn::Mul(w1, hn::Set(d, taper[2 + h])),
                       v2 = hn::Mul(w2, hn::Set(d, taper[4 + h])), v3 = hn::Mul(w3, hn::Set(d, taper[6 + h]));
            const auto of = [&](std::size_t k) HWY_ATTR {
                const float* at = rows.made.data() + (8 * k + h) * half + i;
                return hn::MulAdd(v0, hn::LoadU(d, at),
                                  hn::MulAdd(v1, hn::LoadU(d, at + 2 * half - 1),
                                             hn::MulAdd(v2, hn::LoadU(d, at + 4 * half - 2),
                                                        hn::Mul(v3, hn::LoadU(d, at + 6 * half - 3)))));
            };
            const auto weight = hn::Add(hn::Add(v0, v1), hn::Add(v2, v3));
            auto x0 = of(0), x1 = of(1), x2 = of(2), x3 = of(3), x4 = of(4), x5 = of(5), x6 = of(6), x7 = of(7);
            Inverse(d, x0, x1, x2, x3, x4, x5, x6, x7);
            const std::size_t at = h * half + i;
            const auto add = [&](std::size_t k, auto x) HWY_ATTR {
                const auto by = hn::Set(d, taper[k]);
                hn::StoreU(hn::MulAdd(by, x, hn::LoadU(d, sums[k] + at)), d, sums[k] + at);
                hn::StoreU(hn::MulAdd(by, weight, hn::LoadU(d, weights[k] + at)), d, weights[k] + at);
            };
            add(0, x0);
            add(1, x1);
            add(2, x2);
            add(3, x3);
            add(4, x4);
            add(5, x5);
            add(6, x6);
            add(7, x7);
        }
    }
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::kernel
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace dimhem::kernel {

HWY_EXPORT(DownColumns);
HWY_EXPORT(ShrinkRow);
HWY_EXPORT(AddRow);

namespace {

// A plane with its columns in two halves.
class Halved {
public:
    Halved(base::Size size, std::size_t half)
        : half_(half), columns_(size.width / 2), rows_({2 * static_cast<int>(half), size.height}) {
        for (int y = 0; y < size.height; ++y) std::fill(rows_.row(y).begin(), rows_.row(y).end(), 0.0f);
    }
    Halved(const image::Plane<float>& plane, std::size_t half) : Halved(plane.size(), half) {
        for (int y = 0; y < plane.size().height; ++y) {
            const float* from = plane.row(y).data();
            float *even = row(y) + PatchRows::before, *odd = even + half_;
            for (int x = 0; x < columns_; ++x) {
                even[x] = from[2 * x];
                odd[x] = from[2 * x + 1];
            }
        }
    }
    float* row(int y) { return rows_.row(y).data(); }
    const float* row(int y) const { return rows_.row(y).data(); }

private:
    std::size_t half_;
    int columns_;
    image::Plane<float> rows_;
};

template <class Rows>
auto eightRows(Rows& rows, int y) {
    std::array<decltype(rows.row(0)), 8> out;
    for (int k = 0; k < 8; ++k) out[static_cast<std::size_t>(k)] = rows.row(y + k);
    return out;
}

image::Plane<float> shrunk(const image::Plane<float>& noisy, const image::Plane<float>* pilot,
                           const PatchNoise& noise) {
    const base::Size size = noisy.size(), patches = patchCount(size);
    const auto columns = static_cast<std::size_t>(size.width);
    PatchRows rows(columns);
    const Halved from(noisy, rows.half), guide(pilot ? *pilot : noisy, rows.half);
    Halved sums(size, rows.half), weights(size, rows.half);
    const std::size_t room = static_cast<std::size_t>(patches.width) + PatchRows::beyond;
    std::vector<float> variance(lastOfBand.size() * room, 1.0f);
    std::array<const float*, lastOfBand.size()> variances;
    for (std::size_t b = 0; b < lastOfBand.size(); ++b) variances[b] = variance.data() + b * room;
    const std::size_t length = PatchRows::before + columns / 2;
    for (int row = 0; row < patches.height; ++row) {
        const int y = row * patchStep;
        HWY_DYNAMIC_DISPATCH(DownColumns)(eightRows(from, y).data(), length, rows.half, rows.noisy.data());
        if (pilot) HWY_DYNAMIC_DISPATCH(DownColumns)(eightRows(guide, y).data(), length, rows.half, rows.pilot.data());
        for (std::size_t b = 0; b < lastOfBand.size(); ++b)
            std::copy_n(noise[b].row(row).data(), patches.width, variance.data() + b * room);
        HWY_DYNAMIC_DISPATCH(ShrinkRow)
        (rows, pilot != nullptr, variances.data(), static_cast<std::size_t>(patches.width));
        HWY_DYNAMIC_DISPATCH(AddRow)(rows, columns / 2, eightRows(sums, y).data(), eightRows(weights, y).data());
    }
    image::Plane<float> out(size);
    for (int y = 0; y < size.height; ++y) {
        const float *sum = sums.row(y) + PatchRows::before, *weight = weights.row(y) + PatchRows::before;
        float* to = out.row(y).data();
        for (std::size_t x = 0; x < columns / 2; ++x) {
            to[2 * x] = sum[x] / weight[x];
            to[2 * x + 1] = sum[rows.half + x] / weight[rows.half + x];
        }
    }
    return out;
}

}  // namespace

base::Size patchCount(base::Size plane) {
    return {(plane.width - patchSide) / patchStep + 1, (plane.height - patchSide) / patchStep + 1};
}

image::Plane<float> patchMeans(const image::Plane<float>& plane) {
    const base::Size count = patchCount(plane.size());
    // Of two by two, then of four by four of these.
    const base::Size pairs{plane.size().width / 2, plane.size().height / 2};
    const image::Plane<float> quads = image::planeOf(pairs, [&](int x, int y) {
        const float *a = plane.row(2 * y).data() + 2 * x, *b = plane.row(2 * y + 1).data() + 2 * x;
        return a[0] + a[1] + b[0] + b[1];
    });
    const image::Plane<float> across = image::planeOf({count.width, pairs.height}, [&](int x, int y) {
        const float* q = quads.row(y).data() + x;
        return q[0] + q[1] + q[2] + q[3];
    });
    return image::planeOf(count, [&](int x, int y) {
        const auto at = [&](int row) { return across.row(row)[static_cast<std::size_t>(x)]; };
        return (at(y) + at(y + 1) + at(y + 2) + at(y + 3)) / 64;
    });
}

image::Plane<float> withoutSmallCoefficients(const image::Plane<float>& noisy, const PatchNoise& noise) {
    return shrunk(noisy, nullptr, noise);
}

image::Plane<float> wienerFiltered(const image::Plane<float>& noisy, const image::Plane<float>& pilot,
                                   const PatchNoise& noise) {
    return shrunk(noisy, &pilot, noise);
}

}  // namespace dimhem::kernel
#endif
