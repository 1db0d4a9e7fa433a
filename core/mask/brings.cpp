#include "core/mask/brings.h"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

#include "core/json/fields.h"
#include "core/json/schema.h"

namespace dimhem::mask {

namespace {

using nlohmann::json;

constexpr BringInfo kinds[] = {
    {BringKind::nothing, "nothing", "Mask only", "Strokes only say where the correction acts."},
    {BringKind::colour, "colour", "Colour", "Strokes lay down a colour picked from the photo."},
    {BringKind::clone, "clone", "Clone", "Strokes lay down what is at another place of the photo."},
    {BringKind::heal, "heal", "Heal",
     "Strokes lay down the texture of another place with the tone of their surroundings."},
    {BringKind::line, "line", "Line", "Strokes are filled across from both of their sides: for folds and wires."},
};

base::Result<colour::EncodedRgb> readColour(const json& object) {
    const auto found = object.find("colour");
    const auto inRange = [](const json& v) { return v.is_number() && v.get<double>() >= 0 && v.get<double>() <= 1; };
    if (found == object.end() || !found->is_array() || found->size() != 3 ||
        !std::all_of(found->begin(), found->end(), inRange))
        return fields::wrongField("colour", "three numbers from 0 to 1");
    return colour::EncodedRgb{(*found)[0], (*found)[1], (*found)[2]};
}

base::Result<Brings> readOffset(const json& object, Brings brings) {
    if (const auto found = object.find("offset"); found != object.end()) {
        const auto offset = fields::readPoint(*found, "offset");
        if (!offset) return tl::unexpected(offset.error());
        brings.offset = *offset;
    } else if (brings.kind == BringKind::clone) {
        return fields::wrongField("offset", "given: from the stroke to what it brings");
    }
    const double none = 0;
    const auto rank = fields::readNumber(object, "rank", &none);
    if (!rank) return tl::unexpected(rank.error());
    if (!(*rank >= 0 && *rank <= mostRank) || *rank != std::floor(*rank))
        return fields::wrongField("rank", "a whole number from 0 to " + std::to_string(mostRank));
    brings.rank = static_cast<int>(*rank);
    const auto turn = fields::readParam(object, turnSpec);
    if (!turn) return tl::unexpected(turn.error());
    const auto scale = fields::readParam(object, scaleSpec);
    if (!scale) return tl::unexpected(scale.error());
    brings.turnDeg = *turn;
    brings.scalePct = *scale;
    return brings;
}

}  // namespace

const base::ParamSpec turnSpec = {.id = "turn",
                                  .label = "Turn",
                                  .unit = "°",
                                  .min = -180,
                                  .max = 180,
                                  .tip = "How far what is brought is turned, about where the stroke begins."},
                      scaleSpec = {.id = "scale",
                                   .label = "Scale",
                                   .unit = "%",
                                   .min = 25,
                                   .max = 400,
                                   .neutral = 100,
                                   .tip = "How large what is brought comes out.",
                                   .scale = base::Scale::logarithmic};

bool operator==(const Brings& a, const Brings& b) {
    const auto same = [](const colour::EncodedRgb& x, const colour::EncodedRgb& y) {
        return x.r == y.r && x.g == y.g && x.b == y.b;
    };
    return a.kind == b.kind && same(a.colour, b.colour) && a.offset == b.offset && a.rank == b.rank &&
           a.turnDeg == b.turnDeg && a.scalePct == b.scalePct;
}

std::span<const BringInfo> bringKinds() {
    return kinds;
}

const BringInfo& infoOf(BringKind kind) {
    return *std::ranges::find(kinds, kind, &BringInfo::kind);
}

void add(base::KeyBuilder& key, const Brings& brings) {
    key.add(brings.kind).add(brings.colour.r).add(brings.colour.g).add(brings.colour.b).add(brings.rank);
    key.add(brings.turnDeg).add(brings.scalePct).add(brings.offset.has_value());
    if (brings.offset) key.add(brings.offset->x).add(brings.offset->y);
}

json toJson(const Brings& brings) {
    json out{{"kind", infoOf(brings.kind).id}};
    if (brings.kind == BringKind::colour) out["colour"] = {brings.colour.r, brings.colour.g, brings.colour.b};
    if (brings.offset) out["offset"] = {brings.offset->x, brings.offset->y};
    if (brings.kind == BringKind::heal && !brings.offset) out["rank"] = brings.rank;
    if (brings.kind == BringKind::clone) {
        out["turn"] = brings.turnDeg;
        out["scale"] = brings.scalePct;
    }
    return out;
}

nlohmann::ordered_json bringsSchema() {
    using schema::Schema;
    const Schema rank{{"type", "integer"}, {"minimum", 0}, {"maximum", mostRank}, {"default", 0}};
    Schema ids = Schema::array();
    for (const BringInfo& info : kinds) ids.push_back(info.id);
    return schema::object({{"kind", {{"enum", std::move(ids)}}},
                           {"colour", schema::listOf(schema::numberOf(0, 1), 3, 3)},
                           {"offset", schema::place()},
                           {"rank", rank},
                           {"turn", schema::of(turnSpec)},
                           {"scale", schema::of(scaleSpec)}},
                          {"kind"});
}

base::Result<Brings> bringsFromJson(const json& value) {
    if (!value.is_object()) return fields::wrongField("brings", "an object");
    const auto id = fields::readText(value, "kind", "");
    if (!id) return tl::unexpected(id.error());
    const auto kind = std::ranges::find(kinds, *id, &BringInfo::id);
    if (kind == std::end(kinds)) {
        std::string names;
        for (const BringInfo& info : kinds) names += (names.empty() ? "\"" : ", \"") + std::string(info.id) + "\"";
        return fields::wrongField("kind", "one of " + names);
    }
    Brings brings;
    brings.kind = kind->kind;
    if (brings.kind == BringKind::colour) {
        const auto colour = readColour(value);
        if (!colour) return tl::unexpected(colour.error());
        brings.colour = *colour;
    }
    if (brings.kind == BringKind::clone || brings.kind == BringKind::heal) return readOffset(value, brings);
    return brings;
}

}  // namespace dimhem::mask
