#include "core/mask/refine.h"

#include <algorithm>
#include <cmath>

#include "core/kernel/bilinear.h"
#include "core/kernel/components.h"
#include "core/kernel/gaussian.h"
#include "core/kernel/signed_distance.h"

namespace dimhem::mask {

namespace {

constexpr RefineParam params[] = {
    {{.id = "feather",
      .label = "Feather",
      .unit = "px",
      .max = 1000,
      .tip = "The distance over which an edge goes from 90 % to 10 %."},
     &Refine::featherPx},
    {{.id = "expand",
      .label = "Expand",
      .unit = "px",
      .min = -200,
      .max = 200,
      .step = 0.5,
      .decimals = 1,
      .tip = "Moves the edge outward, or inward below 0."},
     &Refine::expandPx},
    {{.id = "smooth",
      .label = "Round off",
      .unit = "px",
      .max = 100,
      .tip = "Evens out wobbles of the edge up to about this wide."},
     &Refine::smoothPx},
    {{.id = "edge-snap",
      .label = "Edge snap",
      .unit = "px",
      .max = 30,
      .tip = "Pulls the edge to the photo's own edge within this distance."},
     &Refine::edgeSnapPx},
    {{.id = "edge-snap-strength",
      .label = "Snap amount",
      .unit = "%",
      .max = 100,
      .neutral = 100,
      .tip = "How much of the way to the photo's edge it goes."},
     &Refine::edgeSnapPct},
    {{.id = "fill-gaps", .label = "Fill gaps", .unit = "px", .max = 200, .tip = "Fills missed spots up to this wide."},
     &Refine::fillGapsPx},
    {{.id = "drop-specks",
      .label = "Remove specks",
      .unit = "px",
      .max = 200,
      .tip = "Removes stray spots up to this wide."},
     &Refine::dropSpecksPx},
    {{.id = "floor", .label = "Floor", .unit = "%", .max = 100, .tip = "Coverage up to this becomes none."},
     &Refine::floorPct},
    {{.id = "ceiling",
      .label = "Ceiling",
      .unit = "%",
      .max = 100,
      .neutral = 100,
      .tip = "Coverage from this on becomes full."},
     &Refine::ceilingPct},
};

double smoothSigma(const Refine& refine, const BlurPlan& plan) {
    return refine.smoothPx / 2 / plan.area.scale();
}

// Pieces of `wanted(value)` no longer than `longestPx` of the plane become `value`. Those that reach the plane's border
// may be longer than can be seen, and stay.
template <class Wanted>
void replacePieces(image::Plane<float>& plane, double longestPx, int neighbours, float value, Wanted wanted) {
    const base::Size size = plane.size();
    image::Plane<std::uint8_t> ones(size);
    for (int y = 0; y < size.height; ++y)
        std::transform(plane.row(y).begin(), plane.row(y).end(), ones.row(y).begin(), wanted);
    image::Plane<std::int32_t> labels(size);
    const auto pieces = kernel::components(ones, neighbours, labels);
    const auto isSmall = [&](const kernel::Component& piece) {
        const base::Rect& b = piece.bounds;
        const bool whole = b.x0 > 0 && b.y0 > 0 && b.x1 < size.width && b.y1 < size.height;
        return whole && std::max(b.width(), b.height()) <= longestPx;
    };
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const std::int32_t label = labels.row(y)[static_cast<std::size_t>(x)];
            if (label && isSmall(pieces[static_cast<std::size_t>(label - 1)]))
                plane.row(y)[static_cast<std::size_t>(x)] = value;
        }
    }
}

// The highest or lowest value within two pixels of a place.
float extremeNear(const image::Plane<float>& plane, double x, double y, bool highest) {
    const base::Size size = plane.size();
    const int cx = static_cast<int>(std::lround(x)), cy = static_cast<int>(std::lround(y));
    float extreme = highest ? 0.0f : 1.0f;
    for (int j = std::max(0, cy - 2); j <= std::min(size.height - 1, cy + 2); ++j) {
        for (int i = std::max(0, cx - 2); i <= std::min(size.width - 1, cx + 2); ++i) {
            const float v = plane.row(j)[static_cast<std::size_t>(i)];
            extreme = highest ? std::max(extreme, v) : std::min(extreme, v);
        }
    }
    return extreme;
}

