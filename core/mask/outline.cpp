#include "core/mask/outline.h"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

#include "core/edge/band_cut.h"
#include "core/edge/colour_cut.h"
#include "core/edge/keep_near.h"
#include "core/image/tiles.h"
#include "core/json/fields.h"
#include "core/json/schema.h"
#include "core/kernel/gaussian.h"
#include "core/mask/across_levels.h"
#include "core/mask/blur_plan.h"
#include "core/mask/seen_guide.h"

namespace dimhem::mask {

// What a snapped outline comes to on its level: the cut, and the part of the photo it was looked for in.
struct Snapped {
    base::Rect rect;
    edge::Sides sides;
    bool refused = false;  // most of it would have been lost: it stayed as drawn
    std::size_t bytes() const { return sides.bytes(); }
};

}  // namespace dimhem::mask

template <>
struct dimhem::stage::Packing<dimhem::mask::Snapped> {
    static void pack(const mask::Snapped& snapped, Packer& to) {
        to.add(snapped.rect).add(snapped.refused);
        Packing<edge::Sides>::pack(snapped.sides, to);
    }
    static std::optional<mask::Snapped> unpack(Unpacker& from) {
        mask::Snapped snapped;
        if (!from.read(snapped.rect) || !from.read(snapped.refused)) return std::nullopt;
        auto sides = Packing<edge::Sides>::unpack(from);
        if (!sides) return std::nullopt;
        snapped.sides = std::move(*sides);
        return snapped;
    }
};

namespace dimhem::mask {

namespace {

constexpr int linesPerPixel = 8;  // across; along a line, coverage is exact

// Where a polygon crosses the lines of an area, line by line, so that a row costs no more the more points there are
// elsewhere.
class Crossings {
public:
    Crossings(const std::vector<base::Point>& points, const Area& area)
        : lines_(static_cast<std::size_t>(area.rect.height() * linesPerPixel)), top_(area.rect.y0) {
        base::Point a = area.toLevel(points.back());
        for (const base::Point& point : points) {
            const base::Point b = area.toLevel(point);
            add(a, b, area.rect.x0);
            a = b;
        }
        for (std::vector<double>& line : lines_) std::sort(line.begin(), line.end());
    }
    const std::vector<double>& on(int line) const { return lines_[static_cast<std::size_t>(line)]; }

private:
    double placeOf(int line) const { return top_ + (line + 0.5) / linesPerPixel; }

    void add(base::Point a, base::Point b, int left) {
        const double from = std::min(a.y, b.y), to = std::max(a.y, b.y);
        const double first = std::floor((from - top_) * linesPerPixel - 0.5) - 1;
        const int last = static_cast<int>(lines_.size());
        for (int line = static_cast<int>(std::clamp(first, 0.0, double(last))); line < last; ++line) {
            const double at = placeOf(line);
            if (at > to) break;
            if ((a.y <= at) == (b.y <= at)) continue;
            lines_[static_cast<std::size_t>(line)].push_back(a.x + (at - a.y) / (b.y - a.y) * (b.x - a.x) - left);
        }
    }

