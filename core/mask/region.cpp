#include "core/mask/region.h"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>
#include <numeric>

#include "core/edge/grown_region.h"
#include "core/image/tiles.h"
#include "core/json/fields.h"
#include "core/json/schema.h"
#include "core/mask/across_levels.h"
#include "core/mask/seen_guide.h"

namespace dimhem::mask {

struct FoundRegion {
    edge::GrownRegion region;
    int level = 0;
    std::size_t bytes() const { return region.sides.bytes() + region.unsure.size() * sizeof(edge::UnsurePlace); }
};

}  // namespace dimhem::mask

template <>
struct dimhem::stage::Packing<dimhem::mask::FoundRegion> {
    static void pack(const mask::FoundRegion& grown, Packer& to) {
        to.add(grown.level).addMany(std::span<const edge::UnsurePlace>(grown.region.unsure));
        Packing<edge::Sides>::pack(grown.region.sides, to);
    }
    static std::optional<mask::FoundRegion> unpack(Unpacker& from) {
        mask::FoundRegion grown;
        if (!from.read(grown.level) || !from.readMany(grown.region.unsure)) return std::nullopt;
        auto sides = Packing<edge::Sides>::unpack(from);
        if (!sides) return std::nullopt;
        grown.region.sides = std::move(*sides);
        return grown;
    }
};

