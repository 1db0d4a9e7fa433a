// Luminosity range: what has a tone between four points of L* (CIE 15, 0..100), see range.h.
//
// The tone is that of the photo, or of the picture as it arrives at the correction. It is smoothed first (Gaussian, on
// L*), so that noise does not speckle the mask.
#pragma once

#include "core/base/param.h"
#include "core/mask/range.h"
#include "core/mask/shape.h"

namespace dimhem::mask {

struct LuminosityRangeValues {
    Range tones{{20, 40, 100, 100}};
    Seen seen = Seen::photo;
    double smoothPx = 2;  // sigma, pixels of the photo
};

class LuminosityRange final : public Shape {
public:
    explicit LuminosityRange(const LuminosityRangeValues& values) : values_(values) {}
    static const ShapeKind kindInfo;

    const LuminosityRangeValues& values() const { return values_; }

    const ShapeKind& kind() const override { return kindInfo; }
    Staged<Coverage> over(const Area& area, Context& context) const override;
    void toJson(nlohmann::json& json) const override;
    bool looksAtArriving() const override { return values_.seen == Seen::arriving; }

private:
    LuminosityRangeValues values_;
};

extern const base::ParamSpec rangeSmoothSpec;

// Names in documents: "photo", "arriving".
std::string_view idOf(Seen seen);
base::Result<Seen> readSeen(const nlohmann::json& object);

}  // namespace dimhem::mask
