// What a stroke of the brush brings beside its coverage: a colour, or what is elsewhere in the photo. An adjustment of
// the correction (adjust/paint.h) lays it down.
#pragma once

#include <nlohmann/json_fwd.hpp>
#include <optional>
#include <span>
#include <string_view>

#include "core/base/content_key.h"
#include "core/base/error.h"
#include "core/base/param.h"
#include "core/base/rect.h"
#include "core/colour/types.h"

namespace dimhem::mask {

enum class BringKind {
    nothing,
    colour,  // one colour
    clone,   // the picture at an offset, turned and scaled about the stroke's first place if asked
    heal,    // the texture at an offset, with the tone and colour of what is around the stroke
    line,    // what lies on both sides of the stroke, carried across it
};

struct Brings {
    BringKind kind = BringKind::nothing;
    colour::EncodedRgb colour;  // colour: 0..1
    // clone, heal: from the stroke to what it brings, pixels of the photo; none, of heal only: the place is found, the
    // `rank`-th best (repair/found_source.h)
    std::optional<base::Point> offset;
    int rank = 0;
    double turnDeg = 0, scalePct = 100;  // clone

    friend bool operator==(const Brings& a, const Brings& b);
};

struct BringInfo {
    BringKind kind;
    std::string_view id;     // as written in documents
    std::string_view label;  // as shown
    std::string_view tip;
};
std::span<const BringInfo> bringKinds();
const BringInfo& infoOf(BringKind kind);

inline constexpr int mostRank = 63;
extern const base::ParamSpec turnSpec, scaleSpec;  // of clone

void add(base::KeyBuilder& key, const Brings& brings);
nlohmann::json toJson(const Brings& brings);
nlohmann::ordered_json bringsSchema();
base::Result<Brings> bringsFromJson(const nlohmann::json& json);

}  // namespace dimhem::mask