// Step 2. Distances far from the edge are held, so that a smoothed one depends on its surroundings alone.
void moveEdge(image::Plane<float>& plane, double expand, double sigma) {
    const kernel::DistanceField field = kernel::signedDistance(plane);
    if (!field.hasContour) return;
    const base::Size size = plane.size();
    const auto far = static_cast<float>(std::abs(expand) + 3 * sigma + 3);
    image::Plane<float> wanted(size);
    for (int y = 0; y < size.height; ++y) {
        std::transform(field.distance.row(y).begin(), field.distance.row(y).end(), wanted.row(y).begin(),
                       [far](float d) { return std::clamp(d, -far, far); });
    }
    kernel::gaussianBlur(wanted, sigma);
    image::Plane<float> out(size);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const auto c = static_cast<std::size_t>(x);
            const float here = field.distance.row(y)[c];
            const float target = here + wanted.row(y)[c] - std::clamp(here, -far, far) - static_cast<float>(expand);
            const float nx = field.towardsX.row(y)[c], ny = field.towardsY.row(y)[c], move = target - here;
            auto value =
                static_cast<float>(kernel::bilinear(plane, x + 0.5 + double{nx * move}, y + 0.5 + double{ny * move}));
            // At corners that way runs out of the mask again on the other side. Well past the new edge, the fullest
            // (or, where it moves inward, the emptiest) place beside the old one is a bound.
            constexpr float wellPast = 1.5f;
            const double edgeX = x - double{nx * here}, edgeY = y - double{ny * here};
            if (expand > 0) value = std::max(value, plane.row(y)[c]);
            if (expand < 0) value = std::min(value, plane.row(y)[c]);
            if (expand > 0 && target < -wellPast) value = std::max(value, extremeNear(plane, edgeX, edgeY, true));
            if (expand < 0 && target > wellPast) value = std::min(value, extremeNear(plane, edgeX, edgeY, false));
            out.row(y)[c] = value;
        }
    }
    plane = std::move(out);
}

void stretch(image::Plane<float>& plane, double floorPct, double ceilingPct) {
    const auto low = static_cast<float>(floorPct / 100),
               high = static_cast<float>(std::max(ceilingPct / 100, floorPct / 100 + 0.001));
    for (int y = 0; y < plane.size().height; ++y) {
        for (float& v : plane.row(y)) v = std::clamp((v - low) / (high - low), 0.0f, 1.0f);
    }
}

}  // namespace

std::span<const RefineParam> refineParams() {
    return params;
}

void addTo(base::KeyBuilder& key, const Refine& refine) {
    for (const RefineParam& param : refineParams()) key.add(refine.*param.value);
}

void setRefine(Refine& refine, double Refine::*which, double value) {
    refine.*which = value;
    if (which == &Refine::floorPct) refine.ceilingPct = std::max(refine.ceilingPct, value);
    if (which == &Refine::ceilingPct) refine.floorPct = std::min(refine.floorPct, value);
}

bool isNeutral(const Refine& refine) {
    Refine other = refine;
    if (other.edgeSnapPx == 0) other.edgeSnapPct = Refine{}.edgeSnapPct;
    return other == Refine{};
}

Refine beforeSnap(const Refine& refine) {
    Refine out;
    out.expandPx = refine.expandPx;
    out.smoothPx = refine.smoothPx;
    out.fillGapsPx = refine.fillGapsPx;
    out.dropSpecksPx = refine.dropSpecksPx;
    return out;
}

Refine afterSnap(const Refine& refine) {
    Refine out;
    out.featherPx = refine.featherPx;
    out.floorPct = refine.floorPct;
    out.ceilingPct = refine.ceilingPct;
    return out;
}

BlurPlan planRefine(const Refine& refine, const Area& area) {
    const double edge = refine.expandPx != 0 || refine.smoothPx > 0
                            ? std::abs(refine.expandPx) + 1.5 * refine.smoothPx + 6 * area.scale()
                            : 0;
    const double pieces = std::max(refine.fillGapsPx, refine.dropSpecksPx);
    const double margin = edge + (pieces > 0 ? pieces + 2 * area.scale() : 0);
    return planBlur(area, refine.featherPx * kernel::sigmaPerEdgeDistance, margin);
}

CoveragePtr refined(const Refine& refine, image::Plane<float> plane, const BlurPlan& plan, const Area& area) {
    const double scale = plan.area.scale();
    if (refine.fillGapsPx > 0)
        replacePieces(plane, refine.fillGapsPx / scale, 4, 1.0f, [](float v) { return v < 0.95f; });
    if (refine.dropSpecksPx > 0)
        replacePieces(plane, refine.dropSpecksPx / scale, 8, 0.0f, [](float v) { return v > 0.05f; });
    if (refine.expandPx != 0 || refine.smoothPx > 0)
        moveEdge(plane, refine.expandPx / scale, smoothSigma(refine, plan));
    kernel::gaussianBlur(plane, plan.sigma);
    if (refine.floorPct > 0 || refine.ceilingPct < 100) stretch(plane, refine.floorPct, refine.ceilingPct);
    return readBack(plane, plan, area);
}

}  // namespace dimhem::mask
