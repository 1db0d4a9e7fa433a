#include "core/adjust/hue_bands.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/adjust/hue_bands.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include <algorithm>
#include <cmath>

#include "core/adjust/pixel-inl.h"
#include "core/kernel/row_transform-inl.h"

#ifndef DIMHEM_HUE_BANDS_SETTINGS
#define DIMHEM_HUE_BANDS_SETTINGS
namespace dimhem::adjust {

struct PreparedBand {
    float from;                 // degrees 0..360, the first point; the others count from it
    float inner, outer, width;  // degrees from it: the second, the third and the fourth point
    float rise, fall;           // 1 / the width of the fades
    float hue, saturation, lightness;
    float towards, bend;  // degrees 0..360, 0..1
};

}  // namespace dimhem::adjust
#endif

HWY_BEFORE_NAMESPACE();
namespace dimhem::adjust {
namespace HWY_NAMESPACE {

// 0.5 - 0.5 cos(pi t) for t 0..1: half a sine about 0.5 by its series; error below 4e-6.
template <class D, class V = hn::Vec<D>>
HWY_INLINE V RaisedCosine(D d, V t) {
    const V x = hn::Mul(hn::Sub(Held(d, t), hn::Set(d, 0.5f)), hn::Set(d, 3.14159265f)), q = hn::Mul(x, x);
    V s = hn::MulAdd(q, hn::Set(d, 2.7557319e-6f), hn::Set(d, -1.98412698e-4f));
    s = hn::MulAdd(q, s, hn::Set(d, 8.33333333e-3f));
    s = hn::MulAdd(q, s, hn::Set(d, -1.66666667e-1f));
    s = hn::MulAdd(q, s, hn::Set(d, 1.0f));
    return hn::MulAdd(hn::Mul(x, s), hn::Set(d, 0.5f), hn::Set(d, 0.5f));
}

template <class D, class V = hn::Vec<D>>
HWY_INLINE V BandWeight(D d, V hue, const PreparedBand& band) {
    V on = hn::Sub(hue, hn::Set(d, band.from));
    on = hn::IfThenElse(hn::Lt(on, hn::Zero(d)), hn::Add(on, hn::Set(d, 360.0f)), on);
    const V up = RaisedCosine(d, hn::Mul(on, hn::Set(d, band.rise)));
    const V down = RaisedCosine(d, hn::Mul(hn::Sub(hn::Set(d, band.width), on), hn::Set(d, band.fall)));
    const V w = hn::IfThenElse(hn::Lt(on, hn::Set(d, band.inner)), up,
                               hn::IfThenElse(hn::Gt(on, hn::Set(d, band.outer)), down, hn::Set(d, 1.0f)));
    return hn::IfThenElseZero(hn::Le(on, hn::Set(d, band.width)), w);
}

// By how many degrees a hue is bent: at its opposite there is no nearer way, so that none is gone there.
template <class D, class V = hn::Vec<D>>
HWY_INLINE V BendTowards(D d, V hue, const PreparedBand& band) {
    const V turn = hn::Set(d, 360.0f);
    V off = hn::Sub(hn::Set(d, band.towards), hue);  // -360 .. 360
    off = hn::IfThenElse(hn::Gt(off, hn::Set(d, 180.0f)), hn::Sub(off, turn), off);
    off = hn::IfThenElse(hn::Lt(off, hn::Set(d, -180.0f)), hn::Add(off, turn), off);
    const V near = RaisedCosine(d, hn::Mul(hn::Sub(hn::Set(d, 180.0f), hn::Abs(off)), hn::Set(d, 1.0f / 90)));
    return hn::Mul(hn::Mul(hn::Set(d, band.bend), near), off);
}

// Channel `at` (red 0, green 8, blue 4) of a colour in HSL (CSS Color Module Level 4, HSL to RGB); hue in twelfths.
template <class D, class V = hn::Vec<D>>
HWY_INLINE V ChannelOfHsl(D d, float at, V hue, V half, V lightness) {
    V k = hn::Add(hue, hn::Set(d, at));
    const V turn = hn::Set(d, 12.0f);
    k = hn::Sub(k, hn::Mul(turn, hn::Floor(hn::Div(k, turn))));
    const V slope = hn::Min(hn::Sub(k, hn::Set(d, 3.0f)), hn::Sub(hn::Set(d, 9.0f), k));
    const V shape = hn::Max(hn::Set(d, -1.0f), hn::Min(slope, hn::Set(d, 1.0f)));
    return hn::NegMulAdd(half, shape, lightness);
}

template <class D, class V = hn::Vec<D>>
HWY_INLINE void FromHsl(D d, V hueDeg, V saturation, V lightness, V& r, V& g, V& b) {
    const V half = hn::Mul(saturation, hn::Min(lightness, hn::Sub(hn::Set(d, 1.0f), lightness)));
    const V hue = hn::Mul(hueDeg, hn::Set(d, 1.0f / 30));
    r = ChannelOfHsl(d, 0, hue, half, lightness);
    g = ChannelOfHsl(d, 8, hue, half, lightness);
    b = ChannelOfHsl(d, 4, hue, half, lightness);
}

template <class V>
struct Shift {
    V touched, hue, saturation, lightness;
};

template <class D, class V = hn::Vec<D>>
HWY_INLINE Shift<V> ShiftOf(D d, const HueChroma<V>& c, std::span<const PreparedBand> bands) {
    constexpr float fullChroma = 0.1f;
    const V fade = RaisedCosine(d, hn::Mul(c.chroma, hn::Set(d, 1 / fullChroma)));
    Shift<V> s{hn::Zero(d), hn::Zero(d), hn::Zero(d), hn::Zero(d)};
    for (const PreparedBand& band : bands) {
        const V w = hn::Mul(fade, BandWeight(d, c.hue, band));
        s.touched = hn::Max(s.touched, w);
        s.hue = hn::MulAdd(w, hn::Set(d, band.hue), s.hue);
        if (band.bend > 0) s.hue = hn::MulAdd(w, BendTowards(d, c.hue, band), s.hue);
        s.saturation = hn::MulAdd(w, hn::Set(d, band.saturation), s.saturation);
        s.lightness = hn::MulAdd(w, hn::Set(d, band.lightness), s.lightness);
    }
    return s;
}

void BandsRow(std::span<const PreparedBand> bands, bool keepsLuminance, kernel::EncodedRow pixels, std::size_t count) {
    const hn::ScalableTag<float> d;
    const auto zero = hn::Zero(d), one = hn::Set(d, 1.0f);
    kernel::HWY_NAMESPACE::TransformRgb(
        d, pixels.red, pixels.green, pixels.blue, count, [&](std::size_t, auto& r, auto& g, auto& b) HWY_ATTR {
            auto hr = Held(d, r), hg = Held(d, g), hb = Held(d, b);
            const auto beyondR = hn::Sub(r, hr), beyondG = hn::Sub(g, hg), beyondB = hn::Sub(b, hb);
            const auto c = HueOf(d, hr, hg, hb);
            const auto shift = ShiftOf(d, c, bands);
            const auto touched = hn::Gt(shift.touched, zero);
            if (hn::AllFalse(d, touched)) return;
            const auto y = LuminanceOfEncoded(d, hr, hg, hb);
            auto light = hn::Mul(hn::Set(d, 0.5f), hn::Add(c.most, c.least));
            const auto room = hn::Max(hn::Min(light, hn::Sub(one, light)), hn::Set(d, 1e-6f));
            const auto was = hn::Div(hn::Mul(hn::Set(d, 0.5f), c.chroma), room);
            const auto dense = hn::Min(one, hn::Mul(was, hn::Max(zero, hn::Add(one, shift.saturation))));
            const auto hue = hn::Add(c.hue, shift.hue);
            FromHsl(d, hue, dense, light, hr, hg, hb);
            if (keepsLuminance) BringToLuminance(d, y, hr, hg, hb);
            const auto move = hn::Min(one, hn::Max(hn::Neg(one), shift.lightness));
            const auto moves = hn::Ne(move, zero);
            if (!hn::AllFalse(d, moves)) {
                const auto now = HueOf(d, hr, hg, hb);
                light = hn::Mul(hn::Set(d, 0.5f), hn::Add(now.most, now.least));
                const auto left = hn::Max(hn::Min(light, hn::Sub(one, light)), hn::Set(d, 1e-6f));
                const auto density = hn::Min(one, hn::Div(hn::Mul(hn::Set(d, 0.5f), now.chroma), left));
                const auto way = hn::IfThenElse(hn::Gt(move, zero), hn::Sub(one, light), light);
                auto nr = hr, ng = hg, nb = hb;
                FromHsl(d, now.hue, density, hn::MulAdd(move, way, light), nr, ng, nb);
                hr = hn::IfThenElse(moves, nr, hr);
                hg = hn::IfThenElse(moves, ng, hg);
                hb = hn::IfThenElse(moves, nb, hb);
            }
            r = hn::IfThenElse(touched, hn::Add(hr, beyondR), r);
            g = hn::IfThenElse(touched, hn::Add(hg, beyondG), g);
            b = hn::IfThenElse(touched, hn::Add(hb, beyondB), b);
        });
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::adjust
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace dimhem::adjust {

HWY_EXPORT(BandsRow);

namespace {

constexpr base::ParamSpec params[] = {
    {.id = "keep-luminance",
     .label = "Hold light",
     .neutral = 1,
     .tip = "Turning and saturating change only the colour, not how light it is.",
     .toggle = true},
};

constexpr base::ParamSpec columns[bandColumns] = {
    {.id = "from", .label = "From", .unit = "°", .min = -360, .max = 360, .tip = "Where the band begins."},
    {.id = "full-from",
     .label = "Full from",
     .unit = "°",
     .min = -360,
     .max = 720,
     .tip = "From here on it acts fully."},
    {.id = "full-to", .label = "Full to", .unit = "°", .min = -360, .max = 720, .tip = "Up to here it acts fully."},
    {.id = "to", .label = "To", .unit = "°", .min = -360, .max = 720, .tip = "Where the band ends."},
    {.id = "hue",
     .label = "Hue",
     .unit = "°",
     .min = -180,
     .max = 180,
     .tip = "Turns the hue: above 0 from red towards yellow, green and blue.",
     .scale = base::Scale::aboutNeutral},
    {.id = "saturation",
     .label = "Saturation",
     .min = -100,
     .max = 100,
     .tip = "More or less colour; -100 leaves grey."},
    {.id = "lightness",
     .label = "Lightness",
     .min = -100,
     .max = 100,
     .tip = "Towards white, or below 0 towards black."},
    {.id = "towards", .label = "Towards", .unit = "°", .max = 360, .tip = "The hue that the band is bent towards."},
    {.id = "bend",
     .label = "Bend",
     .unit = "%",
     .max = 100,
     .tip = "How far each hue of the band goes towards that one: takes reflected light off a thing of one colour."},
};
constexpr std::size_t mostBands = 24;
constexpr double reds[] = {-40, -20, 20, 40, 0, 0, 0, 0, 0};
constexpr TableSpec tables[] = {{.id = "bands",
                                 .label = "Bands",
                                 .tip = "Each acts on the hues between its points.",
                                 .columns = columns,
                                 .mostRows = mostBands,
                                 .neutral = reds,
                                 .leftOut = 2}};

const char* invalidReason(const Settings& settings) {
    const Table& bands = settings.tables[0];
    for (auto p = bands.begin(); p != bands.end(); p += bandColumns) {
        if (!std::is_sorted(p, p + 4) || p[3] - p[0] > 360)
            return "bands with four points in rising order, in one turn";
    }
    return nullptr;
}

bool isIdentity(const Settings& settings) {
    const Table& bands = settings.tables[0];
    for (std::size_t i = 0; i < bands.size(); i += bandColumns) {
        for (const int column : {bandHue, bandSaturation, bandLightness, bandBend}) {
            if (bands[i + static_cast<std::size_t>(column)] != 0) return false;
        }
    }
    return true;
}

// The band's hues turned to their opposite and saturated: nobody takes that for the photo.
Settings glaring(const Settings& settings, std::size_t row) {
    Settings out = settings;
    const Table& bands = settings.tables[0];
    const auto from = bands.begin() + static_cast<std::ptrdiff_t>(row * bandColumns);
    out.tables[0].assign(from, from + bandColumns);
    out.tables[0][bandHue] = 180;
    out.tables[0][bandSaturation] = 100;
    out.tables[0][bandLightness] = 0;
    out.tables[0][bandBend] = 0;
    return out;
}

// No hue is bent away from one.
Settings opposite(Settings settings) {
    Table& bands = settings.tables[0];
    for (std::size_t i = 0; i < bands.size(); i += bandColumns) {
        for (const int column : {bandHue, bandSaturation, bandLightness})
            bands[i + static_cast<std::size_t>(column)] *= -1;
        bands[i + static_cast<std::size_t>(bandBend)] = 0;
    }
    return settings;
}

float oneOver(double width) {
    return static_cast<float>(1 / std::max(width, 1e-6));
}

PreparedBand preparedOf(const double* p) {
    const double turn = 360 * std::floor(p[bandPoint0] / 360);
    return {static_cast<float>(p[bandPoint0] - turn),
            static_cast<float>(p[bandPoint1] - p[bandPoint0]),
            static_cast<float>(p[bandPoint2] - p[bandPoint0]),
            static_cast<float>(p[bandPoint3] - p[bandPoint0]),
            oneOver(p[bandPoint1] - p[bandPoint0]),
            oneOver(p[bandPoint3] - p[bandPoint2]),
            static_cast<float>(p[bandHue]),
            static_cast<float>(p[bandSaturation] / 100),
            static_cast<float>(p[bandLightness] / 100),
            static_cast<float>(p[bandTowards]),
            static_cast<float>(p[bandBend] / 100)};
}

class BandsOperation final : public EncodedOperation {
public:
    explicit BandsOperation(const Settings& settings) : keepsLuminance_(settings.values[0] != 0) {
        const Table& bands = settings.tables[0];
        for (std::size_t i = 0; i < bands.size(); i += bandColumns) bands_.push_back(preparedOf(bands.data() + i));
    }
    void row(kernel::EncodedRow pixels, std::size_t count) const override {
        HWY_DYNAMIC_DISPATCH(BandsRow)(bands_, keepsLuminance_, pixels, count);
    }

private:
    std::vector<PreparedBand> bands_;
    bool keepsLuminance_;
};

}  // namespace

const AdjustmentKind hueBands = {
    .id = "hue-bands",
    .label = "Hue bands",
    .category = "colour cast",
    .tip = "Hue, saturation and lightness of some hues only.",
    .params = params,
    .prepare = [](const Settings& settings) { return only<BandsOperation>(settings); },
    .tables = tables,
    .invalidReason = invalidReason,
    .isIdentity = isIdentity,
    .glaring = glaring,
    .sample = [] { return glaring(neutralSettings(hueBands), 0); },
    .opposite = opposite,
};

}  // namespace dimhem::adjust
#endif
