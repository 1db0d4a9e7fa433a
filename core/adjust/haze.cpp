#include "core/adjust/haze.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/adjust/haze.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include <algorithm>
#include <array>
#include <cmath>

#include <hwy/contrib/math/math-inl.h>

#include "core/edge/transmission.h"
#include "core/image/tiles.h"
#include "core/kernel/box_sum.h"
#include "core/kernel/row_transform-inl.h"
#include "core/kernel/srgb_rows.h"

#ifndef DIMHEM_HAZE_ROW
#define DIMHEM_HAZE_ROW
namespace dimhem::adjust {

struct HazeRowSettings {
    float air[3], boundScale[3];  // the bound of a channel: (air - P) scale
    float amount, near, scale, most;
    float byDistance;  // the part that the way says, 0 or a half
};

}  // namespace dimhem::adjust
#endif

HWY_BEFORE_NAMESPACE();
namespace dimhem::adjust {
namespace HWY_NAMESPACE {

namespace hn = hwy::HWY_NAMESPACE;

void HazeRow(const HazeRowSettings& s, const float* const* lines, kernel::LinearRow pixels, std::size_t count) {
    const hn::ScalableTag<float> d;
    const auto k = [&](float v) HWY_ATTR { return hn::Set(d, v); };
    kernel::HWY_NAMESPACE::TransformRgb(
        d, pixels.red, pixels.green, pixels.blue, count, [&](std::size_t i, auto& r, auto& g, auto& b) HWY_ATTR {
            const auto line = [&](int plane)
                                  HWY_ATTR { return kernel::HWY_NAMESPACE::LoadSome(d, lines[plane], i, count); };
            const auto bound = [&](auto v, int c)
                                   HWY_ATTR { return hn::Mul(hn::Sub(k(s.air[c]), v), k(s.boundScale[c])); };
            const auto least =
                hn::Min(hn::Max(hn::Max(bound(r, 0), bound(g, 1)), hn::Max(bound(b, 2), k(0.02f))), k(1.0f));
            auto t = hn::MulAdd(line(0), r, hn::MulAdd(line(1), g, hn::MulAdd(line(2), b, line(3))));
            t = hn::Max(t, hn::Mul(least, k(0.98f)));
            t = hn::Min(t, hn::Min(hn::Mul(least, k(static_cast<float>(edge::hazeCap))), k(1.0f)));
            const auto depthOf = [&](auto through) HWY_ATTR {
                return hn::Mul(k(s.scale), hn::Max(hn::Sub(hn::Neg(hn::Log(d, through)), k(s.near)), hn::Zero(d)));
            };
            // What is dark has no haze before it, however far away the rest of what lies there is.
            const auto own = depthOf(t), usual = hn::Min(hn::Mul(k(s.scale), line(5)), depthOf(least));
            const auto depth = hn::MulAdd(k(s.byDistance), hn::Sub(usual, own), own);
            // What is nearly haze alone, such as the sky, has nothing behind it to bring back but noise. Told by an
            // even t, since a pixel's own has its noise.
            const auto deep = hn::Sub(hn::Neg(hn::Log(d, hn::Min(hn::Max(line(4), k(0.01f)), k(1.0f)))), k(s.most));
            const auto rest = hn::Min(hn::Max(hn::Sub(k(1.0f), deep), hn::Zero(d)), k(1.0f));
            const auto gain = hn::Exp(d, hn::Mul(k(s.amount), hn::Mul(rest, hn::Min(depth, k(s.most)))));
            r = hn::MulAdd(hn::Sub(r, k(s.air[0])), gain, k(s.air[0]));
            g = hn::MulAdd(hn::Sub(g, k(s.air[1])), gain, k(s.air[1]));
            b = hn::MulAdd(hn::Sub(b, k(s.air[2])), gain, k(s.air[2]));
        });
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::adjust
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace dimhem::adjust {

HWY_EXPORT(HazeRow);

namespace {

constexpr base::ParamSpec params[] = {
    {.id = "amount",
     .label = "Amount",
     .unit = "%",
     .min = -100,
     .max = 100,
     .tip = "How much of the haze is taken off; below 0 as much is laid on."},
    {.id = "floor",
     .label = "Least clear",
     .unit = "%",
     .min = 3,
     .max = 60,
     .neutral = 15,
     .tip = "Places that less of their light comes from count as this clear: noise in thick haze is held so."},
};
constexpr std::size_t amount = base::placeOf(params, "amount"), leastClear = base::placeOf(params, "floor");

constexpr base::ParamSpec colourColumns[] = {
    {.id = "red", .label = "Red", .unit = "%", .max = 400, .decimals = 1, .tip = "Red of the air light."},
    {.id = "green", .label = "Green", .unit = "%", .max = 400, .decimals = 1, .tip = "Green of the air light."},
    {.id = "blue", .label = "Blue", .unit = "%", .max = 400, .decimals = 1, .tip = "Blue of the air light."},
};
constexpr base::ParamSpec placeColumns[] = {
    {.id = "x", .label = "Across", .unit = "px", .min = -1e6, .max = 1e6, .tip = "Place in the photo, across."},
    {.id = "y", .label = "Down", .unit = "px", .min = -1e6, .max = 1e6, .tip = "Place in the photo, down."},
    {.id = "haze", .label = "Haze", .unit = "%", .max = 98, .tip = "Share of the light there that is haze."},
};
constexpr base::ParamSpec measuredColumns[] = {
    {.id = "level", .label = "Level", .max = image::maxLevel, .tip = "The level that haze is worked out on."},
    {.id = "near", .label = "Near", .max = 10, .decimals = 2, .tip = "Haze that counts as none."},
    {.id = "scale", .label = "Scale", .max = 20, .neutral = 1, .decimals = 2, .tip = "Times the haze found."},
    {.id = "least", .label = "Least", .max = 10, .decimals = 2, .tip = "Haze of the clearest twentieth."},
};
constexpr base::ParamSpec wayColumns[] = {
    {.id = "foot-x", .label = "Foot, across", .unit = "px", .min = -1e6, .max = 1e6, .tip = "The nearest ground."},
    {.id = "foot-y", .label = "Foot, down", .unit = "px", .min = -1e6, .max = 1e6, .tip = "The nearest ground."},
    {.id = "skyline-x", .label = "Skyline, across", .unit = "px", .min = -1e6, .max = 1e6, .tip = "The skyline."},
    {.id = "skyline-y", .label = "Skyline, down", .unit = "px", .min = -1e6, .max = 1e6, .tip = "The skyline."},
};
constexpr base::ParamSpec depthColumns[] = {
    {.id = "depth", .label = "Depth", .max = 10, .decimals = 3, .tip = "Haze in this part of the way."}};
constexpr std::size_t mostMarks = 8, waySteps = 12;
constexpr TableSpec tables[] = {
    {.id = "colour",
     .label = "Air light",
     .tip = "The colour of the haze.",
     .columns = colourColumns,
     .mostRows = 1,
     .neutral = {},
     .measured = true},
    {.id = "near",
     .label = "Near",
     .tip = "Places without haze.",
     .columns = std::span(placeColumns).first(2),
     .mostRows = mostMarks,
     .neutral = {},
     .ofThisPhoto = true},
    {.id = "far",
     .label = "Far",
     .tip = "Places whose haze is known.",
     .columns = placeColumns,
     .mostRows = mostMarks,
     .neutral = {},
     .ofThisPhoto = true},
    {.id = "distance",
     .label = "Distance",
     .tip = "From the nearest ground to the skyline.",
     .columns = wayColumns,
     .mostRows = 1,
     .neutral = {},
     .ofThisPhoto = true},
    {.id = "depths",
     .label = "Depths",
     .tip = "The haze along the distance.",
     .columns = depthColumns,
     .mostRows = waySteps,
     .neutral = {},
     .ofThisPhoto = true},
    {.id = "measured",
     .label = "Measured",
     .tip = "What follows from the photo and the marks.",
     .columns = measuredColumns,
     .mostRows = 1,
     .neutral = {},
     .measured = true},
};

Table& tableOf(Settings& settings, HazeTable which) {
    return settings.tables[static_cast<std::size_t>(which)];
}
const Table& tableOf(const Settings& settings, HazeTable which) {
    return settings.tables[static_cast<std::size_t>(which)];
}

// How far along the way a place of the photo is, 0 at its foot, 1 at the skyline.
double alongWay(const Table& way, double x, double y) {
    const double dx = way[2] - way[0], dy = way[3] - way[1], length = dx * dx + dy * dy;
    return length > 0 ? ((x - way[0]) * dx + (y - way[1]) * dy) / length : 0;
}

// Between the middles of the steps.
double depthAlong(const Table& depths, double part) {
    const double at =
        std::clamp(part * static_cast<double>(depths.size()) - 0.5, 0.0, static_cast<double>(depths.size()) - 1);
    const auto lower = std::min(static_cast<std::size_t>(at), depths.size() - 2);
    return depths[lower] + (at - static_cast<double>(lower)) * (depths[lower + 1] - depths[lower]);
}

class HazeOperation final : public SpatialOperation {
public:
    explicit HazeOperation(const Settings& settings)
        : air_(*airLightOf(settings)), level_(static_cast<int>(tableOf(settings, HazeTable::measured)[0])) {
        const Table& measured = tableOf(settings, HazeTable::measured);
        const double of[3] = {air_.r, air_.g, air_.b};
        for (int c = 0; c < 3; ++c) {
            row_.air[c] = static_cast<float>(of[c]);
            row_.boundScale[c] = static_cast<float>(1 / std::max(0.01, of[c] - edge::hazeBlack));
        }
        row_.amount = static_cast<float>(settings.values[amount] / 100);
        row_.near = static_cast<float>(measured[1]);
        row_.scale = static_cast<float>(measured[2]);
        row_.most = static_cast<float>(-std::log(settings.values[leastClear] / 100));
        const Table& depths = tableOf(settings, HazeTable::depths);
        if (depths.size() > 1) {
            way_ = tableOf(settings, HazeTable::distance);
            depths_ = depths;
        }
        row_.byDistance = depths_.empty() || way_.empty() ? 0.0f : 0.5f;
    }

    int modelLevel(int) const override { return level_; }
    int leastModelLevel(base::Size photo) const override { return image::levelOfSide(photo, edge::hazeSide); }
    int reach(int) const override { return edge::transmissionReach(); }
    std::size_t planes() const override { return 6; }  // the lines, t evened out, and the depth by distance
    void addModelKey(base::KeyBuilder& key) const override {
        key.add(air_.r).add(air_.g).add(air_.b).add(level_);
        key.add(std::span<const double>(way_)).add(std::span<const double>(depths_));
    }
    Beyond beyondPhoto() const override { return Beyond::mirrored; }

    void makeModel(image::EncodedPlanes around, const Area& area, std::span<const image::Plane<float>>,
                   std::span<image::Plane<float>> model) const override {
        const int by = edge::transmissionReach();
        image::LinearPlanes picture = kernel::decoded(std::move(around));
        const edge::Lines lines = edge::transmissionLines(picture, air_);
        const base::Size size = model[0].size();
        const base::Rect own{by, by, by + size.width, by + size.height};
        for (std::size_t c = 0; c < 3; ++c) model[c] = image::cropped(lines.slope[c], own);
        model[3] = image::cropped(lines.offset, own);
        constexpr int evenBy = 2;
        for (image::Plane<float>* plane : {&picture.red, &picture.green, &picture.blue})
            *plane = kernel::boxMean(*plane, evenBy);
        model[4] = image::cropped(edge::transmission(picture, lines, air_), own);
        const bool hasWay = row_.byDistance > 0;
        model[5] = image::planeOf(size, [&](int x, int y) {
            if (!hasWay) return 0.0f;
            const double px = std::ldexp(area.rect.x0 + x + 0.5, area.level),
                         py = std::ldexp(area.rect.y0 + y + 0.5, area.level);
            return static_cast<float>(depthAlong(depths_, alongWay(way_, px, py)));
        });
    }

    void row(kernel::ConvertibleRow& pixels, std::span<const float* const> model) const override {
        HWY_DYNAMIC_DISPATCH(HazeRow)(row_, model.data(), pixels.linear(), pixels.count());
    }

private:
    colour::LinearRgb air_;
    int level_;
    HazeRowSettings row_;
    Table way_, depths_;
};

bool isIdentity(const Settings& settings) {
    return settings.values[amount] == 0 || tableOf(settings, HazeTable::colour).empty() ||
           tableOf(settings, HazeTable::measured).empty();
}

Operations prepare(const Settings& settings) {
    if (isIdentity(settings)) return {};
    return only<HazeOperation>(settings);
}

const char* invalidReason(const Settings& settings) {
    const Table& measured = tableOf(settings, HazeTable::measured);
    return !measured.empty() && measured[0] != std::floor(measured[0]) ? "a whole number for the level" : nullptr;
}

double rounded(double value) {
    return std::round(value * 1e4) / 1e4;
}

// -log t at a place of the photo; the place is moved onto it.
double depthAt(const image::Plane<float>& t, const double* place, int level) {
    const base::Size size = t.size();
    const auto at = [&](double photoPx, int length) {
        return std::clamp(static_cast<int>(std::floor(std::ldexp(photoPx, -level))), 0, length - 1);
    };
    const float value = t.row(at(place[1], size.height))[static_cast<std::size_t>(at(place[0], size.width))];
    return -std::log(std::max(0.01, double{value}));
}

double leastTwentieth(const image::Plane<float>& t) {
    std::vector<float> all;
    for (int y = 0; y < t.size().height; ++y) all.insert(all.end(), t.row(y).begin(), t.row(y).end());
    const auto clearest = all.begin() + static_cast<std::ptrdiff_t>(all.size() * 19 / 20);
    std::nth_element(all.begin(), clearest, all.end());
    return -std::log(std::max(0.01, double{*clearest}));
}

// The median of what is found in each step of the way, over all of the photo across it, never falling.
Table depthsAlong(const image::Plane<float>& t, const Table& way, int level) {
    std::array<std::vector<float>, waySteps> found;
    for (int y = 0; y < t.size().height; ++y) {
        for (int x = 0; x < t.size().width; ++x) {
            const double part = alongWay(way, std::ldexp(x + 0.5, level), std::ldexp(y + 0.5, level));
            if (part < 0 || part >= 1) continue;
            found[static_cast<std::size_t>(part * waySteps)].push_back(t.row(y)[static_cast<std::size_t>(x)]);
        }
    }
    Table depths;
    double most = 0;
    for (std::vector<float>& step : found) {
        if (!step.empty()) {
            const auto middle = step.begin() + static_cast<std::ptrdiff_t>(step.size() / 2);
            std::nth_element(step.begin(), middle, step.end());
            const double depth = -std::log(std::max(0.01, double{*middle}));
            most = depths.empty() ? depth : std::max(most, depth);
        }
        depths.push_back(most);
    }
    return depths;
}

Settings measure(Settings settings, const Subject& subject) {
    const int level = image::levelOfSide(subject.photoSize(), edge::hazeSide);
    const image::LinearPlanes picture =
        kernel::decoded(subject.picture(base::rectOf(image::levelSize(subject.photoSize(), level)), level));
    if (!airLightOf(settings)) settings = withAirLight(std::move(settings), edge::airLight(picture));
    const colour::LinearRgb air = *airLightOf(settings);
    const image::Plane<float> t = edge::transmission(picture, edge::transmissionLines(picture, air), air);
    double near = 0, scale = 1;
    const Table &nearMarks = tableOf(settings, HazeTable::near), &farMarks = tableOf(settings, HazeTable::far);
    for (std::size_t i = 0; i + 2 <= nearMarks.size(); i += 2)
        near = std::max(near, depthAt(t, nearMarks.data() + i, level));
    Table& depths = tableOf(settings, HazeTable::depths);
    depths.clear();
    if (const Table& way = tableOf(settings, HazeTable::distance); !way.empty()) {
        depths = depthsAlong(t, way, level);
        near = std::max(near, depths.front());
        for (double& depth : depths) depth = rounded(std::clamp(depth - near, 0.0, 10.0));
    }
    double sum = 0;
    int count = 0;
    for (std::size_t i = 0; i + 3 <= farMarks.size(); i += 3) {
        const double found = depthAt(t, farMarks.data() + i, level) - near;
        if (found < 0.02) continue;
        sum += std::clamp(-std::log(1 - farMarks[i + 2] / 100) / found, 0.0, 20.0);
        ++count;
    }
    if (count > 0) scale = sum / count;
    tableOf(settings, HazeTable::measured) = {static_cast<double>(level), rounded(std::min(near, 10.0)), rounded(scale),
                                              rounded(std::min(leastTwentieth(t), 10.0))};
    return settings;
}

}  // namespace

std::optional<colour::LinearRgb> airLightOf(const Settings& settings) {
    const Table& row = tableOf(settings, HazeTable::colour);
    if (row.size() != 3) return std::nullopt;
    return colour::LinearRgb{row[0] / 100, row[1] / 100, row[2] / 100};
}

Settings withAirLight(Settings settings, const colour::LinearRgb& air) {
    const auto percent = [](double v) { return rounded(std::clamp(100 * v, 0.0, 400.0)); };
    tableOf(settings, HazeTable::colour) = {percent(air.r), percent(air.g), percent(air.b)};
    tableOf(settings, HazeTable::measured).clear();
    return settings;
}

Settings withNearMark(Settings settings, double x, double y) {
    Table& marks = tableOf(settings, HazeTable::near);
    if (marks.size() >= 2 * mostMarks) marks.erase(marks.begin(), marks.begin() + 2);
    marks.insert(marks.end(), {x, y});
    tableOf(settings, HazeTable::measured).clear();
    return settings;
}

Settings withFarMark(Settings settings, double x, double y) {
    constexpr double thick = 85;  // to begin with
    Table& marks = tableOf(settings, HazeTable::far);
    if (marks.size() >= 3 * mostMarks) marks.erase(marks.begin(), marks.begin() + 3);
    marks.insert(marks.end(), {x, y, thick});
    tableOf(settings, HazeTable::measured).clear();
    return settings;
}

Settings withDistance(Settings settings, base::Point foot, base::Point skyline) {
    tableOf(settings, HazeTable::distance) = {std::round(foot.x), std::round(foot.y), std::round(skyline.x),
                                              std::round(skyline.y)};
    tableOf(settings, HazeTable::measured).clear();
    return settings;
}

Settings withoutMarks(Settings settings) {
    for (const HazeTable which :
         {HazeTable::near, HazeTable::far, HazeTable::distance, HazeTable::depths, HazeTable::measured})
        tableOf(settings, which).clear();
    return settings;
}

std::optional<double> leastHaze(const Settings& settings) {
    const Table& measured = tableOf(settings, HazeTable::measured);
    return measured.size() == 4 ? std::optional(measured[3]) : std::nullopt;
}

const AdjustmentKind haze = {
    .id = "haze",
    .label = "Haze",
    .category = "haze",
    .tip = "Takes off the air between, by how much of it lies before each place; or lays it on.",
    .params = params,
    .prepare = prepare,
    .tables = tables,
    .invalidReason = invalidReason,
    .isIdentity = isIdentity,
    .measure = measure,
    .sense = [](const Settings& settings) -> std::string_view {
        return settings.values[amount] > 0 ? "less haze" : "more haze";
    },
    .opposite = [](Settings settings) { return withMirrored(std::move(settings), params, std::array{amount}); },
    .changesHaze = true,
};

}  // namespace dimhem::adjust
#endif
