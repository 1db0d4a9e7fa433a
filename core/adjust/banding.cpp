#include "core/adjust/banding.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "core/adjust/banding_rows.h"
#include "core/kernel/box_sum.h"
#include "core/kernel/halving.h"
#include "core/kernel/plane_fit.h"

namespace dimhem::adjust {

namespace {

using image::Plane;

constexpr base::ParamSpec params[] = {
    {.id = "amount",
     .label = "Amount",
     .unit = "%",
     .max = 100,
     .tip = "How much of the steps that were found is filled in."},
    {.id = "keep-texture",
     .label = "Keep texture",
     .unit = "%",
     .max = 100,
     .neutral = 100,
     .tip = "How much of the grain and texture finer than a step stays on what is filled in."},
};
constexpr std::size_t amount = base::placeOf(params, "amount"), keepTexture = base::placeOf(params, "keep-texture");

constexpr base::ParamSpec measuredColumns[] = {
    {.id = "channel", .label = "Channel", .max = 2, .tip = "0 red, 1 green, 2 blue."},
    {.id = "step", .label = "Step", .unit = "levels", .max = 16, .decimals = 3, .tip = "From value to value; 0: none."},
    {.id = "phase", .label = "Phase", .unit = "levels", .max = 16, .decimals = 3, .tip = "Where the values lie."},
    {.id = "grain", .label = "Grain", .unit = "levels", .max = 128, .decimals = 3, .tip = "Noise on the steps."},
};
constexpr std::size_t columnCount = std::size(measuredColumns);
constexpr TableSpec tables[] = {{.id = "measured",
                                 .label = "Measured steps",
                                 .tip = "The step of each channel.",
                                 .columns = measuredColumns,
                                 .mostRows = 3,
                                 .neutral = {},
                                 .measured = true}};

constexpr double sigma = 3;  // of the fits, in pixels of each level
constexpr int firstLevel = 1, lastLevel = 4, reachOfFits = 12, reachOfPixels = 4;
constexpr float middle = 128;  // levels: values about 0 leave the fits more digits
constexpr Ramp varianceIsMore{1.2f, 1.6f}, liesOff{1.0f, 1.5f};

class BandingRemoval final : public SpatialOperation {
public:
    explicit BandingRemoval(const Settings& settings) : measured_(settings.tables[0]), steps_(measuredSteps(settings)) {
        amounts_.amount = static_cast<float>(settings.values[amount] / 100);
        amounts_.keep = static_cast<float>(settings.values[keepTexture] / 100);
        constexpr double mostOfStep = 0.55;
        for (std::size_t c = 0; c < 3; ++c) amounts_.most[c] = static_cast<float>(mostOfStep * steps_[c].step / 255);
    }

    int modelLevel(int level) const override { return std::min(level, lastLevel); }
    int reach(int modelLevel) const override { return modelLevel < firstLevel ? reachOfPixels : reachOfFits; }
    std::size_t planes() const override { return meanBlue + 1; }
    void addModelKey(base::KeyBuilder& key) const override { key.add(std::span<const double>(measured_)); }
    Beyond beyondPhoto() const override { return Beyond::nothing; }
    bool buildsOnCoarser(int level) const override { return level < lastLevel; }

    void makeModel(image::EncodedPlanes around, const Area& area, std::span<const Plane<float>> coarser,
                   std::span<Plane<float>> model) const override {
        const base::Size size = model[0].size();
        const int by = reach(area.level);
        const base::Rect own{by, by, by + size.width, by + size.height};
        const Channels channels{&around.red, &around.green, &around.blue};
        model[noEdge] = image::filled(size, 1.0f);
        for (std::size_t c = 0; c < 3; ++c)
            lookRound(*channels[c], steps_[c], own, area.level, model[meanRed + c], model[noEdge]);
        for (std::size_t plane = toRed; plane <= keepsSteps; ++plane) {
            model[plane] = image::filled(size, 0.0f);
            if (!coarser.empty()) kernel::addDoubled(coarser[plane], by / 2, 1, model[plane]);
        }
        if (area.level < firstLevel) return;
        fit(channels, area.level, model);
        model[keepsSteps] = image::cropped(accordance(channels, area.level), own);
    }

