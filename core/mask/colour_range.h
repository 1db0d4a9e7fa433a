// Colour range: what has a colour near the picked ones, or a hue within a band.
//
// Picks: distance d = sqrt((0.6 dL*)^2 + da*^2 + db*^2) in CIELAB to the nearest pick; tone counts for less, since the
// same thing is lighter here and darker there. Coverage 1 up to the tolerance, raised cosine to none over the softness.
// Hue band: CSS Color 4 HSL hue of the encoded colour, weighted by four points (range.h), times a weight of its chroma
// (max - min channel, %): raised cosine from half the minimum chroma to all of it.
//
// Options: only what is connected with the places picked (8 neighbours, judged at a level of at most 1600 pixels'
// length, coverage above 10 %); only within a radius of them (fading over its last fifth).
#pragma once

#include <vector>

#include "core/base/param.h"
#include "core/colour/types.h"
#include "core/mask/range.h"
#include "core/mask/shape.h"

namespace dimhem::mask {

inline constexpr std::size_t mostPicks = 64;  // that a document can hold

struct ColourPick {
    base::Point place;
    colour::Lab colour;
};
inline void addTo(base::KeyBuilder& key, const ColourPick& pick) {
    addTo(key, pick.place);
    addTo(key, pick.colour);
}

struct ColourRangeValues {
    bool byHue = false;  // a hue band instead of picks
    std::vector<ColourPick> picks;
    double tolerance = 12, softness = 12;  // CIELAB units
    Range hues{{-40, -20, 20, 40}};        // degrees
    double minChromaPct = 8;
    bool connected = false;
    double radiusPx = 0;  // 0: no limit
    Seen seen = Seen::photo;
    double smoothPx = 1;
};

class ColourRange final : public Shape {
public:
    explicit ColourRange(ColourRangeValues values) : values_(std::move(values)) {}
    static const ShapeKind kindInfo;

    const ColourRangeValues& values() const { return values_; }

    const ShapeKind& kind() const override { return kindInfo; }
    Staged<Coverage> over(const Area& area, Context& context) const override;
    void toJson(nlohmann::json& json) const override;
    bool looksAtArriving() const override { return values_.seen == Seen::arriving; }

private:
    Staged<image::Plane<float>> matching(const Area& area, Context& context) const;
    Staged<Coverage> connectedPlaces(Context& context) const;

    ColourRangeValues values_;
};

// The settings that are numbers.
using ColourRangeParam = base::MemberParam<ColourRangeValues>;
std::span<const ColourRangeParam> colourRangeParams();

}  // namespace dimhem::mask
