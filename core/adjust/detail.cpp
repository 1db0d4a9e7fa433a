#include "core/adjust/detail.h"

#include <algorithm>
#include <cmath>

#include "core/adjust/edge_softening.h"
#include "core/adjust/local_contrast.h"
#include "core/adjust/noise_level.h"
#include "core/adjust/sharpening.h"

namespace dimhem::adjust {

namespace {

constexpr base::ParamSpec params[] = {
    {.id = "local-contrast",
     .label = "Local contrast",
     .unit = "%",
     .min = -100,
     .max = 100,
     .tip = "Brings what is about as large as the scale out, or evens it; edges keep their height."},
    {.id = "scale",
     .label = "Scale",
     .unit = "px",
     .min = 8,
     .max = 400,
     .neutral = 60,
     .tip = "How large what local contrast brings out is, in pixels of the photo.",
     .scale = base::Scale::logarithmic},
    {.id = "sharpen", .label = "Sharpen", .unit = "%", .max = 300, .tip = "Makes fine detail and edges stronger."},
    {.id = "sharpen-radius",
     .label = "Sharpen radius",
     .unit = "px",
     .min = 0.3,
     .max = 10,
     .neutral = 1,
     .step = 0.1,
     .decimals = 1,
     .tip = "How fine what is sharpened is, in pixels of the photo.",
     .scale = base::Scale::logarithmic},
    {.id = "sharpen-threshold",
     .label = "Spare noise",
     .unit = "×",
     .max = 5,
     .neutral = 2,
     .step = 0.1,
     .decimals = 1,
     .tip = "Differences up to so many times the noise that was measured are not sharpened."},
    {.id = "sharpen-halo",
     .label = "Halo",
     .unit = "%",
     .max = 100,
     .neutral = 10,
     .tip = "How far beyond the tones around it sharpening may take a pixel, of their range."},
    {.id = "soften",
     .label = "Soften",
     .unit = "%",
     .max = 100,
     .tip = "Evens out what is smaller than the radius; edges stay sharp."},
    {.id = "soften-radius",
     .label = "Soften radius",
     .unit = "px",
     .min = 1,
     .max = 200,
     .neutral = 8,
     .tip = "How large what is evened out is, in pixels of the photo.",
     .scale = base::Scale::logarithmic},
    {.id = "soften-texture",
     .label = "Soften texture",
     .unit = "%",
     .max = 100,
     .tip = "Softens texture, keeps tone: weave, pores and wrinkles go; folds and shading stay."},
    {.id = "soften-tone",
     .label = "Soften tone",
     .unit = "%",
     .max = 100,
     .tip = "Softens tone, keeps texture: patches and shading go; weave and pores stay."},
    {.id = "split",
     .label = "Split at",
     .unit = "px",
     .min = 2,
     .max = 60,
     .neutral = 10,
     .tip = "What is finer counts as texture, what is coarser as tone, in pixels of the photo.",
     .scale = base::Scale::logarithmic},
};
constexpr std::size_t localContrast = base::placeOf(params, "local-contrast"), scaleOf = base::placeOf(params, "scale"),
                      sharpen = base::placeOf(params, "sharpen"),
                      sharpenRadius = base::placeOf(params, "sharpen-radius"),
                      threshold = base::placeOf(params, "sharpen-threshold"),
                      halo = base::placeOf(params, "sharpen-halo"), soften = base::placeOf(params, "soften"),
                      softenRadius = base::placeOf(params, "soften-radius"),
                      texture = base::placeOf(params, "soften-texture"), tone = base::placeOf(params, "soften-tone"),
                      split = base::placeOf(params, "split");

constexpr base::ParamSpec measuredColumns[] = {
    {.id = "noise", .label = "Noise", .unit = "levels", .max = 128, .decimals = 2, .tip = "Noise in luminance."}};
constexpr TableSpec tables[] = {{.id = "measured",
                                 .label = "Measured noise",
                                 .tip = "The noise in luminance.",
                                 .columns = measuredColumns,
                                 .mostRows = 1,
                                 .neutral = {},
                                 .measured = true}};

bool isIdentity(const Settings& settings) {
    const auto& v = settings.values;
    return v[localContrast] == 0 && v[sharpen] == 0 && v[soften] == 0 && v[texture] == 0 && v[tone] == 0;
}

double noiseOf(const Settings& settings) {
    return settings.tables[0].empty() ? 0 : settings.tables[0][0] / 255;
}

Operations prepare(const Settings& settings) {
    const auto& v = settings.values;
    Operations out;
    const auto add = [&]<class T>(std::unique_ptr<const T> operation) { out.emplace_back(std::move(operation)); };
    if (v[soften] > 0) add(std::make_unique<const EdgeSoftening>(Softened::all, v[soften] / 100, v[softenRadius]));
    if (v[texture] > 0) add(std::make_unique<const EdgeSoftening>(Softened::all, v[texture] / 100, v[split]));
    if (v[tone] > 0) add(std::make_unique<const EdgeSoftening>(Softened::toneAlone, v[tone] / 100, v[split]));
    if (v[localContrast] != 0) add(std::make_unique<const LocalContrast>(v[localContrast] / 100, v[scaleOf]));
    if (v[sharpen] > 0) {
        add(std::make_unique<const Sharpening>(SharpeningSettings{.amount = v[sharpen] / 100,
                                                                  .radiusPx = v[sharpenRadius],
                                                                  .threshold = v[threshold] * noiseOf(settings),
                                                                  .halo = v[halo] / 100}));
    }
    return out;
}

Settings measure(Settings settings, const Subject& subject) {
    constexpr std::size_t fewestBlocks = 64;
    const auto noiseIn = [&](bool everywhere) {
        NoiseMeter meter;
        showTiles(subject, 0, everywhere, meter);
        return meter.level().y;
    };
    NoiseOfPlane noise = noiseIn(false);
    if (noise.blocks < fewestBlocks) noise = noiseIn(true);
    settings.tables[0] = {std::round(std::min(255 * noise.overall, 128.0) * 100) / 100};
    return settings;
}

// Of its three only local contrast has one: sharpening does not undo softening, nor the other way round.
Settings opposite(Settings settings) {
    settings.values[sharpen] = settings.values[soften] = 0;
    return withMirrored(std::move(settings), params, std::array{localContrast});
}

std::string_view sense(const Settings& settings) {
    if (settings.values[localContrast] != 0) return settings.values[localContrast] > 0 ? "clearer" : "flatter";
    return settings.values[sharpen] != 0 ? "sharper" : "softer";
}

}  // namespace

const AdjustmentKind detail = {
    .id = "detail",
    .label = "Detail",
    .category = "detail",
    .tip = "Local contrast, sharpening and softening about edges that stay as they are.",
    .params = params,
    .prepare = prepare,
    .tables = tables,
    .isIdentity = isIdentity,
    .measure = measure,
    .sample =
        [] {
            return neutralWith(detail, {{base::placeOf(params, "local-contrast"), 100}});
        },
    .sense = sense,
    .opposite = opposite,
    .bringsOutDetail = true,
};

}  // namespace dimhem::adjust
