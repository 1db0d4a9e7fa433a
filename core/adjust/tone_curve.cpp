#include "core/adjust/tone_curve.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/adjust/tone_curve.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include <algorithm>

#include "core/adjust/pixel-inl.h"
#include "core/kernel/row_transform-inl.h"

HWY_BEFORE_NAMESPACE();
namespace dimhem::adjust {
namespace HWY_NAMESPACE {

template <class D, class V = hn::Vec<D>>
HWY_INLINE V CurveAt(D d, V x, std::span<const CurvePiece> pieces) {
    V from = hn::Set(d, pieces[0].from), c0 = hn::Set(d, pieces[0].c0), c1 = hn::Set(d, pieces[0].c1),
      c2 = hn::Set(d, pieces[0].c2), c3 = hn::Set(d, pieces[0].c3);
    for (const CurvePiece& piece : pieces.subspan(1)) {
        const auto here = hn::Ge(x, hn::Set(d, piece.from));
        from = hn::IfThenElse(here, hn::Set(d, piece.from), from);
        c0 = hn::IfThenElse(here, hn::Set(d, piece.c0), c0);
        c1 = hn::IfThenElse(here, hn::Set(d, piece.c1), c1);
        c2 = hn::IfThenElse(here, hn::Set(d, piece.c2), c2);
        c3 = hn::IfThenElse(here, hn::Set(d, piece.c3), c3);
    }
    const V u = hn::Sub(x, from);
    return hn::MulAdd(u, hn::MulAdd(u, hn::MulAdd(u, c3, c2), c1), c0);
}

void LuminanceCurveRow(std::span<const CurvePiece> curve, kernel::RgbRow pixels, std::size_t count) {
    const hn::ScalableTag<float> d;
    kernel::HWY_NAMESPACE::TransformRgb(d, pixels.red, pixels.green, pixels.blue, count,
                                        [&](std::size_t, auto& r, auto& g, auto& b) HWY_ATTR {
                                            ToneKeepingColour(
                                                d, DecodeSrgb(d, r), DecodeSrgb(d, g), DecodeSrgb(d, b),
                                                [&](auto v) HWY_ATTR { return CurveAt(d, v, curve); }, r, g, b);
                                        });
}

void CurveRow(std::span<const CurvePiece> curve, float* row, std::size_t count) {
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
HWY_EXPORT(CurveRow);

namespace {

enum Curve { luminance, channels, red, green, blue, curves };

constexpr base::ParamSpec columns[] = {
    {"in", "Tone in", "%", 0, 100, 0, 0.5, 1, "The tone that comes in."},
    {"out", "Tone out", "%", 0, 100, 0, 0.5, 1, "The tone it becomes."},
};
constexpr double identity[] = {0, 0, 100, 100};
constexpr std::size_t mostPoints = 16;

constexpr TableSpec tables[] = {
    {"luminance", "Luminance", "Lighter or darker; the colour stays.", columns, 2, mostPoints, identity},
    {"channels", "All three", "Red, green and blue alike: steeper is also denser.", columns, 2, mostPoints, identity},
    {"red", "Red", "The red channel alone.", columns, 2, mostPoints, identity},
    {"green", "Green", "The green channel alone.", columns, 2, mostPoints, identity},
    {"blue", "Blue", "The blue channel alone.", columns, 2, mostPoints, identity},
};

const char* wanted(const Settings& settings) {
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

class CurveOperation final : public RowOperation {
public:
    explicit CurveOperation(const Settings& settings) {
        for (std::size_t i = 0; i < curves; ++i) {
            if (isIdentity(settings.tables[i])) continue;
            const MonotoneSpline spline = splineOf(settings.tables[i]);
            pieces_[i].assign(spline.pieces().begin(), spline.pieces().end());
        }
    }

    void row(kernel::RgbRow pixels, std::size_t count) const override {
        if (!pieces_[luminance].empty()) HWY_DYNAMIC_DISPATCH(LuminanceCurveRow)(pieces_[luminance], pixels, count);
        float* rows[] = {pixels.red, pixels.green, pixels.blue};
        for (std::size_t c = 0; c < 3; ++c) {
            if (!pieces_[channels].empty()) HWY_DYNAMIC_DISPATCH(CurveRow)(pieces_[channels], rows[c], count);
            if (!pieces_[red + c].empty()) HWY_DYNAMIC_DISPATCH(CurveRow)(pieces_[red + c], rows[c], count);
        }
    }

private:
    std::vector<CurvePiece> pieces_[curves];  // empty: the identity
};

}  // namespace

MonotoneSpline splineOf(const Table& points) {
    std::vector<base::Point> p;
    for (std::size_t i = 0; i + 1 < points.size(); i += 2) p.push_back({points[i] / 100, points[i + 1] / 100});
    return MonotoneSpline(p);
}

const AdjustmentKind toneCurve = {"tone-curve",
                                  "Tone curve",
                                  "tone",
                                  "The tone scale bent through points.",
                                  {},
                                  [](const Settings& settings) -> std::unique_ptr<RowOperation> {
                                      return std::make_unique<CurveOperation>(settings);
                                  },
                                  tables,
                                  wanted};

}  // namespace dimhem::adjust
#endif
