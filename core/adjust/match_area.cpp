#include "core/adjust/match_area.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/adjust/match_area.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include <algorithm>

#include "core/adjust/pixel-inl.h"
#include "core/colour/lab.h"
#include "core/kernel/row_transform-inl.h"

#ifndef DIMHEM_MATCH_SETTINGS
#define DIMHEM_MATCH_SETTINGS
namespace dimhem::adjust {

struct MatchSettings {
    float toXyz[9], toRgb[9];  // linear sRGB to XYZ over that of white, and back
    float scale[3], add[3];    // v' = v scale + add, of L*, a*, b*
};

}  // namespace dimhem::adjust
#endif

HWY_BEFORE_NAMESPACE();
namespace dimhem::adjust {
namespace HWY_NAMESPACE {

template <class D, class V = hn::Vec<D>>
HWY_INLINE V Row(D d, const float* m, V x, V y, V z) {
    return hn::MulAdd(hn::Set(d, m[0]), x, hn::MulAdd(hn::Set(d, m[1]), y, hn::Mul(hn::Set(d, m[2]), z)));
}

void MatchRow(const MatchSettings& s, kernel::LinearRow pixels, std::size_t count) {
    const hn::ScalableTag<float> d;
    kernel::HWY_NAMESPACE::TransformRgb(
        d, pixels.red, pixels.green, pixels.blue, count, [&](std::size_t, auto& r, auto& g, auto& b) HWY_ATTR {
            const auto fx = LabCurve(d, Row(d, s.toXyz, r, g, b));
            const auto fy = LabCurve(d, Row(d, s.toXyz + 3, r, g, b));
            const auto fz = LabCurve(d, Row(d, s.toXyz + 6, r, g, b));
            const auto moved = [&](auto v, int i)
                                   HWY_ATTR { return hn::MulAdd(v, hn::Set(d, s.scale[i]), hn::Set(d, s.add[i])); };
            const auto l = moved(hn::MulAdd(fy, hn::Set(d, 116.0f), hn::Set(d, -16.0f)), 0);
            const auto a = moved(hn::Mul(hn::Set(d, 500.0f), hn::Sub(fx, fy)), 1);
            const auto bb = moved(hn::Mul(hn::Set(d, 200.0f), hn::Sub(fy, fz)), 2);
            const auto y = hn::Mul(hn::Add(l, hn::Set(d, 16.0f)), hn::Set(d, 1.0f / 116));
            const auto x = LabCurveInverse(d, hn::MulAdd(a, hn::Set(d, 1.0f / 500), y));
            const auto z = LabCurveInverse(d, hn::NegMulAdd(bb, hn::Set(d, 1.0f / 200), y));
            const auto yy = LabCurveInverse(d, y);
            r = Row(d, s.toRgb, x, yy, z);
            g = Row(d, s.toRgb + 3, x, yy, z);
            b = Row(d, s.toRgb + 6, x, yy, z);
        });
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::adjust
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace dimhem::adjust {

HWY_EXPORT(MatchRow);

namespace {

constexpr base::ParamSpec params[] = {
    {.id = "tone",
     .label = "Tone",
     .unit = "%",
     .max = 100,
     .tip = "How far the tones move to those of the reference."},
    {.id = "colour",
     .label = "Colour",
     .unit = "%",
     .max = 100,
     .tip = "How far the colours move to those of the reference."},
};
constexpr std::size_t tone = base::placeOf(params, "tone"), colourOf = base::placeOf(params, "colour");

constexpr base::ParamSpec placeColumns[] = {
    {.id = "x0", .label = "Left", .unit = "px", .min = -1e6, .max = 1e6, .tip = "Left side of the reference area."},
    {.id = "y0", .label = "Top", .unit = "px", .min = -1e6, .max = 1e6, .tip = "Top of the reference area."},
    {.id = "x1", .label = "Right", .unit = "px", .min = -1e6, .max = 1e6, .tip = "Right side of the reference area."},
    {.id = "y1", .label = "Bottom", .unit = "px", .min = -1e6, .max = 1e6, .tip = "Bottom of the reference area."},
};
constexpr base::ParamSpec spreadColumns[] = {
    {.id = "mean-l", .label = "Mean L*", .min = -1000, .max = 1000, .decimals = 1, .tip = "Mean tone."},
    {.id = "mean-a", .label = "Mean a*", .min = -1000, .max = 1000, .decimals = 1, .tip = "Mean of green to red."},
    {.id = "mean-b", .label = "Mean b*", .min = -1000, .max = 1000, .decimals = 1, .tip = "Mean of blue to yellow."},
    {.id = "spread-l", .label = "Spread L*", .max = 1000, .decimals = 1, .tip = "Standard deviation of the tone."},
    {.id = "spread-a", .label = "Spread a*", .max = 1000, .decimals = 1, .tip = "Standard deviation of green to red."},
    {.id = "spread-b",
     .label = "Spread b*",
     .max = 1000,
     .decimals = 1,
     .tip = "Standard deviation of blue to yellow."},
};
constexpr TableSpec tables[] = {
    {"place", "Reference area", "Where the reference lies in the photo.", placeColumns, 0, 1, {}, false, true},
    {"own", "Masked area", "What was measured under the mask.", spreadColumns, 0, 1, {}, false, true},
    {"reference", "Reference", "What was measured in the reference area.", spreadColumns, 0, 1, {}, false, true},
};

constexpr double mostSpread = 3;  // times, and its inverse

MatchSettings prepared(const Settings& settings) {
    MatchSettings s{};
    const colour::Xyz white = colour::xyzFromLinear({1, 1, 1});
    const colour::Xyz columns[3] = {colour::xyzFromLinear({1, 0, 0}), colour::xyzFromLinear({0, 1, 0}),
                                    colour::xyzFromLinear({0, 0, 1})};
    const colour::LinearRgb back[3] = {colour::linearFromXyz({white.x, 0, 0}), colour::linearFromXyz({0, white.y, 0}),
                                       colour::linearFromXyz({0, 0, white.z})};
    for (std::size_t i = 0; i < 3; ++i) {
        s.toXyz[i] = static_cast<float>(columns[i].x / white.x);
        s.toXyz[3 + i] = static_cast<float>(columns[i].y / white.y);
        s.toXyz[6 + i] = static_cast<float>(columns[i].z / white.z);
        s.toRgb[i] = static_cast<float>(back[i].r);
        s.toRgb[3 + i] = static_cast<float>(back[i].g);
        s.toRgb[6 + i] = static_cast<float>(back[i].b);
    }
    const ColourSpread own = measuredIn(settings, MatchTable::own).value_or(ColourSpread{});
    const ColourSpread reference = measuredIn(settings, MatchTable::reference).value_or(ColourSpread{});
    for (std::size_t i = 0; i < 3; ++i) {
        const double amount = settings.values[i == 0 ? tone : colourOf] / 100;
        const double ratio = own.spread[i] > 1e-3 ? reference.spread[i] / own.spread[i] : 1;
        const double spread = std::clamp(ratio, 1 / mostSpread, mostSpread);
        s.scale[i] = static_cast<float>(1 + amount * (spread - 1));
        s.add[i] = static_cast<float>(amount * (reference.mean[i] - spread * own.mean[i]));
    }
    return s;
}

class MatchOperation final : public LinearOperation {
public:
    explicit MatchOperation(const MatchSettings& settings) : settings_(settings) {}
    void row(kernel::LinearRow pixels, std::size_t count) const override {
        HWY_DYNAMIC_DISPATCH(MatchRow)(settings_, pixels, count);
    }

private:
    MatchSettings settings_;
};

const Table& tableOf(const Settings& settings, MatchTable which) {
    return settings.tables[static_cast<std::size_t>(which)];
}

bool isIdentity(const Settings& settings) {
    return tableOf(settings, MatchTable::own).empty() || tableOf(settings, MatchTable::reference).empty() ||
           (settings.values[tone] == 0 && settings.values[colourOf] == 0);
}

// At amounts that show, where there is none yet.
Settings matching(Settings settings, const std::array<double, 4>& place, const ColourSpread& own,
                  const ColourSpread& reference) {
    constexpr double firstPct = 70;
    if (settings.values[tone] == 0 && settings.values[colourOf] == 0) settings.values = {firstPct, firstPct};
    const auto rowOf = [](const ColourSpread& of) {
        Table row(of.mean.begin(), of.mean.end());
        row.insert(row.end(), of.spread.begin(), of.spread.end());
        return row;
    };
    settings.tables = {Table(place.begin(), place.end()), rowOf(own), rowOf(reference)};
    return settings;
}

}  // namespace

std::optional<ColourSpread> measuredIn(const Settings& settings, MatchTable which) {
    const Table& row = tableOf(settings, which);
    if (row.size() != 6) return std::nullopt;
    return ColourSpread{{row[0], row[1], row[2]}, {row[3], row[4], row[5]}};
}

const AdjustmentKind matchArea = {
    .id = "match-area",
    .label = "Match to area",
    .category = "colour cast",
    .tip = "Moves tone and colour to those of another area of the photo.",
    .params = params,
    .prepare = [](const Settings& settings) { return only<MatchOperation>(prepared(settings)); },
    .tables = tables,
    .isIdentity = isIdentity,
    .matching = matching,
};

}  // namespace dimhem::adjust
#endif
