#include "core/mask/wire.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <nlohmann/json.hpp>
#include <numeric>

#include "core/base/parallel.h"
#include "core/edge/followed_line.h"
#include "core/json/fields.h"
#include "core/json/schema.h"
#include "core/kernel/bilinear.h"
#include "core/kernel/coverage_rows.h"
#include "core/kernel/srgb_rows.h"
#include "core/mask/seen_guide.h"

namespace dimhem::mask {

namespace wire {

struct Node {
    base::Point at;
    double width = 1;
};

// The line between two clicks.
struct Span {
    std::vector<Node> nodes;
    double blur = 0.6;
    std::size_t bytes() const { return nodes.size() * sizeof(Node); }
};

}  // namespace wire

}  // namespace dimhem::mask

template <>
struct dimhem::stage::Packing<dimhem::mask::wire::Span> {
    static void pack(const mask::wire::Span& span, Packer& to) { to.add(span.blur).addMany(std::span(span.nodes)); }
    static std::optional<mask::wire::Span> unpack(Unpacker& from) {
        mask::wire::Span span;
        return from.read(span.blur) && from.readMany(span.nodes) ? std::optional(std::move(span)) : std::nullopt;
    }
};

namespace dimhem::mask {

namespace {

using wire::Node;
using wire::Span;

constexpr double sagOfLength = 0.16;  // how far from the straight way the line may run
constexpr double leastSagPx = 12, mostSagPx = 160;
constexpr double mostStripPixels = 3e6;
constexpr int everyPx = 3;  // between the places that are kept
constexpr double mostCoordinate = 1e6;
constexpr double longestPx = 60e3;  // of a span: no photo is as wide; a longer one covers nothing

double lengthOf(base::Point way) {
    return std::hypot(way.x, way.y);
}

// Where a strip of the photo lies: its rows run across the way from one place to another.
struct Strip {
    base::Point from, along, across;  // the last two of length 1
    int rows, half;

    Strip(base::Point a, base::Point b, double withinPx) : from(a) {
        const double length = std::max(1.0, lengthOf(b - a));
        along = lengthOf(b - a) > 0 ? (b - a) * (1 / length) : base::Point{1, 0};
        across = {-along.y, along.x};
        rows = static_cast<int>(std::lround(length)) + 1;
        const double most = std::max(leastSagPx, mostStripPixels / (2 * length));
        half = static_cast<int>(std::clamp(sagOfLength * length, leastSagPx, std::min(mostSagPx, most)) + withinPx);
    }
    base::Point at(double row, double off) const { return from + along * row + across * off; }
    base::Size size() const { return {2 * half + 1, rows}; }
};

void readRows(const Strip& strip, int first, int last, const PhotoRead& photo, image::LinearPlanes& out) {
    base::Rect box;
    for (const double row : {static_cast<double>(first), static_cast<double>(last)}) {
        for (const double off : {-strip.half - 1.0, strip.half + 1.0}) {
            const base::Point p = strip.at(row, off);
            const int x = static_cast<int>(std::floor(p.x)), y = static_cast<int>(std::floor(p.y));
            box = base::united(box, {x - 1, y - 1, x + 2, y + 2});
        }
    }
    const image::LinearPlanes picture = kernel::decoded(photo.picture({box, 0}));
    for (int row = first; row <= last; ++row) {
        for (int column = 0; column < strip.size().width; ++column) {
            const base::Point p = strip.at(row, column - strip.half);
            const double x = p.x - box.x0, y = p.y - box.y0;
            out.red.row(row)[column] = static_cast<float>(kernel::bilinear(picture.red, x, y));
            out.green.row(row)[column] = static_cast<float>(kernel::bilinear(picture.green, x, y));
            out.blue.row(row)[column] = static_cast<float>(kernel::bilinear(picture.blue, x, y));
        }
    }
}

image::LinearPlanes read(const Strip& strip, const PhotoRead& photo) {
    constexpr int rowsAtOnce = 128;
    image::LinearPlanes out(strip.size());
    const auto parts = static_cast<std::size_t>((strip.rows + rowsAtOnce - 1) / rowsAtOnce);
    const bool whole = base::parallelFor(parts, {}, {}, [&](std::size_t i) {
        const int first = static_cast<int>(i) * rowsAtOnce;
        readRows(strip, first, std::min(first + rowsAtOnce, strip.rows) - 1, photo, out);
    });
    if (!whole) throw base::Cancelled();
    return out;
}

constexpr auto followed = [](const PhotoRead& photo, base::Point from, base::Point to, double first, double last) {
    // Between the pixels of the photo the strip is linear: it is a little softer than the photo.
    constexpr double softened = 1.0 / 6, leastBlur = 0.29;
    const Strip strip(from, to, std::max(first, last));
    const edge::FollowedLine line = edge::followedLine(read(strip, photo), {first, last}, noiseAt(0, photo));
    Span span;
    span.blur = std::max(leastBlur, std::sqrt(std::max(0.0, line.blur * line.blur - softened)));
    for (int row = 0; row < strip.rows;
         row += row + everyPx < strip.rows ? everyPx : std::max(1, strip.rows - 1 - row)) {
        const edge::LineSpot& spot = line.spots[static_cast<std::size_t>(row)];
        span.nodes.push_back({strip.at(row, spot.across), spot.width});
    }
    return span;
};

Staged<Span> spanOf(base::Point from, base::Point to, const edge::LineEnds& ends, const PhotoRead& photo) {
    return stage::keptForGood(photo.store(),
                              staged<Span>("wire span", followed, photo, from, to, ends.first, ends.last));
}

// Each span begins where the one before was found to end, so that they meet on the same line.
std::vector<std::shared_ptr<const Span>> spansOf(const WireLine& line, const PhotoRead& photo) {
    std::vector<std::shared_ptr<const Span>> spans;
    base::Point from = line.points.front();
    for (std::size_t i = 1; i < line.points.size(); ++i) {
        const base::Point to = line.points[i];
        if (to == from) continue;
        if (lengthOf(to - from) > longestPx) {
            from = to;
            continue;
        }
        spans.push_back(spanOf(from, to, {spans.empty() ? line.withinPx : 0, line.withinPx}, photo).value());
        from = spans.back()->nodes.back().at;
    }
    return spans;
}

// Draws into one area; all in pixels of its level.
class Drawing {
public:
    Drawing(image::Plane<float>& out, const Area& area, double widthPct)
        : out_(out), area_(area), wider_(widthPct / 100) {}

