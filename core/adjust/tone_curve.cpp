#include "core/adjust/tone_curve.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/adjust/tone_curve.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include <algorithm>

#include "core/adjust/curve-inl.h"
#include "core/adjust/pixel-inl.h"
#include "core/kernel/row_transform-inl.h"

HWY_BEFORE_NAMESPACE();
namespace dimhem::adjust {
namespace HWY_NAMESPACE {

void LuminanceCurveRow(const CurveTable& curve, kernel::LinearRow pixels, std::size_t count) {
    const hn::ScalableTag<float> d;
    kernel::HWY_NAMESPACE::TransformRgb(
        d, pixels.red, pixels.green, pixels.blue, count, [&](std::size_t, auto& r, auto& g, auto& b) HWY_ATTR {
            ToneKeepingColour(
                d, [&](auto y) HWY_ATTR { return DecodeSrgb(d, CurveAt(d, EncodeSrgb(d, y), curve)); }, r, g, b);
        });
}

// The same by a curve of linear light, which is good for 0..1.
void LuminanceOfLightRow(const CurveTable& curve, const CurveTable& ofLight, kernel::LinearRow pixels,
                         std::size_t count) {
    const hn::ScalableTag<float> d;
    const auto zero = hn::Zero(d), one = hn::Set(d, 1.0f);
    const auto tone = [&](auto y) HWY_ATTR {
        const auto out = CurveAt(d, y, ofLight);
        const auto beyond = hn::Or(hn::Lt(y, zero), hn::Gt(y, one));
        if (HWY_LIKELY(hn::AllFalse(d, beyond))) return out;
        return hn::IfThenElse(beyond, DecodeSrgb(d, CurveAt(d, EncodeSrgb(d, y), curve)), out);
    };
    kernel::HWY_NAMESPACE::TransformRgb(d, pixels.red, pixels.green, pixels.blue, count,
                                        [&](std::size_t, auto& r, auto& g, auto& b)
                                            HWY_ATTR { ToneKeepingColour(d, tone, r, g, b); });
}

void CurveRow(const CurveTable& curve, float* row, std::size_t count) {
    const hn::ScalableTag<float> d;
    kernel::HWY_NAMESPACE::TransformRow(d, row, count,
                                        [&](std::size_t, auto v) HWY_ATTR { return CurveAt(d, v, curve); });
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::adjust
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace dimhem::adjust {

HWY_EXPORT(LuminanceCurveRow);
HWY_EXPORT(LuminanceOfLightRow);
HWY_EXPORT(CurveRow);

namespace {

enum Curve { luminance, channels, red, green, blue, curves };

constexpr base::ParamSpec columns[] = {
    {.id = "in",
     .label = "Tone in",
     .unit = "%",
     .max = 100,
     .step = 0.5,
     .decimals = 1,
     .tip = "The tone that comes in."},
    {.id = "out",
     .label = "Tone out",
     .unit = "%",
     .max = 100,
     .step = 0.5,
     .decimals = 1,
     .tip = "The tone it becomes."},
};
constexpr double identity[] = {0, 0, 100, 100};
constexpr std::size_t mostPoints = CurveTable::most;

constexpr TableSpec tables[] = {
    {"luminance", "Luminance", "Lighter or darker; the colour stays.", columns, 2, mostPoints, identity},
    {"channels", "All three", "Red, green and blue alike: steeper is also denser.", columns, 2, mostPoints, identity},
    {"red", "Red", "The red channel alone.", columns, 2, mostPoints, identity},
    {"green", "Green", "The green channel alone.", columns, 2, mostPoints, identity},
    {"blue", "Blue", "The blue channel alone.", columns, 2, mostPoints, identity},
};

const char* invalidReason(const Settings& settings) {
    for (const Table& points : settings.tables) {
        for (std::size_t i = 2; i < points.size(); i += 2) {
            if (!(points[i] > points[i - 2])) return "curves with points from left to right";
        }
    }
    return nullptr;
}

bool isIdentity(const Table& points) {
    return std::equal(points.begin(), points.end(), std::begin(identity), std::end(identity));
}

CurveTable curveOf(const Table& points) {
    return tableOf(splineOf(points));
}

// What a curve that rises throughout does is undone by the one with in and out changed over; of another each point lies
// as far on the other side of what changes nothing.
Settings opposite(Settings settings) {
    for (Table& points : settings.tables) {
        bool rises = points[0] == points[1] && points[points.size() - 2] == points.back();  // from corner to corner
        for (std::size_t i = 2; i < points.size(); i += 2) rises = rises && points[i + 1] > points[i - 1];
        for (std::size_t i = 0; i < points.size(); i += 2) {
            if (rises) {
                std::swap(points[i], points[i + 1]);
            } else {
                points[i + 1] = std::clamp(2 * points[i] - points[i + 1], 0.0, 100.0);
            }
        }
    }
    return settings;
}

class LuminanceCurve final : public LinearOperation {
public:
    explicit LuminanceCurve(const Table& points) : curve_(curveOf(points)) {
        const MonotoneSpline spline = splineOf(points);
        std::vector<double> knots;
        for (const CurvePiece& piece : spline.pieces()) knots.push_back(double{piece.from});
        ofLight_ = fittedTableOfLight([&](double v) { return spline.at(v); }, knots);
    }
    void row(kernel::LinearRow pixels, std::size_t count) const override {
        if (ofLight_) {
            HWY_DYNAMIC_DISPATCH(LuminanceOfLightRow)(curve_, *ofLight_, pixels, count);
        } else {
            HWY_DYNAMIC_DISPATCH(LuminanceCurveRow)(curve_, pixels, count);
        }
    }

private:
    CurveTable curve_;
    std::optional<CurveTable> ofLight_;  // none where it takes too many pieces
};

// One after the other on each channel: that of all three, then its own.
class ChannelCurves final : public EncodedOperation {
public:
    explicit ChannelCurves(const std::vector<Table>& tables) {
        for (std::size_t c = 0; c < 3; ++c) {
            for (const std::size_t i : {std::size_t{channels}, red + c}) {
                if (!isIdentity(tables[i])) curves_[c].push_back(curveOf(tables[i]));
            }
        }
    }
    void row(kernel::EncodedRow pixels, std::size_t count) const override {
        float* rows[] = {pixels.red, pixels.green, pixels.blue};
        for (std::size_t c = 0; c < 3; ++c) {
            for (const CurveTable& curve : curves_[c]) HWY_DYNAMIC_DISPATCH(CurveRow)(curve, rows[c], count);
        }
    }

private:
    std::vector<CurveTable> curves_[3];
};

Operations prepare(const Settings& settings) {
    Operations out;
    const std::vector<Table>& tables = settings.tables;
    if (!isIdentity(tables[luminance])) out.emplace_back(std::make_unique<const LuminanceCurve>(tables[luminance]));
    if (!std::all_of(tables.begin() + channels, tables.end(), isIdentity))
        out.emplace_back(std::make_unique<const ChannelCurves>(tables));
    return out;
}

// By where the curve of lightness, else the one of all channels, lies on the whole.
std::string_view sense(const Settings& settings) {
    for (const Table* points : {&settings.tables[luminance], &settings.tables[channels]}) {
        double above = 0;
        for (std::size_t i = 0; i < points->size(); i += 2) above += (*points)[i + 1] - (*points)[i];
        if (above != 0) return above > 0 ? "lighter" : "darker";
    }
    return "curve";
}

}  // namespace

MonotoneSpline splineOf(const Table& points) {
    std::vector<base::Point> p;
    for (std::size_t i = 0; i + 1 < points.size(); i += 2) p.push_back({points[i] / 100, points[i + 1] / 100});
    return MonotoneSpline(p);
}

const AdjustmentKind toneCurve = {
    .id = "tone-curve",
    .label = "Tone curve",
    .category = "tone",
    .tip = "The tone scale bent through points.",
    .prepare = prepare,
    .tables = tables,
    .invalidReason = invalidReason,
    .sample =
        [] {
            Settings settings = neutralSettings(toneCurve);
            settings.tables[channels] = {0, 0, 30, 12, 70, 88, 100, 100};
            return settings;
        },
    .sense = sense,
    .opposite = opposite,
};

}  // namespace dimhem::adjust
#endif
