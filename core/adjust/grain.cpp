#include "core/adjust/grain.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/adjust/grain.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include <algorithm>
#include <cmath>

#include "core/kernel/gaussian.h"
#include "core/kernel/grain_rows.h"
#include "core/kernel/row_transform-inl.h"
#include "core/kernel/table16-inl.h"

#ifndef DIMHEM_GRAIN_ROW
#define DIMHEM_GRAIN_ROW
namespace dimhem::adjust {

struct GrainRowSettings {
    alignas(64) float sigma[grainTones];  // encoded, the amount in it
    float colour;
};

}  // namespace dimhem::adjust
#endif

HWY_BEFORE_NAMESPACE();
namespace dimhem::adjust {
namespace HWY_NAMESPACE {

namespace hn = hwy::HWY_NAMESPACE;

// R = Y + U + 2/3 V, G = Y - 4/3 V, B = Y - U + 2/3 V.
void GrainRow(const GrainRowSettings& s, const float* const* model, kernel::EncodedRow pixels, std::size_t count) {
    const hn::ScalableTag<float> d;
    const hn::RebindToSigned<decltype(d)> di;
    const auto k = [&](float v) HWY_ATTR { return hn::Set(d, v); };
    kernel::HWY_NAMESPACE::TransformRgb(
        d, pixels.red, pixels.green, pixels.blue, count, [&](std::size_t i, auto& r, auto& g, auto& b) HWY_ATTR {
            const auto noise = [&](int plane)
                                   HWY_ATTR { return kernel::HWY_NAMESPACE::LoadSome(d, model[plane], i, count); };
            const auto tone = hn::Mul(hn::Add(r, hn::Add(g, b)), k(1.0f / 3));
            // Between the middles of the tones.
            const auto at = hn::MulAdd(tone, k(static_cast<float>(grainTones)), k(-0.5f));
            const auto held = hn::Min(hn::Max(at, hn::Zero(d)), k(static_cast<float>(grainTones - 1)));
            const auto lower = hn::Min(hn::ConvertTo(di, held), hn::Set(di, static_cast<int>(grainTones) - 2));
            const auto from = kernel::HWY_NAMESPACE::Take16(d, s.sigma, lower),
                       to = kernel::HWY_NAMESPACE::Take16(d, s.sigma, hn::Add(lower, hn::Set(di, 1)));
            const auto sigma = hn::MulAdd(hn::Sub(held, hn::ConvertTo(d, lower)), hn::Sub(to, from), from);
            const auto y = hn::Mul(sigma, noise(0)), coloured = hn::Mul(sigma, k(s.colour));
            const auto u = hn::Mul(coloured, noise(1)), v = hn::Mul(coloured, noise(2));
            const auto yv = hn::MulAdd(k(2.0f / 3), v, y);
            r = hn::Add(r, hn::Add(yv, u));
            g = hn::Add(g, hn::NegMulAdd(k(4.0f / 3), v, y));
            b = hn::Add(b, hn::Sub(yv, u));
        });
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::adjust
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace dimhem::adjust {

HWY_EXPORT(GrainRow);

namespace {

using image::Plane;

constexpr base::ParamSpec params[] = {
    {.id = "amount",
     .label = "Amount",
     .unit = "%",
     .max = 200,
     .tip = "How much grain is laid on, of what was measured."},
    {.id = "size",
     .label = "Size",
     .unit = "%",
     .min = 50,
     .max = 300,
     .neutral = 100,
     .tip = "How coarse it is, beside what was measured."},
    {.id = "colour",
     .label = "Colour",
     .unit = "%",
     .max = 200,
     .neutral = 100,
     .tip = "How much of it is colour, beside what was measured."},
};
constexpr std::size_t amount = base::placeOf(params, "amount"), sizeOf = base::placeOf(params, "size"),
                      colourOf = base::placeOf(params, "colour");

constexpr std::size_t ownColumns = 2, columnCount = ownColumns + grainTones;
constexpr std::string_view columnIds[] = {"size",    "colour",  "tone-1",  "tone-2",  "tone-3",  "tone-4",
                                          "tone-5",  "tone-6",  "tone-7",  "tone-8",  "tone-9",  "tone-10",
                                          "tone-11", "tone-12", "tone-13", "tone-14", "tone-15", "tone-16"};
static_assert(std::size(columnIds) == columnCount);
constexpr auto measuredColumns = [] {
    std::array<base::ParamSpec, columnCount> columns;
    for (std::size_t i = 0; i < columnCount; ++i) {
        columns[i].id = columns[i].label = columnIds[i];
        columns[i].unit = "levels";
        columns[i].max = 128;
        columns[i].tip = "Standard deviation of the grain at this tone.";
    }
    columns[0].unit = "px";
    columns[0].max = 16;
    columns[0].tip = "How coarse the grain is.";
    columns[1].unit = "";
    columns[1].max = 4;
    columns[1].tip = "The grain of colour beside that of luma.";
    return columns;
}();
constexpr TableSpec tables[] = {{.id = "measured",
                                 .label = "Measured grain",
                                 .tip = "Size, colour and strength by tone.",
                                 .columns = measuredColumns,
                                 .mostRows = 1,
                                 .neutral = {},
                                 .measured = true}};

// The sum of the squares of a Gaussian's taps: what it leaves of the variance of white noise, along one line.
double varianceLeft(double sigma) {
    if (sigma < 0.05) return 1;
    double sum = 0, squares = 0;
    for (int i = -kernel::gaussianReach(sigma); i <= kernel::gaussianReach(sigma); ++i) {
        const double w = std::exp(-i * i / (2 * sigma * sigma));
        sum += w;
        squares += w * w;
    }
    return squares / (sum * sum);
}

// The correlation of neighbours in white noise under a Gaussian of so many pixels, as its taps make it.
double correlationOfTaps(double sigma) {
    if (sigma < 0.05) return 0;
    double beside = 0, squares = 0;
    for (int i = -kernel::gaussianReach(sigma); i <= kernel::gaussianReach(sigma); ++i) {
        const auto tap = [=](int at) {
            return std::abs(at) > kernel::gaussianReach(sigma) ? 0.0 : std::exp(-at * at / (2 * sigma * sigma));
        };
        beside += tap(i) * tap(i + 1);
        squares += tap(i) * tap(i);
    }
    return beside / squares;
}

// The sigma whose taps correlate neighbours as grain of a size does, exp(-1 / (4 size^2)): of fine grain it is wider
// than the size, since taps stand a whole pixel apart.
double sigmaOfTaps(double sizePx) {
    if (sizePx < 0.1) return 0;
    const double wanted = std::exp(-1 / (4 * sizePx * sizePx));
    double low = 0.05, high = 2 * sizePx + 1;
    for (int i = 0; i < 40; ++i) {
        const double middle = (low + high) / 2;
        (correlationOfTaps(middle) < wanted ? low : high) = middle;
    }
    return (low + high) / 2;
}

class Graining final : public SpatialOperation {
public:
    explicit Graining(const Settings& settings) {
        const GrainLevel level = *measuredGrain(settings);
        sizePx_ = level.sizePx * settings.values[sizeOf] / 100;
        for (std::size_t tone = 0; tone < grainTones; ++tone)
            row_.sigma[tone] = static_cast<float>(level.sigma[tone] * settings.values[amount] / 100);
        row_.colour = static_cast<float>(level.colour * settings.values[colourOf] / 100);
    }

    int modelLevel(int level) const override { return level; }
    int reach(int) const override { return 0; }
    std::size_t planes() const override { return 3; }
    void addModelKey(base::KeyBuilder& key) const override { key.add("grain").add(sizePx_); }

    void makeModel(image::EncodedPlanes, const Area& area, std::span<const Plane<float>>,
                   std::span<Plane<float>> model) const override {
        const double sigma = sigmaOfTaps(sizePx_ / (1 << area.level));
        const int by = kernel::gaussianReach(sigma);
        const base::Rect wide = base::grown(area.rect, by);
        for (Plane<float>& plane : model) plane = Plane<float>(wide.size());
        for (int y = 0; y < wide.height(); ++y) {
            float* rows[3] = {model[0].row(y).data(), model[1].row(y).data(), model[2].row(y).data()};
            kernel::whiteNoiseRows(rows, static_cast<std::size_t>(wide.width()), wide.x0, wide.y0 + y,
                                   static_cast<std::uint32_t>(area.level));
        }
        const auto scale = static_cast<float>(deviationOfMean(sizePx_, 1 << area.level) / varianceLeft(sigma));
        for (Plane<float>& plane : model) {
            kernel::gaussianBlur(plane, sigma);
            plane = image::cropped(plane, {by, by, by + area.rect.width(), by + area.rect.height()});
            for (int y = 0; y < plane.size().height; ++y) {
                for (float& v : plane.row(y)) v *= scale;
            }
        }
    }

    void row(kernel::ConvertibleRow& pixels, std::span<const float* const> model) const override {
        HWY_DYNAMIC_DISPATCH(GrainRow)(row_, model.data(), pixels.encoded(), pixels.count());
    }

private:
    double sizePx_;
    GrainRowSettings row_;
};

bool isIdentity(const Settings& settings) {
    const auto level = measuredGrain(settings);
    return settings.values[amount] == 0 || !level || std::ranges::all_of(level->sigma, [](double s) { return s == 0; });
}

Operations prepare(const Settings& settings) {
    if (isIdentity(settings)) return {};
    return only<Graining>(settings);
}

Settings measure(Settings settings, const Subject& subject) {
    constexpr std::size_t fewest = 8;
    GrainMeter meter;
    if (subject.isPainted()) {
        showBeside(subject, 0, meter);
    } else {
        showTiles(subject, 0, false, meter);
    }
    if (meter.level().blocks < fewest) showTiles(subject, 0, true, meter);
    return withGrain(std::move(settings), meter.level());
}

}  // namespace

std::optional<GrainLevel> measuredGrain(const Settings& settings) {
    const Table& table = settings.tables[0];
    if (table.size() != columnCount) return std::nullopt;
    GrainLevel level;
    level.sizePx = table[0];
    level.colour = table[1];
    for (std::size_t tone = 0; tone < grainTones; ++tone) level.sigma[tone] = table[ownColumns + tone] / 255;
    return level;
}

Settings withGrain(Settings settings, const GrainLevel& level) {
    const auto rounded = [](double v, double most) { return std::round(std::min(v, most) * 1000) / 1000; };
    Table table{rounded(level.sizePx, 16), rounded(level.colour, 4)};
    for (const double sigma : level.sigma) table.push_back(rounded(255 * sigma, 128));
    settings.tables = {std::move(table)};
    return settings;
}

double deviationOfMean(double sizePx, int side) {
    double sum = side;  // of the correlations of all pairs along one line
    for (int d = 1; d < side && sizePx > 0; ++d) sum += 2 * (side - d) * std::exp(-d * d / (4 * sizePx * sizePx));
    return sum / side / side;
}

const AdjustmentKind grain = {
    .id = "grain",
    .label = "Grain",
    .category = "noise",
    .tip = "Lays grain like the photo's own over what was smoothed, filled or painted.",
    .params = params,
    .prepare = prepare,
    .tables = tables,
    .isIdentity = isIdentity,
    .measure = measure,
    .laysGrain = true,
};

}  // namespace dimhem::adjust
#endif