    void add(const Span& span, bool startsHere, bool endsHere) {
        const double scale = area_.scale();
        // A pixel of the level averages those of the photo.
        blur_ = std::sqrt(span.blur * span.blur + (scale * scale - 1) / 12) / scale;
        for (std::size_t i = 1; i < span.nodes.size(); ++i)
            addPiece(span.nodes[i - 1], span.nodes[i], startsHere && i == 1, endsHere && i + 1 == span.nodes.size());
    }

private:
    void addPiece(const Node& a, const Node& b, bool first, bool last) {
        const base::Point from = area_.toLevel(a.at), to = area_.toLevel(b.at);
        const double wa = a.width * wider_ / area_.scale(), wb = b.width * wider_ / area_.scale();
        const double reach = std::max(wa, wb) / 2 + 3.5 * blur_;
        const base::Rect box =
            base::intersected(area_.rect, {static_cast<int>(std::floor(std::min(from.x, to.x) - reach)),
                                           static_cast<int>(std::floor(std::min(from.y, to.y) - reach)),
                                           static_cast<int>(std::ceil(std::max(from.x, to.x) + reach)) + 1,
                                           static_cast<int>(std::ceil(std::max(from.y, to.y) + reach)) + 1});
        const base::Point way = to - from;
        const double length = std::max(1e-9, lengthOf(way));
        for (int y = box.y0; y < box.y1; ++y) {
            float* row = out_.row(y - area_.rect.y0).data();
            for (int x = box.x0; x < box.x1; ++x) {
                const base::Point off{x + 0.5 - from.x, y + 0.5 - from.y};
                const double along = (off.x * way.x + off.y * way.y) / length;
                const double on = std::clamp(along, 0.0, length);
                const bool beyondEnd = (first && along < 0) || (last && along > length);
                const double distance =
                    beyondEnd ? std::abs(off.x * way.y - off.y * way.x) / length : lengthOf(off - way * (on / length));
                double coverage = edge::lineCoverage(distance, wa + (wb - wa) * on / length, blur_);
                // A line ends straight.
                if (first) coverage *= edge::lineCoverage(along - far, 2 * far, blur_);
                if (last) coverage *= edge::lineCoverage(along - length + far, 2 * far, blur_);
                float& value = row[x - area_.rect.x0];
                value = std::max(value, static_cast<float>(coverage));
            }
        }
    }

