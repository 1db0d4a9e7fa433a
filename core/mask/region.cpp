#include "core/mask/region.h"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>
#include <numeric>

#include "core/edge/grown_region.h"
#include "core/image/tiles.h"
#include "core/json/fields.h"
#include "core/mask/across_levels.h"
#include "core/mask/kept_once.h"
#include "core/mask/seen_guide.h"

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

edge::GrownRegion grownFrom(const Region& region, int level, Context& context) {
    const base::Size size = image::levelSize(context.photoSize(), level);
    const double noise = noiseAt(level, context);
    const edge::Guide guide = edge::denoised(guideOver({base::rectOf(size), level}, context), noise);
    const image::Plane<edge::Sure> sure = sureFrom(region.drags(), size, 1 << level);
    const double bias = (region.reachPct() - regionReachSpec.neutral) * biasPerPct;
    return edge::grownRegion(guide, sure, {bias, noise, region.takesApart()});
}

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

base::ContentKey Region::ownKey(Context& context) const {
    base::KeyBuilder key;
    key.add(kindInfo.id)
        .add(reachPct_)
        .add(takesApart_)
        .add(context.pictureKey(Seen::photo, {base::rectOf(context.photoSize()), 0}));
    return key.add(dragsKey_).key();
}

base::ContentKey Region::keyOn(const Area& area, Context& context) const {
    return keyOf(area).add(ownKey(context)).key();
}

struct FoundRegion {
    edge::GrownRegion region;
    int level = 0;
};

template <>
struct Packing<FoundRegion> {
    static void pack(const FoundRegion& grown, base::Packer& to) {
        to.add(grown.level).addMany(std::span<const edge::UnsurePlace>(grown.region.unsure));
        Packing<edge::Sides>::pack(grown.region.sides, to);
    }
    static std::optional<FoundRegion> unpack(base::Unpacker& from) {
        FoundRegion grown;
        if (!from.read(grown.level) || !from.readMany(grown.region.unsure)) return std::nullopt;
        auto sides = Packing<edge::Sides>::unpack(from);
        if (!sides) return std::nullopt;
        grown.region.sides = std::move(*sides);
        return grown;
    }
};

std::shared_ptr<const FoundRegion> Region::found(Context& context) const {
    const int level = image::levelOfAtMost(context.photoSize(), mostPixels);
    return keptOnce<FoundRegion>(
        context, ownKey(context),
        [&] {
            return std::make_shared<FoundRegion>(FoundRegion{grownFrom(*this, level, context), level});
        },
        [](const FoundRegion& g) { return sizeof g + g.region.sides.bytes(); });
}

std::vector<Region::UnsurePlace> Region::unsurePlaces(Context& context) const {
    if (!adds(drags_)) return {};
    const std::shared_ptr<const FoundRegion> grown = this->found(context);
    const double scale = 1 << grown->level;
    std::vector<UnsurePlace> places;
    for (const edge::UnsurePlace& p : grown->region.unsure)
        places.push_back({{(p.x + 0.5) * scale, (p.y + 0.5) * scale}, p.radiusPx * scale});
    return places;
}

CoveragePtr Region::render(const Area& area, Context& context) const {
    if (!adds(drags_)) return std::make_shared<Coverage>(std::uint16_t{0});
    const std::shared_ptr<const FoundRegion> grown = this->found(context);
    const edge::Sides& sides = grown->region.sides;
    const base::Size size = sides.size();
    Found found;
    found.level = grown->level;
    found.keyOn = [key = ownKey(context)](const base::Rect&) { return key; };
    found.firstBandPx = 4;
    found.read = [&](const base::Rect& rect) {
        image::Plane<float> out(rect.size());
        for (int y = 0; y < rect.height(); ++y) {
            for (int x = 0; x < rect.width(); ++x) {
                const int px = std::clamp(rect.x0 + x, 0, size.width - 1);
                const int py = std::clamp(rect.y0 + y, 0, size.height - 1);
                out.row(y)[x] = sides.row(py)[px] == edge::Side::inside ? 1.0f : 0.0f;
            }
        }
        return out;
    };
    return refinedAcrossLevels(found, area, context);
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
