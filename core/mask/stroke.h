// One stroke of the brush, kept as what the hand did: places, pressure, and the brush it was done with.
//
// Dabs are laid along the way at even spacing, in coordinates of the full-size photo, so that every level shows the
// same stroke. A stroke is immutable; painting on makes a longer one.
#pragma once

#include <cstdint>
#include <memory>
#include <nlohmann/json_fwd.hpp>
#include <span>

#include "core/base/content_key.h"
#include "core/base/error.h"
#include "core/base/growing_list.h"
#include "core/base/param.h"
#include "core/base/rect.h"
#include "core/mask/brings.h"

namespace dimhem::mask {

struct BrushSettings {
    double sizePx = 180;         // diameter, in pixels of the photo
    double softnessPct = 50;     // part of the radius over which coverage falls to none
    double strengthPct = 100;    // the most one stroke lays down
    double buildPct = 100;       // how far towards that one dab goes
    double spacingPct = 5;       // of the diameter, between dabs
    double pressureSizePct = 0;  // how much of the size follows the pressure
    double pressureStrengthPct = 0;
    double tolerancePct = 75;  // of holding edges: how unlike the colours under the centre may be
    bool removes = false;
    bool holds = false;  // does not go past the edges of what its centre is on
    Brings brings;
    friend bool operator==(const BrushSettings&, const BrushSettings&) = default;
};

// The settings that are numbers, in the order of the members above.
using BrushParam = base::MemberParam<BrushSettings>;
std::span<const BrushParam> brushParams();

struct StrokePoint {
    base::Point at;
    double pressure = 1;  // 0..1
};

class Stroke;
using StrokePtr = std::shared_ptr<const Stroke>;

class Stroke {
public:
    struct Dab {
        float x, y, radius, ceiling;
    };

    Stroke(const BrushSettings& brush, const StrokePoint& first);
    StrokePtr extended(const StrokePoint& next) const;
    static StrokePtr through(const BrushSettings& brush, std::span<const StrokePoint> points);  // at least one
    // The pen was lifted: nothing more will come. Strokes read from a document are finished.
    StrokePtr finished() const;
    bool isFinished() const { return finished_; }
    // As long as a document can hold: to go on, begin another where this one ends.
    bool isFull() const;

    std::size_t weight() const;
    // The most that a point further on can add.
    static std::size_t mostGrowth();

    const BrushSettings& brush() const { return brush_; }
    const base::GrowingList<StrokePoint>& points() const { return points_; }
    const base::GrowingList<Dab>& dabs() const { return dabs_; }

    // Equal for a stroke and all it grew from.
    const base::ContentKey& seed() const { return seed_; }
    // Of the first n dabs, brush included; n from 0.
    const base::ContentKey& chain(std::size_t n) const { return chain_[n]; }

    // How many dabs, counted from the first, end with the last one that touches the rectangle of the photo.
    std::size_t dabsUpToLastTouching(const base::Rect& photoRect) const;
    static bool touches(const Dab& dab, const base::Rect& photoRect);
    const base::Rect& bounds() const { return bounds_; }  // of its dabs, in pixels of the photo

    static base::Result<StrokePtr> fromJson(const nlohmann::json& json);
    nlohmann::json toJson() const;
    static nlohmann::ordered_json schema();  // of such a stroke in a document

private:
    void append(const StrokePoint& next);
    void layDab(base::Point at, double pressure);
    double spacingPx(double pressure) const;

    BrushSettings brush_;
    base::GrowingList<StrokePoint> points_;
    base::GrowingList<Dab> dabs_;
    base::GrowingList<base::ContentKey> chain_;
    base::ContentKey seed_;
    // In pixels of the photo.
    base::GrowingList<base::Rect> blockBounds_;  // of each full block of dabs, so that most need not be looked at
    base::Rect tailBounds_;                      // of those after the last full block
    base::Rect bounds_;                          // of all
    bool finished_ = false;
    double sinceLastDab_ = 0;  // way gone since the last dab, px
};

}  // namespace dimhem::mask