    static constexpr double far = 1e4;
    image::Plane<float>& out_;
    const Area& area_;
    double wider_, blur_ = 0.6;
};

constexpr auto linesOver = [](const PhotoRead& photo, const std::vector<WireLine>& lines, double widthPct,
                              const Area& area) {
    image::Plane<float> plane = image::filled(area.rect.size(), 0.0f);
    Drawing drawing(plane, area, widthPct);
    for (const WireLine& line : lines) {
        if (line.points.size() < 2) continue;
        const auto spans = spansOf(line, photo);
        for (std::size_t i = 0; i < spans.size(); ++i) drawing.add(*spans[i], i == 0, i + 1 == spans.size());
    }
    return coverageOf(plane);
};

base::Result<WireLine> lineFrom(const nlohmann::json& json) {
    if (!json.is_object()) return fields::wrongField("lines", "a list of lines");
    auto points = fields::readPlaces(json, "points", 1, mostWirePoints);
    if (!points) return tl::unexpected(points.error());
    const auto within = fields::readParam(json, wireWithinSpec);
    if (!within) return tl::unexpected(within.error());
    return WireLine{std::move(*points), *within};
}

base::Result<ShapePtr> wireFromJson(const nlohmann::json& json) {
    const auto list = json.find("lines");
    if (list == json.end() || !list->is_array() || list->size() > mostWires)
        return fields::wrongField("lines", "a list of at most 1000 lines");
    std::vector<WireLine> lines;
    for (const auto& item : *list) {
        auto line = lineFrom(item);
        if (!line) return tl::unexpected(fields::inPlace("line " + std::to_string(lines.size() + 1), line.error()));
        lines.push_back(std::move(*line));
    }
    const auto width = fields::readParam(json, wireWidthSpec);
    if (!width) return tl::unexpected(width.error());
    return std::make_shared<Wire>(std::move(lines), *width);
}

}  // namespace

const base::ParamSpec wireWidthSpec = {.id = "width",
                                       .label = "Width",
                                       .unit = "%",
                                       .min = 25,
                                       .max = 400,
                                       .neutral = 100,
                                       .tip = "Of the width found: more covers a rim about the wire as well."};

const base::ParamSpec wireWithinSpec = {.id = "within",
                                        .label = "Within",
                                        .unit = "px",
                                        .max = 60,
                                        .neutral = 6,
                                        .tip = "How far off the wire its places may be, in pixels of the photo."};

const ShapeKind Wire::kindInfo = {
    .id = "wire",
    .label = "Wire",
    .tip = "Click along a wire, rope, mast or rail: it is followed from click to click, as wide as it is.",
    .makeFor = [](base::Size) -> ShapePtr {
        return std::make_shared<Wire>(std::vector<WireLine>{}, wireWidthSpec.neutral);
    },
    .fromJson = wireFromJson,
    .schema =
        [] {
            const schema::Schema line = schema::object({{"points", schema::listOf(schema::place(), 1, mostWirePoints)},
                                                        {"within", schema::of(wireWithinSpec)}},
                                                       {"points"});
            return schema::Members{
                .properties = {{"lines", schema::listOf(line, 0, mostWires)}, {"width", schema::of(wireWidthSpec)}},
                .required = {"lines"}};
        },
    .group = "found",
    .ends = Ends::asMeasured,
    .anew = [](const Shape& like, base::Size) -> ShapePtr {
        return std::make_shared<Wire>(std::vector<WireLine>{}, static_cast<const Wire&>(like).widthPct());
    },
};

Wire::Wire(std::vector<WireLine> lines, double widthPct) : lines_(std::move(lines)), widthPct_(widthPct) {
    base::KeyBuilder key;
    for (const WireLine& line : lines_) {
        key.add(line.withinPx).add(line.points.size());
        double longest = 0;
        base::Rect bounds;
        for (std::size_t i = 0; i < line.points.size(); ++i) {
            const base::Point& p = line.points[i];
            key.add(p.x).add(p.y);
            if (i > 0) longest = std::max(longest, lengthOf(p - line.points[i - 1]));
            const int x = static_cast<int>(std::clamp(p.x, -mostCoordinate, mostCoordinate)),
                      y = static_cast<int>(std::clamp(p.y, -mostCoordinate, mostCoordinate));
            bounds = base::united(bounds, {x - 1, y - 1, x + 2, y + 2});
        }
        // As far as it may sag, and as wide as a line can be found and made.
        const double widest = 50 * widthPct_ / 100;
        const double reach = std::clamp(sagOfLength * longest, leastSagPx, mostSagPx) + line.withinPx + widest;
        if (line.points.size() > 1) reach_ = base::united(reach_, base::grown(bounds, static_cast<int>(reach) + 1));
    }
    linesKey_ = key.key();
}

std::optional<std::uint16_t> Wire::uniformOn(const Area& area) const {
    const int scale = 1 << area.level;
    const base::Rect& r = area.rect;
    const base::Rect onPhoto{r.x0 * scale, r.y0 * scale, r.x1 * scale, r.y1 * scale};
    const bool isNear = !reach_.empty() && !base::intersected(base::grown(reach_, 4 * scale), onPhoto).empty();
    return isNear ? std::nullopt : std::optional<std::uint16_t>(0);
}

Staged<Coverage> Wire::over(const Area& area, Context& context) const {
    if (const auto uniform = uniformOn(area)) return uniformCoverage(*uniform);
    return staged<Coverage>(kindInfo.id, linesOver, context.photo(), stage::keyed(linesKey_, lines_), widthPct_, area);
}

std::size_t Wire::weight() const {
    constexpr std::size_t perPoint = 200;  // each span is looked for at full size
    return std::transform_reduce(lines_.begin(), lines_.end(), std::size_t{0}, std::plus<>(),
                                 [](const WireLine& line) { return perPoint * line.points.size(); });
}

void Wire::toJson(nlohmann::json& json) const {
    auto& list = json["lines"] = nlohmann::json::array();
    for (const WireLine& line : lines_)
        list.push_back({{"points", fields::listOf(line.points)}, {wireWithinSpec.id, line.withinPx}});
    json[wireWidthSpec.id] = widthPct_;
}

}  // namespace dimhem::mask