    void row(kernel::ConvertibleRow& pixels, std::span<const float* const> model) const override {
        bandingRow(amounts_, model.data(), pixels.encoded(), pixels.count());
    }

private:
    using Channels = std::array<const Plane<float>*, 3>;

    static float grainOn(const BandingStep& step, int level) {
        return static_cast<float>(step.grain) / static_cast<float>(1 << level);
    }

    // At an edge values lie further apart than two neighbouring steps and grain.
    static Ramp moreThanSteps(const BandingStep& step, int level) {
        const float q = static_cast<float>(step.step), grain = grainOn(step, level);
        return {(1.3f * q + 4 * grain) / 255, (2 * q + 5 * grain) / 255};
    }

    static void lookRound(const Plane<float>& channel, const BandingStep& step, const base::Rect& own, int level,
                          Plane<float>& mean, Plane<float>& free) {
        if (step.step == 0) {
            mean = image::cropped(channel, own);
            return;
        }
        const float q = static_cast<float>(step.step), grain = grainOn(step, level);
        const Alike alike{std::max(q / 2, 2 * grain) / 255, std::min(1.0f, grain / (0.2f * q))};
        for (int y = 0; y < own.height(); ++y) {
            const float* rows[5];
            for (int i = 0; i < 5; ++i) rows[i] = channel.row(own.y0 + y + i - 2).data() + own.x0;
            alikeRow(rows, alike, moreThanSteps(step, level), mean.row(y).data(), free.row(y).data(),
                     mean.row(y).size());
        }
    }

    // 0 where the picture bends more than steps do, which a slope does not however steep it is on a coarse level.
    Plane<float> withoutBends(const Channels& channels, int level) const {
        const base::Size size = channels[0]->size();
        Plane<float> free = image::filled(size, 1.0f);
        for (std::size_t c = 0; c < 3; ++c) {
            if (steps_[c].step == 0) continue;
            for (int y = 2; y < size.height - 2; ++y) {
                const auto row = [&](int at) { return channels[c]->row(at).data() + 2; };
                const float* rows[3] = {row(y - 2), row(y), row(y + 2)};
                bendRow(rows, moreThanSteps(steps_[c], level), free.row(y).data() + 2,
                        static_cast<std::size_t>(size.width - 4));
            }
        }
        return free;
    }

    // 1 where values keep to the steps, as far as grain lets them.
    Plane<float> accordance(const Channels& channels, int level) const {
        const base::Size size = channels[0]->size();
        Plane<float> sum = image::filled(size, 0.0f), inside = image::filled(size, 0.0f);
        for (std::size_t c = 0; c < 3; ++c) {
            if (steps_[c].step == 0) continue;
            const auto turn = static_cast<float>(2 * std::numbers::pi / steps_[c].step);
            const float off = turn * grainOn(steps_[c], level), left = std::exp(-off * off / 2);
            constexpr float leastLeft = 0.3f;
            for (int y = 0; y < size.height; ++y)
                accordanceRow(channels[c]->row(y).data(), 255 * turn, static_cast<float>(steps_[c].phase) / 255,
                              1 / std::max(left, leastLeft), sum.row(y).data(), inside.row(y).data(),
                              sum.row(y).size());
        }
        const int radius = std::max(2, 24 >> level);
        const Plane<float> keeping = kernel::boxSum(sum, radius), all = kernel::boxSum(inside, radius);
        return image::planeOf(size, [&](int x, int y) {
            constexpr float none = 0.15f, clear = 0.4f;
            const auto i = static_cast<std::size_t>(x);
            const float mean = keeping.row(y)[i] / std::max(1.0f, all.row(y)[i]);
            return std::min(std::max((mean - none) / (clear - none), 0.0f), 1.0f);
        });
    }