namespace dimhem::mask {

namespace {

constexpr double mostPixels = 0.26e6;  // of the level it is found on
constexpr double biasPerPct = 0.08;

image::Plane<edge::Sure> sureFrom(const std::vector<RegionDrag>& drags, base::Size size, double scale) {
    image::Plane<edge::Sure> sure(size);
    for (int y = 0; y < size.height; ++y) std::fill_n(sure.row(y).data(), size.width, edge::Sure::no);
    const auto mark = [&](base::Point at, edge::Sure what) {
        const int cx = static_cast<int>(std::floor(at.x / scale)), cy = static_cast<int>(std::floor(at.y / scale));
        for (int y = cy - 1; y <= cy + 1; ++y) {
            for (int x = cx - 1; x <= cx + 1; ++x) {
                if (edge::isWithin(size, x, y)) sure.row(y)[x] = what;
            }
        }
    };
    for (const RegionDrag& drag : drags) {
        const edge::Sure what = drag.removes ? edge::Sure::outside : edge::Sure::inside;
        for (std::size_t i = 0; i < drag.points.size(); ++i) {
            const base::Point from = drag.points[i == 0 ? 0 : i - 1], way = drag.points[i] - from;
            const int steps = static_cast<int>(std::hypot(way.x, way.y) / scale) + 1;
            for (int s = 0; s <= steps; ++s) mark(from + way * (static_cast<double>(s) / steps), what);
        }
    }
    return sure;
}

constexpr auto grownFrom = [](const PhotoRead& photo, const std::vector<RegionDrag>& drags, double reachPct,
                              bool takesApart, int level) {
    const double noise = noiseAt(level, photo);
    const Area whole = image::wholeAt(photo.size(), level);
    const edge::Guide guide = edge::denoised(guideOver(whole, photo), noise);
    const image::Plane<edge::Sure> sure = sureFrom(drags, whole.rect.size(), 1 << level);
    const double bias = (reachPct - regionReachSpec.neutral) * biasPerPct;
    return FoundRegion{edge::grownRegion(guide, sure, {bias, noise, takesApart}), level};
};

// Beyond the photo its edge goes on.
constexpr auto sidesOver = [](const FoundRegion& grown, const base::Rect& rect) {
    const edge::Sides& sides = grown.region.sides;
    const base::Size size = sides.size();
    return image::planeOf(rect.size(), [&](int x, int y) {
        const int px = std::clamp(rect.x0 + x, 0, size.width - 1), py = std::clamp(rect.y0 + y, 0, size.height - 1);
        return sides.row(py)[px] == edge::Side::inside ? 1.0f : 0.0f;
    });
};

bool adds(const std::vector<RegionDrag>& drags) {
    return std::ranges::any_of(drags, [](const RegionDrag& d) { return !d.removes; });
}

base::Result<RegionDrag> dragFrom(const nlohmann::json& json) {
    if (!json.is_object()) return fields::wrongField("drags", "a list of drags");
    auto points = fields::readPlaces(json, "points", 1, mostDragPoints);
    if (!points) return tl::unexpected(points.error());
    const auto removes = fields::readBool(json, "removes", false);
    if (!removes) return tl::unexpected(removes.error());
    return RegionDrag{std::move(*points), *removes};
}

base::Result<ShapePtr> regionFromJson(const nlohmann::json& json) {
    const auto list = json.find("drags");
    if (list == json.end() || !list->is_array() || list->size() > mostDrags)
        return fields::wrongField("drags", "a list of at most 1000 drags");
    std::vector<RegionDrag> drags;
    for (const auto& item : *list) {
        auto drag = dragFrom(item);
        if (!drag) return tl::unexpected(fields::inPlace("drag " + std::to_string(drags.size() + 1), drag.error()));
        drags.push_back(std::move(*drag));
    }
    const auto reach = fields::readParam(json, regionReachSpec);
    if (!reach) return tl::unexpected(reach.error());
    const auto apart = fields::readBool(json, "apart", false);
    if (!apart) return tl::unexpected(apart.error());
    return std::make_shared<Region>(std::move(drags), *reach, *apart);
}

}  // namespace

const base::ParamSpec regionReachSpec = {.id = "reach",
                                         .label = "Reach",
                                         .unit = "%",
                                         .max = 100,
                                         .neutral = 50,
                                         .tip = "How far it goes: more takes in colours less like those dragged over."};

const ShapeKind Region::kindInfo = {
    .id = "region",
    .label = "Region",
    .tip = "Drag roughly inside the thing: it fills out to its edge.",
    .makeFor = [](base::Size) -> ShapePtr {
        return std::make_shared<Region>(std::vector<RegionDrag>{}, regionReachSpec.neutral);
    },
    .fromJson = regionFromJson,
    .schema =
        [] {
            const schema::Schema drag = schema::object(
                {{"points", schema::listOf(schema::place(), 1, mostDragPoints)}, {"removes", schema::flag(false)}},
                {"points"});
            return schema::Members{.properties = {{"drags", schema::listOf(drag, 0, mostDrags)},
                                                  {"reach", schema::of(regionReachSpec)},
                                                  {"apart", schema::flag(false)}},
                                   .required = {"drags"}};
        },
    .group = "found",
    .anew = [](const Shape& like, base::Size) -> ShapePtr {
        const auto& region = static_cast<const Region&>(like);
        return std::make_shared<Region>(std::vector<RegionDrag>{}, region.reachPct(), region.takesApart());
    },
};

Region::Region(std::vector<RegionDrag> drags, double reachPct, bool takesApart)
    : drags_(std::move(drags)), reachPct_(reachPct), takesApart_(takesApart) {
    base::KeyBuilder key;
    for (const RegionDrag& drag : drags_) {
        key.add(drag.removes).add(drag.points.size());
        for (const base::Point& point : drag.points) key.add(point.x).add(point.y);
    }
    dragsKey_ = key.key();
}

Staged<FoundRegion> Region::found(const PhotoRead& photo) const {
    return stage::keptForGood(
        photo.store(), staged<FoundRegion>(kindInfo.id, grownFrom, photo, stage::keyed(dragsKey_, drags_), reachPct_,
                                           takesApart_, image::levelOfAtMost(photo.size(), mostPixels)));
}

std::vector<Region::UnsurePlace> Region::unsurePlaces(const PhotoRead& photo) const {
    if (!adds(drags_)) return {};
    const std::shared_ptr<const FoundRegion> grown = found(photo).value();
    const double scale = 1 << grown->level;
    std::vector<UnsurePlace> places;
    for (const edge::UnsurePlace& p : grown->region.unsure)
        places.push_back({{(p.x + 0.5) * scale, (p.y + 0.5) * scale}, p.radiusPx * scale});
    return places;
}

Staged<Coverage> Region::over(const Area& area, Context& context) const {
    if (!adds(drags_)) return uniformCoverage(0);
    const PhotoRead photo = context.photo();
    auto across = std::make_shared<Found>();
    across->level = image::levelOfAtMost(photo.size(), mostPixels);
    across->firstBandPx = 4;
    across->over = [grown = found(photo)](const base::Rect& rect) {
        return staged<image::Plane<float>>("region on its level", sidesOver, grown, rect);
    };
    return acrossLevels(std::move(across), area, photo);
}

std::size_t Region::weight() const {
    return std::transform_reduce(drags_.begin(), drags_.end(), std::size_t{0}, std::plus<>(),
                                 [](const RegionDrag& drag) { return drag.points.size(); });
}

void Region::toJson(nlohmann::json& json) const {
    auto& list = json["drags"] = nlohmann::json::array();
    for (const RegionDrag& drag : drags_)
        list.push_back({{"points", fields::listOf(drag.points)}, {"removes", drag.removes}});
    json["reach"] = reachPct_;
    json["apart"] = takesApart_;
}

}  // namespace dimhem::mask
