#include "core/adjust/noise.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/adjust/noise.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <functional>

#include "core/image/tiles.h"
#include "core/kernel/halving.h"
#include "core/kernel/row_transform-inl.h"
#include "core/kernel/sliding_dct.h"

#ifndef DIMHEM_NOISE_AMOUNTS
#define DIMHEM_NOISE_AMOUNTS
namespace dimhem::adjust {

struct NoiseAmounts {
    float fine = 0, luminance = 0, colour = 0, blotches = 0;  // parts of what the model's planes hold
};

}  // namespace dimhem::adjust
#endif

HWY_BEFORE_NAMESPACE();
namespace dimhem::adjust {
namespace HWY_NAMESPACE {

namespace hn = hwy::HWY_NAMESPACE;

// R = Y + U + 2/3 V, G = Y - 4/3 V, B = Y - U + 2/3 V.
void AddChangeRow(const NoiseAmounts& amounts, const float* const* model, kernel::EncodedRow pixels,
                  std::size_t count) {
    const hn::ScalableTag<float> d;
    const auto k = [&](float value) HWY_ATTR { return hn::Set(d, value); };
    kernel::HWY_NAMESPACE::TransformRgb(
        d, pixels.red, pixels.green, pixels.blue, count, [&](std::size_t i, auto& r, auto& g, auto& b) HWY_ATTR {
            const auto at = [&](int plane)
                                HWY_ATTR { return kernel::HWY_NAMESPACE::LoadSome(d, model[plane], i, count); };
            const auto y = hn::MulAdd(k(amounts.fine), at(0), hn::Mul(k(amounts.luminance), at(1)));
            const auto u = hn::MulAdd(k(amounts.colour), at(2), hn::Mul(k(amounts.blotches), at(4)));
            const auto v = hn::MulAdd(k(amounts.colour), at(3), hn::Mul(k(amounts.blotches), at(5)));
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

HWY_EXPORT(AddChangeRow);

namespace {

using image::Plane;

constexpr base::ParamSpec params[] = {
    {.id = "luminance",
     .label = "Luminance",
     .unit = "%",
     .max = 100,
     .tip = "How much of the noise measured in luminance is taken out."},
    {.id = "colour",
     .label = "Colour",
     .unit = "%",
     .max = 100,
     .tip = "How much of the fine noise measured in colour is taken out."},
    {.id = "detail",
     .label = "Keep detail",
     .unit = "%",
     .max = 100,
     .tip = "Puts back the finest part of what was taken out of luminance."},
    {.id = "blotches",
     .label = "Blotches",
     .unit = "%",
     .max = 100,
     .tip = "How much of the coarse colour noise is taken out: blotches wider than four pixels of the photo."},
};
constexpr std::size_t luminance = base::placeOf(params, "luminance"), colourOf = base::placeOf(params, "colour"),
                      detail = base::placeOf(params, "detail"), blotches = base::placeOf(params, "blotches");

constexpr std::size_t planeCount = 3, keyColumns = 3, columnCount = keyColumns + noiseTones;
constexpr std::string_view columnIds[] = {"level",   "plane",   "band",    "tone-1",  "tone-2", "tone-3",  "tone-4",
                                          "tone-5",  "tone-6",  "tone-7",  "tone-8",  "tone-9", "tone-10", "tone-11",
                                          "tone-12", "tone-13", "tone-14", "tone-15", "tone-16"};
static_assert(std::size(columnIds) == columnCount);

constexpr auto measuredColumns = [] {
    std::array<base::ParamSpec, columnCount> columns;
    for (std::size_t i = 0; i < columnCount; ++i) {
        columns[i].id = columns[i].label = columnIds[i];
        columns[i].unit = i < keyColumns ? "" : "levels";
        columns[i].max = 128;
        columns[i].tip = "Standard deviation of the noise at this tone.";
    }
    columns[0].max = noiseLevels - 1;
    columns[0].tip = "Which level of the photo: each halves the one before.";
    columns[1].max = planeCount - 1;
    columns[1].tip = "0 luminance, 1 red to blue, 2 green.";
    columns[2].max = noiseBands - 1;
    columns[2].tip = "How fine, from 0, the coarsest.";
    return columns;
}();

constexpr TableSpec tables[] = {{.id = "measured",
                                 .label = "Measured noise",
                                 .tip = "The noise by level, plane, fineness and tone.",
                                 .columns = measuredColumns,
                                 .mostRows = noiseLevels * planeCount * noiseBands,
                                 .neutral = {},
                                 .measured = true}};

// The noise of one plane on one level: the variance by band and tone, of encoded values 0..1.
struct Measured {
    std::array<std::array<float, noiseTones>, noiseBands> variance{};
    bool isAny = false;
};

// By level and plane.
using AllMeasured = std::array<std::array<Measured, planeCount>, noiseLevels>;

AllMeasured measuredIn(const Table& table) {
    AllMeasured all;
    for (std::size_t at = 0; at + columnCount <= table.size(); at += columnCount) {
        const double* row = table.data() + at;
        Measured& of = all[static_cast<std::size_t>(row[0])][static_cast<std::size_t>(row[1])];
        for (std::size_t tone = 0; tone < noiseTones; ++tone) {
            const double sigma = row[keyColumns + tone] / 255;
            of.variance[static_cast<std::size_t>(row[2])][tone] = static_cast<float>(sigma * sigma);
            of.isAny = of.isAny || sigma > 0;
        }
    }
    return all;
}

bool isAny(const std::array<Measured, planeCount>& planes) {
    return std::ranges::any_of(planes, &Measured::isAny);
}

// Pixels on every side of a tile: what the two passes over patches need, and what is read between pixels.
constexpr int firstPass = 8, secondPass = 8, between = 4, reachPx = firstPass + secondPass + between;

// The planes of the model: changes of Y, U and V.
enum ModelPlane : std::size_t { fineY, restY, colourU, colourV, blotchU, blotchV, modelPlanes };

// A weighted sum of the channels, with the last row and column once more where it would have an odd number of them.
Plane<float> combined(const image::EncodedPlanes& from, float r, float g, float b) {
    const base::Size own = from.size();
    Plane<float> out({own.width + own.width % 2, own.height + own.height % 2});
    for (int y = 0; y < out.size().height; ++y) {
        const kernel::ConstEncodedRow row = kernel::rowOf(from, std::min(y, own.height - 1));
        float* to = out.row(y).data();
        for (int x = 0; x < own.width; ++x) to[x] = r * row.red[x] + g * row.green[x] + b * row.blue[x];
        if (own.width % 2 == 1) to[own.width] = to[own.width - 1];
    }
    return out;
}

Plane<float> difference(const Plane<float>& a, const Plane<float>& b) {
    return image::planeOf(a.size(), [&](int x, int y) {
        const auto i = static_cast<std::size_t>(x);
        return a.row(y)[i] - b.row(y)[i];
    });
}

// The noise of each patch: between the middles of the tones, which its mean lies between.
kernel::PatchNoise noiseUnder(const Plane<float>& tones, const Measured& measured) {
    const base::Size patches = tones.size();
    kernel::PatchNoise noise;
    for (Plane<float>& variance : noise) variance = Plane<float>(patches);
    for (int y = 0; y < patches.height; ++y) {
        for (std::size_t x = 0; x < static_cast<std::size_t>(patches.width); ++x) {
            const float at = std::clamp(tones.row(y)[x] * noiseTones - 0.5f, 0.0f, static_cast<float>(noiseTones - 1));
            const auto lower = std::min(static_cast<std::size_t>(at), noiseTones - 2);
            const float part = at - static_cast<float>(lower);
            for (std::size_t band = 0; band < noiseBands; ++band) {
                const float* of = measured.variance[band].data() + lower;
                noise[band].row(y)[x] = of[0] + part * (of[1] - of[0]);
            }
        }
    }
    return noise;
}

kernel::PatchNoise cropped(const kernel::PatchNoise& noise, const base::Rect& patches) {
    kernel::PatchNoise out;
    for (std::size_t band = 0; band < noiseBands; ++band) out[band] = image::cropped(noise[band], patches);
    return out;
}

// What the passes take out of a plane, on the tile grown by `between`.
Plane<float> takenOut(const Plane<float>& plane, const Plane<float>& tones, const Measured& measured) {
    constexpr int skipped = firstPass / kernel::patchStep;
    const base::Rect all = base::rectOf(plane.size()), inner = base::grown(all, -firstPass),
                     kept = base::grown(inner, -secondPass),
                     ownKept = base::grown(base::rectOf(inner.size()), -secondPass);
    const kernel::PatchNoise noise = noiseUnder(tones, measured);
    const Plane<float> pilot = kernel::withoutSmallCoefficients(plane, noise);
    const Plane<float> clean =
        kernel::wienerFiltered(image::cropped(plane, inner), image::cropped(pilot, inner),
                               cropped(noise, base::grown(base::rectOf(tones.size()), -skipped)));
    return difference(image::cropped(clean, ownKept), image::cropped(plane, kept));
}

// Without what the next coarser level sees of it. `change` is larger by `between` on every side, and even.
Plane<float> fineOf(const Plane<float>& change, base::Size size) {
    Plane<float> out =
        image::cropped(change, base::Rect{between, between, between + size.width, between + size.height});
    kernel::addDoubled(kernel::halved(change), between / 2, -1, out);
    return out;
}

class NoiseRemoval final : public SpatialOperation {
public:
    explicit NoiseRemoval(const Settings& settings) : table_(settings.tables[0]), measured_(measuredIn(table_)) {
        const auto part = [&](std::size_t value) { return static_cast<float>(settings.values[value] / 100); };
        amounts_ = {part(luminance) * (1 - part(detail)), part(luminance), part(colourOf), part(blotches)};
    }

    int modelLevel(int level) const override { return level; }
    int reach(int) const override { return reachPx; }
    std::size_t planes() const override { return modelPlanes; }
    void addModelKey(base::KeyBuilder& key) const override { key.add(std::span<const double>(table_)); }
    Beyond beyondPhoto() const override { return Beyond::mirrored; }
    bool buildsOnCoarser(int level) const override { return level + 1 < noiseLevels; }

    void makeModel(image::EncodedPlanes around, const Area& area, std::span<const Plane<float>> coarser,
                   std::span<Plane<float>> model) const override {
        const base::Size size = model[0].size();
        for (Plane<float>& plane : model) plane = image::filled(size, 0.0f);
        for (std::size_t i = 0; i < coarser.size(); ++i)
            kernel::addDoubled(coarser[i], reachPx / 2, 1, model[i == fineY ? std::size_t{restY} : i]);
        if (area.level >= noiseLevels) return;
        const auto& measured = measured_[static_cast<std::size_t>(area.level)];
        if (!isAny(measured)) return;
        const Plane<float> y = combined(around, 1.0f / 3, 1.0f / 3, 1.0f / 3), tones = kernel::patchMeans(y);
        const auto take = [&](const Plane<float>& plane, NoisePlane which, std::size_t to) {
            const Measured& noise = measured[static_cast<std::size_t>(which)];
            if (!noise.isAny) return;
            const Plane<float> fine = fineOf(takenOut(plane, tones, noise), size);
            for (int row = 0; row < size.height; ++row)
                std::transform(fine.row(row).begin(), fine.row(row).end(), model[to].row(row).begin(),
                               model[to].row(row).begin(), std::plus<>());
        };
        const bool isBlotch = area.level >= 2;
        take(y, NoisePlane::y, area.level == 0 ? fineY : restY);
        take(combined(around, 0.5f, 0, -0.5f), NoisePlane::u, isBlotch ? blotchU : colourU);
        take(combined(around, 0.25f, -0.5f, 0.25f), NoisePlane::v, isBlotch ? blotchV : colourV);
    }

    void row(kernel::ConvertibleRow& pixels, std::span<const float* const> model) const override {
        HWY_DYNAMIC_DISPATCH(AddChangeRow)(amounts_, model.data(), pixels.encoded(), pixels.count());
    }

private:
    Table table_;
    AllMeasured measured_;
    NoiseAmounts amounts_;
};

bool isIdentity(const Settings& settings) {
    const auto& v = settings.values;
    return (v[luminance] == 0 && v[colourOf] == 0 && v[blotches] == 0) ||
           std::ranges::none_of(measuredIn(settings.tables[0]), isAny);
}

const char* invalidReason(const Settings& settings) {
    const Table& table = settings.tables[0];
    for (std::size_t at = 0; at + columnCount <= table.size(); at += columnCount) {
        for (std::size_t key = 0; key < keyColumns; ++key) {
            if (table[at + key] != std::floor(table[at + key])) return "whole numbers for level, plane and band";
        }
    }
    return nullptr;
}

// Noise much coarser than a level's own is taken for the picture itself: luminance of white noise halves from level to
// level, that of a developed photo falls by less. In colour a level has at most what the one before has, or as much
// beside luminance as white noise does: a file of JPEG takes the fine noise of colour out and leaves the coarse.
constexpr double mostLuminance = 0.8, mostColour = 1.0, besideLuminance = 1.25;
constexpr std::size_t fewestBlocks = 64;

double rounded(double value) {
    return std::round(value * 1000) / 1000;
}

void addRows(Table& table, int level, NoisePlane plane, const NoiseOfPlane& noise) {
    for (std::size_t band = 0; band < noiseBands; ++band) {
        table.insert(table.end(), {static_cast<double>(level), static_cast<double>(plane), static_cast<double>(band)});
        for (const double sigma : noise.sigma[band]) table.push_back(rounded(std::min(255 * sigma, 128.0)));
    }
}

// What is known of a level: at most so much of `limit`; where too little was looked at, half of the level before, as of
// white noise.
template <class Limit>
NoiseOfPlane held(NoiseOfPlane noise, const NoiseOfPlane& before, Limit limit) {
    const bool isKnown = noise.blocks >= fewestBlocks;
    for (std::size_t tone = 0; tone < noiseTones; ++tone) {
        for (auto& band : noise.sigma)
            band[tone] = isKnown ? std::min(band[tone], limit(tone)) : before.ofTone(tone) / 2;
    }
    return noise;
}

NoiseLevel heldBy(const NoiseLevel& level, const NoiseLevel& before) {
    NoiseLevel out;
    out.y = held(level.y, before.y, [&](std::size_t tone) { return mostLuminance * before.y.ofTone(tone); });
    const auto colour = [&](const NoiseOfPlane& finer) {
        return [&](std::size_t tone) {
            return std::max(mostColour * finer.ofTone(tone), besideLuminance * out.y.ofTone(tone));
        };
    };
    out.u = held(level.u, before.u, colour(before.u));
    out.v = held(level.v, before.v, colour(before.v));
    return out;
}

NoiseLevel measuredOn(const Subject& subject, int level, bool everywhere) {
    NoiseMeter meter;
    showTiles(subject, level, everywhere, meter);
    return meter.level();
}

}  // namespace

NoiseByLevel noiseOf(const Subject& subject) {
    NoiseByLevel levels{measuredOn(subject, 0, false)};
    const bool everywhere = levels[0].y.blocks < fewestBlocks;
    if (everywhere) levels[0] = measuredOn(subject, 0, true);
    for (int level = 1; level < noiseLevels; ++level) levels.push_back(measuredOn(subject, level, everywhere));
    return levels;
}

Settings withNoise(Settings settings, const NoiseByLevel& levels) {
    Table table;
    NoiseLevel last;
    for (std::size_t level = 0; level < levels.size(); ++level) {
        last = level == 0 ? levels[0] : heldBy(levels[level], last);
        const int number = static_cast<int>(level);
        if (number + 1 < noiseLevels) addRows(table, number, NoisePlane::y, last.y);
        addRows(table, number, NoisePlane::u, last.u);
        addRows(table, number, NoisePlane::v, last.v);
    }
    settings.tables = {std::move(table)};
    return settings;
}

std::vector<double> measuredNoise(const Settings& settings, int level, NoisePlane plane, std::size_t band) {
    const Table& table = settings.tables[0];
    for (std::size_t at = 0; at + columnCount <= table.size(); at += columnCount) {
        if (table[at] == level && table[at + 1] == static_cast<double>(plane) &&
            table[at + 2] == static_cast<double>(band)) {
            const auto from = table.begin() + static_cast<std::ptrdiff_t>(at + keyColumns);
            return {from, from + noiseTones};
        }
    }
    return {};
}

const AdjustmentKind noise = {
    .id = "noise",
    .label = "Noise",
    .category = "noise",
    .tip = "Takes out the noise that was measured in the photo, in luminance and colour apart.",
    .params = params,
    .prepare = [](const Settings& settings) { return only<NoiseRemoval>(settings); },
    .tables = tables,
    .invalidReason = invalidReason,
    .isIdentity = isIdentity,
    .measure = [](Settings settings,
                  const Subject& subject) { return withNoise(std::move(settings), noiseOf(subject)); },
};

}  // namespace dimhem::adjust
#endif