    void fit(const Channels& channels, int level, std::span<Plane<float>> model) const {
        constexpr int spare = reachOfFits - 9;
        const base::Size size = model[0].size();
        const base::Rect seen = base::grown(base::rectOf(channels[0]->size()), -spare);
        const auto isOutside = [](float v) { return v != v; };
        std::vector<Plane<float>> values;
        for (const Plane<float>* channel : channels) {
            values.push_back(image::cropped(*channel, seen));
            for (int y = 0; y < values.back().size().height; ++y) {
                for (float& v : values.back().row(y)) v = isOutside(v) ? 0 : 255 * v - middle;
            }
        }
        Plane<float> weights = image::cropped(withoutBends(channels, level), seen);
        for (int y = 0; y < weights.size().height; ++y) {
            const float* v = channels[0]->row(y + spare).data() + spare;
            float* w = weights.row(y).data();
            for (int x = 0; x < weights.size().width; ++x) w[x] = isOutside(v[x]) ? 0 : w[x];
        }
        std::vector<kernel::PlaneFit> fits = kernel::fittedPlanes(values, weights, sigma);
        Plane<float> about = image::filled(size, 0.0f), off = image::filled(size, 0.0f);
        float counted = 0;
        for (std::size_t c = 0; c < 3; ++c) {
            const float q = static_cast<float>(steps_[c].step), grain = grainOn(steps_[c], level);
            if (q == 0) continue;
            ++counted;
            for (int y = 0; y < size.height; ++y) {
                const std::span<float> value = fits[c].value.row(y);
                for (float& v : value) v = (v + middle) / 255;
                // Rounding moves no value by more than half a step.
                fitRow({value.data(), fits[c].variance.row(y).data(),
                        channels[c]->row(y + reachOfFits).data() + reachOfFits, model[isFit].row(y).data()},
                       q * q / 12 + grain * grain, (q / 2 + 2 * grain) / 255, model[toRed + c].row(y).data(),
                       about.row(y).data(), off.row(y).data(), value.size());
            }
        }
        for (int y = 0; y < size.height; ++y)
            isFitRow(about.row(y).data(), 1 / counted, varianceIsMore, off.row(y).data(), liesOff,
                     model[isFit].row(y).data(), about.row(y).size());
    }

    Table measured_;
    BandingSteps steps_;
    BandingAmounts amounts_;
};

bool isIdentity(const Settings& settings) {
    const BandingSteps steps = measuredSteps(settings);
    return settings.values[amount] == 0 || std::ranges::all_of(steps, [](const auto& s) { return s.step == 0; });
}

Operations prepare(const Settings& settings) {
    if (isIdentity(settings)) return {};
    return only<BandingRemoval>(settings);
}

const char* invalidReason(const Settings& settings) {
    const Table& table = settings.tables[0];
    for (std::size_t at = 0; at + columnCount <= table.size(); at += columnCount) {
        if (table[at] != std::floor(table[at])) return "a whole number for the channel";
    }
    return nullptr;
}

Settings measure(Settings settings, const Subject& subject) {
    constexpr std::size_t fewestBlocks = 64;
    StepMeter meter;
    showTiles(subject, 0, false, meter);
    if (meter.blocks() < fewestBlocks) showTiles(subject, 0, true, meter);
    const auto rounded = [](double v) { return std::round(v * 1000) / 1000; };
    Table table;
    const BandingSteps steps = meter.steps();
    for (std::size_t c = 0; c < steps.size(); ++c)
        table.insert(table.end(), {static_cast<double>(c), rounded(steps[c].step), rounded(steps[c].phase),
                                   rounded(std::min(steps[c].grain, 128.0))});
    settings.tables = {std::move(table)};
    return settings;
}

}  // namespace

BandingSteps measuredSteps(const Settings& settings) {
    BandingSteps steps;
    const Table& table = settings.tables[0];
    for (std::size_t at = 0; at + columnCount <= table.size(); at += columnCount)
        steps[static_cast<std::size_t>(table[at])] = {table[at + 1], table[at + 2], table[at + 3]};
    return steps;
}

const AdjustmentKind banding = {
    .id = "banding",
    .label = "Banding",
    .category = "noise",
    .tip = "Fills in the steps of a smooth place that had too few values, such as a stretched sky.",
    .params = params,
    .prepare = prepare,
    .tables = tables,
    .invalidReason = invalidReason,
    .isIdentity = isIdentity,
    .measure = measure,
    .needsDither = true,
};

}  // namespace dimhem::adjust