    std::vector<std::vector<double>> lines_;
    int top_;
};

// The polygon over an area: each row is cut by a few horizontal lines, between whose crossings the row is inside.
image::Plane<float> filled(const std::vector<base::Point>& points, const Area& area) {
    image::Plane<float> out(area.rect.size());
    const Crossings crossings(points, area);
    const auto width = static_cast<double>(area.rect.width());
    for (int y = 0; y < area.rect.height(); ++y) {
        float* row = out.row(y).data();
        std::fill_n(row, area.rect.width(), 0.0f);
        for (int line = y * linesPerPixel; line < (y + 1) * linesPerPixel; ++line) {
            const std::vector<double>& at = crossings.on(line);
            for (std::size_t i = 0; i + 1 < at.size(); i += 2) {
                const double from = std::clamp(at[i], 0.0, width), to = std::clamp(at[i + 1], 0.0, width);
                for (int x = static_cast<int>(from); x < static_cast<int>(std::ceil(to)); ++x) {
                    row[x] += static_cast<float>((std::min(to, x + 1.0) - std::max(from, double(x))) / linesPerPixel);
                }
            }
        }
    }
    return out;
}

int levelFor(double snapPx) {
    constexpr double mostOff = 10;
    return image::levelOfLength(snapPx, mostOff);
}

base::Rect boundsOf(const std::vector<base::Point>& points, const Area& level, int margin) {
    double x0 = 1e9, y0 = 1e9, x1 = -1e9, y1 = -1e9;
    for (const base::Point& point : points) {
        const base::Point at = level.toLevel(point);
        x0 = std::min(x0, at.x);
        y0 = std::min(y0, at.y);
        x1 = std::max(x1, at.x);
        y1 = std::max(y1, at.y);
    }
    return base::intersected({static_cast<int>(std::floor(x0)) - margin, static_cast<int>(std::floor(y0)) - margin,
                              static_cast<int>(std::ceil(x1)) + margin, static_cast<int>(std::ceil(y1)) + margin},
                             level.rect);
}

// The same with what lies within `bandPx` of the edge left open.
edge::Sides withoutBand(const edge::Sides& sides, double bandPx) {
    const image::Plane<float> distance = edge::distanceToEdge(sides, bandPx);
    edge::Sides out(sides.size());
    for (int y = 0; y < sides.size().height; ++y) {
        for (int x = 0; x < sides.size().width; ++x)
            out.row(y)[x] = distance.row(y)[x] <= bandPx ? edge::Side::unknown : sides.row(y)[x];
    }
    return out;
}

using Points = std::vector<base::Point>;

constexpr auto snapTo = [](const PhotoRead& photo, const Points& points, double snapPx, int level) {
    const double off = snapPx / (1 << level), band = 1.6 * off + 3;
    Snapped out;
    out.rect = boundsOf(points, image::wholeAt(photo.size(), level), static_cast<int>(6 * band));
    if (out.rect.empty()) return out;
    const Area area{out.rect, level};
    const edge::Sides drawn = edge::sidesOf(filled(points, area));
    out.sides = edge::sidesOf(filled(points, area));
    const edge::Guide guide = guideOver(area, photo);
    const double noise = noiseAt(level, photo);
    for (const double width : {band, std::max(4.0, band / 2)}) {
        const image::Plane<float> evidence = edge::evidence(guide, withoutBand(out.sides, width), noise);
        edge::cutBand(guide, width, noise, out.sides, &evidence);
    }
    out.refused = edge::keepNear(drawn, off + 1, out.sides);
    return out;
};

constexpr auto cutOver = [](const Snapped& cut, const base::Rect& rect) {
    const base::Rect& known = cut.rect;
    return image::planeOf(rect.size(), [&](int x, int y) {
        const int px = rect.x0 + x, py = rect.y0 + y;
        const bool within = px >= known.x0 && px < known.x1 && py >= known.y0 && py < known.y1;
        return within && cut.sides.row(py - known.y0)[px - known.x0] == edge::Side::inside ? 1.0f : 0.0f;
    });
};

constexpr auto drawnOver = [](const Points& line, const BlurPlan& plan, const Area& area) {
    image::Plane<float> plane = filled(line, plan.area);
    kernel::gaussianBlur(plane, plan.sigma);
    return readBack(plane, plan, area);
};

constexpr auto snappedOver = [](const Snapped& cut, const Staged<Coverage>& snapped, const Staged<Coverage>& drawn,
                                double featherPx, const BlurPlan& plan, const Area& area) -> CoveragePtr {
    if (cut.refused) return drawn.value();
    if (cut.rect.empty()) return std::make_shared<const Coverage>(std::uint16_t{0});
    const CoveragePtr sharp = snapped.value();
    if (featherPx == 0) return sharp;
    image::Plane<float> plane = floatsOf(*sharp, plan.area.rect.size());
    kernel::gaussianBlur(plane, plan.sigma);
    return readBack(plane, plan, area);
};

base::Result<Joining> joiningFrom(const nlohmann::json& json, std::size_t points) {
    Joining joining;
    const auto curved = fields::readBool(json, "curved", false);
    if (!curved) return tl::unexpected(curved.error());
    joining.curved = *curved;
    const auto corners = json.find("corners");
    if (corners == json.end()) return joining;
    const auto wrong = [] { return fields::wrongField("corners", "a rising list of numbers of points, from 0"); };
    if (!corners->is_array()) return wrong();
    for (const auto& corner : *corners) {
        if (!corner.is_number_unsigned() || corner.get<std::uint64_t>() >= points) return wrong();
        if (!joining.corners.empty() && corner.get<std::size_t>() <= joining.corners.back()) return wrong();
        joining.corners.push_back(corner.get<std::size_t>());
    }
    return joining;
}

base::Result<ShapePtr> outlineFromJson(const nlohmann::json& json) {
    auto points = fields::readPlaces(json, "points", 0, mostOutlinePoints);
    if (!points) return tl::unexpected(points.error());
    if (points->size() == 1 || points->size() == 2)
        return fields::wrongField("points", "none, or three places at least");
    const auto feather = fields::readParam(json, outlineFeatherSpec);
    if (!feather) return tl::unexpected(feather.error());
    const auto snap = fields::readParam(json, outlineSnapSpec);
    if (!snap) return tl::unexpected(snap.error());
    auto joining = joiningFrom(json, points->size());
    if (!joining) return tl::unexpected(joining.error());
    return std::make_shared<Outline>(std::move(*points), *feather, *snap, std::move(*joining));
}

}  // namespace

const base::ParamSpec outlineFeatherSpec = {
    .id = "feather",
    .label = "Softness",
    .unit = "px",
    .max = 500,
    .neutral = 2,
    .tip = "The distance over which the edge goes from 90 % to 10 %, in pixels of the photo."};

const base::ParamSpec outlineSnapSpec = {
    .id = "snap",
    .label = "Snap",
    .unit = "px",
    .max = 60,
    .tip = "How far off the thing's edge the outline may be; 0 keeps it as drawn."};

const ShapeKind Outline::kindInfo = {
    .id = "outline",
    .label = "Outline",
    .tip = "Drawn round the thing, freehand or from click to click.",
    .makeFor = [](base::Size) -> ShapePtr {
        return std::make_shared<Outline>(std::vector<base::Point>{}, outlineFeatherSpec.neutral);
    },
    .fromJson = outlineFromJson,
    .schema =
        [] {
            schema::Schema points = schema::listOf(schema::place(), 0, mostOutlinePoints);
            points["not"] = {{"minItems", 1}, {"maxItems", 2}};
            const schema::Schema corner{{"type", "integer"}, {"minimum", 0}};
            return schema::Members{.properties = {{"points", points},
                                                  {"feather", schema::of(outlineFeatherSpec)},
                                                  {"snap", schema::of(outlineSnapSpec)},
                                                  {"curved", schema::flag(false)},
                                                  {"corners", schema::listOf(corner, 0, mostOutlinePoints)}},
                                   .required = {"points"}};
        },
    .group = "drawn",
    .anew = [](const Shape& like, base::Size) -> ShapePtr {
        const auto& outline = static_cast<const Outline&>(like);
        return std::make_shared<Outline>(std::vector<base::Point>{}, outline.featherPx(), outline.snapPx(),
                                         Joining{outline.joining().curved, {}});
    },
};

Outline::Outline(std::vector<base::Point> points, double featherPx, double snapPx, Joining joining)
    : points_(std::move(points)),
      featherPx_(featherPx),
      snapPx_(snapPx),
      joining_(std::move(joining)),
      course_(courseThrough(points_, joining_)) {
    base::KeyBuilder key;
    for (const base::Point& point : course_.line) {
        key.add(point.x).add(point.y);
        const int x = static_cast<int>(std::floor(point.x)), y = static_cast<int>(std::floor(point.y));
        bounds_ = base::united(bounds_, {x, y, x + 1, y + 1});
    }
    courseKey_ = key.key();
}

Staged<Snapped> Outline::cut(const PhotoRead& photo) const {
    return stage::keptForGood(photo.store(),
                              staged<Snapped>("snapped outline", snapTo, photo, stage::keyed(courseKey_, course_.line),
                                              snapPx_, levelFor(snapPx_)));
}

bool Outline::staysAsDrawn(const PhotoRead& photo) const {
    return snapPx_ == 0 || points_.size() < 3 || cut(photo).value()->refused;
}

std::optional<std::uint16_t> Outline::uniformOn(const Area& area) const {
    if (points_.size() < 3) return std::uint16_t{0};
    if (snapPx_ > 0) return std::nullopt;
    const Area read = planBlur(area, featherPx_ * kernel::sigmaPerEdgeDistance).area;
    const int scale = 1 << read.level;
    const base::Rect& r = read.rect;
    const base::Rect onPhoto{r.x0 * scale, r.y0 * scale, r.x1 * scale, r.y1 * scale};
    const bool isNear = !base::intersected(base::grown(bounds_, 1), onPhoto).empty();
    return isNear ? std::nullopt : std::optional<std::uint16_t>(0);
}

Staged<Coverage> Outline::over(const Area& area, Context& context) const {
    if (points_.size() < 3) return uniformCoverage(0);
    const BlurPlan plan = planBlur(area, featherPx_ * kernel::sigmaPerEdgeDistance);
    const auto drawn = staged<Coverage>(kindInfo.id, drawnOver, stage::keyed(courseKey_, course_.line), plan, area);
    if (snapPx_ == 0) return drawn;
    const PhotoRead photo = context.photo();
    const Staged<Snapped> cut = this->cut(photo);
    auto found = std::make_shared<Found>();
    found->level = levelFor(snapPx_);
    // On the photo's own level the edge was found already.
    found->firstBandPx = found->level > 0 ? 4 : std::floor(std::min(4.0, snapPx_ / 4));
    found->over = [cut](const base::Rect& rect) {
        return staged<image::Plane<float>>("outline on its level", cutOver, cut, rect);
    };
    const auto snapped = acrossLevels(std::move(found), featherPx_ == 0 ? area : plan.area, photo);
    return staged<Coverage>("outline, snapped", snappedOver, cut, stage::later(snapped), stage::later(drawn),
                            featherPx_, plan, area);
}

void Outline::toJson(nlohmann::json& json) const {
    json["points"] = fields::listOf(points_);
    json["feather"] = featherPx_;
    json["snap"] = snapPx_;
    if (joining_.curved) json["curved"] = true;
    if (!joining_.corners.empty()) json["corners"] = joining_.corners;
}

}  // namespace dimhem::mask
