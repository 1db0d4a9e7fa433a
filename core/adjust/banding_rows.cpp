#include "core/adjust/banding_rows.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/adjust/banding_rows.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include <numbers>

#include "core/kernel/row_transform-inl.h"

HWY_BEFORE_NAMESPACE();
namespace dimhem::adjust {
namespace HWY_NAMESPACE {

namespace hn = hwy::HWY_NAMESPACE;
using kernel::HWY_NAMESPACE::LoadSome;
using kernel::HWY_NAMESPACE::StoreSome;
using kernel::HWY_NAMESPACE::TransformRow;

template <class D, class V = hn::Vec<D>>
HWY_INLINE V OneMinusRamp(D d, V v, const Ramp& ramp) {
    const V down = hn::Mul(hn::Sub(hn::Set(d, ramp.all), v), hn::Set(d, 1 / (ramp.all - ramp.none)));
    return hn::Min(hn::Max(down, hn::Zero(d)), hn::Set(d, 1.0f));
}

// What is not a number is not greater.
template <class V>
HWY_INLINE V Greater(V known, V next) {
    return hn::IfThenElse(hn::Gt(next, known), next, known);
}

void BandingRow(const BandingAmounts& s, const float* const* model, kernel::EncodedRow pixels, std::size_t count) {
    const hn::ScalableTag<float> d;
    const auto k = [&](float v) HWY_ATTR { return hn::Set(d, v); };
    kernel::HWY_NAMESPACE::TransformRgb(
        d, pixels.red, pixels.green, pixels.blue, count, [&](std::size_t i, auto& r, auto& g, auto& b) HWY_ATTR {
            const auto at = [&](std::size_t plane) HWY_ATTR { return LoadSome(d, model[plane], i, count); };
            const auto weight = hn::Mul(k(s.amount), hn::Mul(at(isFit), hn::Mul(at(keepsSteps), at(noEdge))));
            const auto changed = [&](auto v, std::size_t c) HWY_ATTR {
                const auto from = hn::MulAdd(k(s.keep), hn::Sub(at(meanRed + c), v), v);
                const auto most = k(s.most[c]);
                const auto by = hn::Min(hn::Max(hn::Sub(at(toRed + c), from), hn::Neg(most)), most);
                return hn::MulAdd(weight, by, v);
            };
            r = changed(r, 0);
            g = changed(g, 1);
            b = changed(b, 2);
        });
}

// The mean of the pixel and those about it that are numbers.
template <class D, class V = hn::Vec<D>>
HWY_INLINE V MeanOfNine(D d, const float* const rows[5], std::size_t i, std::size_t count) {
    V sum = hn::Zero(d), numbers = hn::Zero(d);
    for (int y = 1; y < 4; ++y) {
        for (int x = -1; x <= 1; ++x) {
            const V v = LoadSome(d, rows[y] + x, i, count);
            const auto isNumber = hn::Eq(v, v);
            sum = hn::Add(sum, hn::IfThenElseZero(isNumber, v));
            numbers = hn::Add(numbers, hn::IfThenElseZero(isNumber, hn::Set(d, 1.0f)));
        }
    }
    return hn::Div(sum, numbers);
}

void AlikeRow(const float* const rows[5], const Alike& alike, const Ramp& edge, float* mean, float* free,
              std::size_t count) {
    const hn::ScalableTag<float> d;
    const auto scale = hn::Set(d, 1 / (alike.width * alike.width)), one = hn::Set(d, 1.0f);
    for (std::size_t i = 0; i < count; i += hn::Lanes(d)) {
        auto middle = LoadSome(d, rows[2], i, count);
        if (alike.toMean > 0)
            middle = hn::MulAdd(hn::Set(d, alike.toMean), hn::Sub(MeanOfNine(d, rows, i, count), middle), middle);
        auto sum = hn::Zero(d), weights = hn::Set(d, 1e-6f), above = hn::Zero(d), below = hn::Zero(d);
        for (int y = 0; y < 5; ++y) {
            for (int x = -2; x <= 2; ++x) {
                const auto by = hn::Sub(LoadSome(d, rows[y] + x, i, count), middle);
                above = Greater(above, by);
                below = Greater(below, hn::Neg(by));
                const auto like = hn::NegMulAdd(hn::Mul(by, by), scale, one);
                const auto isLike = hn::Gt(like, hn::Zero(d));
                const auto weight = hn::IfThenElseZero(isLike, hn::Mul(like, like));
                sum = hn::Add(hn::IfThenElseZero(isLike, hn::Mul(weight, by)), sum);
                weights = hn::Add(weights, weight);
            }
        }
        StoreSome(hn::Add(middle, hn::Div(sum, weights)), d, mean, i, count);
        const auto smooth = OneMinusRamp(d, hn::Add(above, below), edge);
        StoreSome(hn::Min(LoadSome(d, free, i, count), smooth), d, free, i, count);
    }
}

void BendRow(const float* const rows[3], const Ramp& ramp, float* free, std::size_t count) {
    const hn::ScalableTag<float> d;
    TransformRow(d, free, count, [&](std::size_t i, auto known) HWY_ATTR {
        const auto at = [&](int row, int x) HWY_ATTR { return LoadSome(d, rows[row] + x, i, count); };
        const auto middle = at(1, 0), twice = hn::Add(middle, middle);
        const auto bend = [&](auto a, auto b) HWY_ATTR { return hn::Abs(hn::Sub(hn::Add(a, b), twice)); };
        auto most = Greater(hn::Zero(d), bend(at(1, -2), at(1, 2)));
        most = Greater(most, bend(at(0, 0), at(2, 0)));
        most = Greater(most, bend(at(0, -2), at(2, 2)));
        most = Greater(most, bend(at(0, 2), at(2, -2)));
        return hn::Min(known, OneMinusRamp(d, most, ramp));
    });
}

// The cosine by its series, which within half a turn of 0 is right to 1e-3: enough for a mean that is asked whether it
// is above a bound.
void AccordanceRow(const float* values, float turn, float phase, float weight, float* sum, float* inside,
                   std::size_t count) {
    const hn::ScalableTag<float> d;
    const auto k = [&](float v) HWY_ATTR { return hn::Set(d, v); };
    const auto turns = k(turn / (2 * std::numbers::pi_v<float>));
    for (std::size_t i = 0; i < count; i += hn::Lanes(d)) {
        const auto v = LoadSome(d, values, i, count);
        const auto at = hn::Mul(hn::Sub(v, k(phase)), turns);
        const auto angle = hn::Mul(hn::Sub(at, hn::Round(at)), k(2 * std::numbers::pi_v<float>));
        const auto s = hn::Mul(angle, angle);
        auto cosine = hn::MulAdd(s, k(-1.0f / 3628800), k(1.0f / 40320));
        cosine = hn::MulAdd(s, cosine, k(-1.0f / 720));
        cosine = hn::MulAdd(s, cosine, k(1.0f / 24));
        cosine = hn::MulAdd(s, cosine, k(-0.5f));
        cosine = hn::MulAdd(s, cosine, k(1.0f));
        const auto isNumber = hn::Eq(v, v);
        StoreSome(hn::Add(LoadSome(d, sum, i, count), hn::IfThenElseZero(isNumber, hn::Mul(cosine, k(weight)))), d, sum,
                  i, count);
        StoreSome(hn::Add(LoadSome(d, inside, i, count), hn::IfThenElseZero(isNumber, k(1.0f))), d, inside, i, count);
    }
}

void FitRow(const FittedRow& fitted, float expected, float most, float* to, float* about, float* off,
            std::size_t count) {
    const hn::ScalableTag<float> d;
    const auto perVariance = hn::Set(d, 1 / expected), perMost = hn::Set(d, 1 / most);
    for (std::size_t i = 0; i < count; i += hn::Lanes(d)) {
        const auto load = [&](const float* row) HWY_ATTR { return LoadSome(d, row, i, count); };
        const auto here = load(fitted.value);
        StoreSome(hn::MulAdd(load(fitted.wider), hn::Sub(load(to), here), here), d, to, i, count);
        StoreSome(hn::MulAdd(load(fitted.variance), perVariance, load(about)), d, about, i, count);
        const auto by = hn::Mul(hn::Abs(hn::Sub(here, load(fitted.picture))), perMost);
        StoreSome(hn::Max(load(off), by), d, off, i, count);
    }
}

void IsFitRow(const float* about, float part, const Ramp& variance, const float* off, const Ramp& distance, float* fit,
              std::size_t count) {
    const hn::ScalableTag<float> d;
    TransformRow(d, fit, count, [&](std::size_t i, auto) HWY_ATTR {
        const auto mean = hn::Mul(LoadSome(d, about, i, count), hn::Set(d, part));
        return hn::Mul(OneMinusRamp(d, mean, variance), OneMinusRamp(d, LoadSome(d, off, i, count), distance));
    });
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::adjust
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace dimhem::adjust {

HWY_EXPORT(BandingRow);
HWY_EXPORT(AlikeRow);
HWY_EXPORT(BendRow);
HWY_EXPORT(AccordanceRow);
HWY_EXPORT(FitRow);
HWY_EXPORT(IsFitRow);

void bandingRow(const BandingAmounts& amounts, const float* const* model, kernel::EncodedRow pixels,
                std::size_t count) {
    HWY_DYNAMIC_DISPATCH(BandingRow)(amounts, model, pixels, count);
}

void alikeRow(const float* const rows[5], const Alike& alike, const Ramp& edge, float* mean, float* free,
              std::size_t count) {
    HWY_DYNAMIC_DISPATCH(AlikeRow)(rows, alike, edge, mean, free, count);
}

void bendRow(const float* const rows[3], const Ramp& bend, float* free, std::size_t count) {
    HWY_DYNAMIC_DISPATCH(BendRow)(rows, bend, free, count);
}

void accordanceRow(const float* values, float turn, float phase, float weight, float* sum, float* inside,
                   std::size_t count) {
    HWY_DYNAMIC_DISPATCH(AccordanceRow)(values, turn, phase, weight, sum, inside, count);
}

void fitRow(const FittedRow& fitted, float expected, float most, float* to, float* about, float* off,
            std::size_t count) {
    HWY_DYNAMIC_DISPATCH(FitRow)(fitted, expected, most, to, about, off, count);
}

void isFitRow(const float* about, float part, const Ramp& variance, const float* off, const Ramp& distance, float* fit,
              std::size_t count) {
    HWY_DYNAMIC_DISPATCH(IsFitRow)(about, part, variance, off, distance, fit, count);
}

}  // namespace dimhem::adjust
#endif
