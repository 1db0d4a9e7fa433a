#include "core/adjust/banding.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/adjust/banding.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>

#include "core/kernel/box_sum.h"
#include "core/kernel/extreme_filter.h"
#include "core/kernel/halving.h"
#include "core/kernel/plane_fit.h"
#include "core/kernel/row_transform-inl.h"

#ifndef DIMHEM_BANDING_ROW
#define DIMHEM_BANDING_ROW
namespace dimhem::adjust {

// The planes of the model: where the bands lead to, whether the fit is one, whether values keep to the steps, whether
// there is no edge, and the mean of what is alike.
enum BandingPlane : std::size_t { toRed, toGreen, toBlue, isFit, keepsSteps, noEdge, meanRed, meanGreen, meanBlue };

struct BandingRowSettings {
    float amount, keep, most[3];
};

}  // namespace dimhem::adjust
#endif

HWY_BEFORE_NAMESPACE();
namespace dimhem::adjust {
namespace HWY_NAMESPACE {

namespace hn = hwy::HWY_NAMESPACE;

void BandingRow(const BandingRowSettings& s, const float* const* model, kernel::EncodedRow pixels, std::size_t count) {
    const hn::ScalableTag<float> d;
    const auto k = [&](float v) HWY_ATTR { return hn::Set(d, v); };
    kernel::HWY_NAMESPACE::TransformRgb(
        d, pixels.red, pixels.green, pixels.blue, count, [&](std::size_t i, auto& r, auto& g, auto& b) HWY_ATTR {
            const auto at = [&](std::size_t plane)
                                HWY_ATTR { return kernel::HWY_NAMESPACE::LoadSome(d, model[plane], i, count); };
            const auto weight = hn::Mul(k(s.amount), hn::Mul(at(isFit), hn::Mul(at(keepsSteps), at(noEdge))));
            const auto changed = [&](auto v, std::size_t c) HWY_ATTR {
                const auto from = hn::MulAdd(k(s.keep), hn::Sub(at(meanRed + c), v), v);
                const auto most = k(s.most[c]);
                const auto by = hn::Min(hn::Max(hn::Sub(at(toRed + c), from), hn::Neg(most)), most);
                return hn::MulAdd(weight, by, v);
            };
            r = changed(r, 0);
            g = changed(g, 1);
            b = changed(b, 2);
        });
}

// The mean of what lies within two pixels and is like the middle: weights fall to none at `width` from its value.
// Not-a-number counts as unlike.
void MeanOfAlikeRow(const float* const rows[5], float width, float* out, std::size_t count) {
    const hn::ScalableTag<float> d;
    const auto scale = hn::Set(d, 1 / (width * width));
    kernel::HWY_NAMESPACE::TransformRow(d, out, count, [&](std::size_t i, auto) HWY_ATTR {
        const auto middle = kernel::HWY_NAMESPACE::LoadSome(d, rows[2], i, count);
        auto sum = hn::Zero(d), weights = hn::Set(d, 1.0f);
        for (int y = 0; y < 5; ++y) {
            for (int x = -2; x <= 2; ++x) {
                if (y == 2 && x == 0) continue;
                const auto by = hn::Sub(kernel::HWY_NAMESPACE::LoadSome(d, rows[y] + x, i, count), middle);
                const auto unlike = hn::Mul(hn::Mul(by, by), scale), like = hn::Sub(hn::Set(d, 1.0f), unlike);
                const auto weight = hn::IfThenElseZero(hn::Gt(like, hn::Zero(d)), hn::Mul(like, like));
                sum = hn::MulAdd(weight, hn::IfThenElseZero(hn::Gt(like, hn::Zero(d)), by), sum);
                weights = hn::Add(weights, weight);
            }
        }
        return hn::Add(middle, hn::Div(sum, weights));
    });
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::adjust
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace dimhem::adjust {

HWY_EXPORT(BandingRow);
HWY_EXPORT(MeanOfAlikeRow);

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
constexpr float middle = 128;  // values about 0 leave the fits more digits

// 0 up to `none`, 1 from `all` on.
float ramp(float v, float none, float all) {
    return std::clamp((v - none) / (all - none), 0.0f, 1.0f);
}

template <class F>
Plane<float> mapped(const Plane<float>& plane, F f) {
    Plane<float> out(plane.size());
    for (int y = 0; y < plane.size().height; ++y)
        std::transform(plane.row(y).begin(), plane.row(y).end(), out.row(y).begin(), f);
    return out;
}

class BandingRemoval final : public SpatialOperation {
public:
    explicit BandingRemoval(const Settings& settings) : measured_(settings.tables[0]), steps_(measuredSteps(settings)) {
        row_.amount = static_cast<float>(settings.values[amount] / 100);
        row_.keep = static_cast<float>(settings.values[keepTexture] / 100);
        constexpr double mostOfStep = 0.55;
        for (std::size_t c = 0; c < 3; ++c) row_.most[c] = static_cast<float>(mostOfStep * steps_[c].step / 255);
    }

    int modelLevel(int level) const override { return std::min(level, lastLevel); }
    int reach(int modelLevel) const override { return modelLevel < firstLevel ? reachOfPixels : reachOfFits; }
    std::size_t planes() const override { return meanBlue + 1; }
    void addModelKey(base::KeyBuilder& key) const override { key.add(std::span<const double>(measured_)); }
    Beyond beyondPhoto() const override { return Beyond::nothing; }
    bool buildsOnCoarser(int level) const override { return level < lastLevel; }

    void makeModel(image::EncodedPlanes around, int level, std::span<const Plane<float>> coarser,
                   std::span<Plane<float>> model) const override {
        const base::Size size = model[0].size();
        const int by = reach(level);
        const base::Rect own{by, by, by + size.width, by + size.height};
        const Channels channels{&around.red, &around.green, &around.blue};
        model[noEdge] = image::cropped(withoutEdges(channels, level), own);
        for (std::size_t c = 0; c < 3; ++c) model[meanRed + c] = meanOfAlike(*channels[c], steps_[c], own, level);
        for (std::size_t plane = toRed; plane <= keepsSteps; ++plane) {
            model[plane] = image::filled(size, 0.0f);
            if (!coarser.empty()) kernel::addDoubled(coarser[plane], by / 2, 1, model[plane]);
        }
        if (level < firstLevel) return;
        fit(channels, level, model);
        model[keepsSteps] = image::cropped(accordance(channels, level), own);
    }

    void row(kernel::ConvertibleRow& pixels, std::span<const float* const> model) const override {
        HWY_DYNAMIC_DISPATCH(BandingRow)(row_, model.data(), pixels.encoded(), pixels.count());
    }

private:
    using Channels = std::array<const Plane<float>*, 3>;

    static float grainOn(const BandingStep& step, int level) {
        return static_cast<float>(step.grain) / static_cast<float>(1 << level);
    }

    // 0 at edges: where values within two pixels lie further apart than two neighbouring steps and grain.
    Plane<float> withoutEdges(const Channels& channels, int level) const {
        constexpr float infinity = std::numeric_limits<float>::infinity();
        Plane<float> edge = image::filled(channels[0]->size(), 0.0f);
        for (std::size_t c = 0; c < 3; ++c) {
            if (steps_[c].step == 0) continue;
            const auto in = [&](float nothing) {
                return mapped(*channels[c], [=](float v) { return std::isnan(v) ? nothing : v; });
            };
            const Plane<float> most = kernel::greatestAround(in(-infinity), 2),
                               least = kernel::leastAround(in(infinity), 2);
            const float q = static_cast<float>(steps_[c].step), grain = grainOn(steps_[c], level);
            for (int y = 0; y < edge.size().height; ++y) {
                const float *high = most.row(y).data(), *low = least.row(y).data();
                float* to = edge.row(y).data();
                for (int x = 0; x < edge.size().width; ++x)
                    to[x] = std::max(to[x], ramp(255 * (high[x] - low[x]), 1.3f * q + 4 * grain, 2 * q + 5 * grain));
            }
        }
        return mapped(kernel::greatestAround(edge, 1), [](float e) { return 1 - e; });
    }

    // 0 where the picture bends more than steps do, by second differences over two pixels, which a slope has none of
    // however steep it is on a coarse level.
    Plane<float> withoutBends(const Channels& channels, int level) const {
        const base::Size size = channels[0]->size();
        Plane<float> free = image::filled(size, 1.0f);
        for (std::size_t c = 0; c < 3; ++c) {
            if (steps_[c].step == 0) continue;
            const float q = static_cast<float>(steps_[c].step), grain = grainOn(steps_[c], level);
            const float none = (1.3f * q + 4 * grain) / 255, all = (2 * q + 5 * grain) / 255;
            for (int y = 2; y < size.height - 2; ++y) {
                const float *above = channels[c]->row(y - 2).data(), *here = channels[c]->row(y).data(),
                            *below = channels[c]->row(y + 2).data();
                float* to = free.row(y).data();
                for (int x = 2; x < size.width - 2; ++x) {
                    const float twice = 2 * here[x];
                    // Not a number, beyond the photo, is not greater.
                    float bend = 0;
                    for (const float pair : {here[x - 2] + here[x + 2], above[x] + below[x], above[x - 2] + below[x + 2],
                                             above[x + 2] + below[x - 2]}) {
                        const float by = std::abs(pair - twice);
                        bend = by > bend ? by : bend;
                    }
                    to[x] = std::min(to[x], 1 - ramp(bend, none, all));
                }
            }
        }
        return free;
    }

    static Plane<float> meanOfAlike(const Plane<float>& channel, const BandingStep& step, const base::Rect& own,
                                    int level) {
        if (step.step == 0) return image::cropped(channel, own);
        const auto width = std::max(static_cast<float>(step.step) / 2, 2 * grainOn(step, level)) / 255;
        Plane<float> out(own.size());
        for (int y = 0; y < own.height(); ++y) {
            const float* rows[5];
            for (int i = 0; i < 5; ++i) rows[i] = channel.row(own.y0 + y + i - 2).data() + own.x0;
            HWY_DYNAMIC_DISPATCH(MeanOfAlikeRow)(rows, width, out.row(y).data(), out.row(y).size());
        }
        return out;
    }

    // 1 where values keep to the steps, as far as grain lets them.
    Plane<float> accordance(const Channels& channels, int level) const {
        const base::Size size = channels[0]->size();
        Plane<float> sum = image::filled(size, 0.0f), inside = image::filled(size, 0.0f);
        for (std::size_t c = 0; c < 3; ++c) {
            if (steps_[c].step == 0) continue;
            const auto turn = static_cast<float>(2 * std::numbers::pi / steps_[c].step);
            const float off = turn * grainOn(steps_[c], level), left = std::exp(-off * off / 2);
            const auto phase = static_cast<float>(steps_[c].phase);
            constexpr float leastLeft = 0.3f;
            for (int y = 0; y < size.height; ++y) {
                const float* v = channels[c]->row(y).data();
                for (std::size_t x = 0; x < sum.row(y).size(); ++x) {
                    if (std::isnan(v[x])) continue;
                    sum.row(y)[x] += std::cos(turn * (255 * v[x] - phase)) / std::max(left, leastLeft);
                    inside.row(y)[x] += 1;
                }
            }
        }
        const int radius = std::max(2, 24 >> level);
        const Plane<float> keeping = kernel::boxSum(sum, radius), all = kernel::boxSum(inside, radius);
        return image::planeOf(size, [&](int x, int y) {
            const auto i = static_cast<std::size_t>(x);
            return ramp(keeping.row(y)[i] / std::max(1.0f, all.row(y)[i]), 0.15f, 0.4f);
        });
    }

    void fit(const Channels& channels, int level, std::span<Plane<float>> model) const {
        constexpr int spare = reachOfFits - 9;
        const base::Size size = model[0].size();
        const base::Rect seen = base::grown(base::rectOf(channels[0]->size()), -spare);
        std::vector<Plane<float>> values;
        for (const Plane<float>* channel : channels) {
            values.push_back(
                mapped(image::cropped(*channel, seen), [](float v) { return std::isnan(v) ? 0 : 255 * v - middle; }));
        }
        Plane<float> weights = image::cropped(withoutBends(channels, level), seen);
        for (int y = 0; y < weights.size().height; ++y) {
            for (std::size_t x = 0; x < weights.row(y).size(); ++x) {
                if (std::isnan(channels[0]->row(y + spare)[x + spare])) weights.row(y)[x] = 0;
            }
        }
        const std::vector<kernel::PlaneFit> fits = kernel::fittedPlanes(values, weights, sigma);
        for (int y = 0; y < size.height; ++y) {
            for (std::size_t x = 0; x < static_cast<std::size_t>(size.width); ++x) {
                float about = 0, off = 0, counted = 0;
                const float wider = model[isFit].row(y)[x];
                for (std::size_t c = 0; c < 3; ++c) {
                    const float here = (fits[c].value.row(y)[x] + middle) / 255;
                    float& to = model[toRed + c].row(y)[x];
                    to = here + wider * (to - here);
                    if (steps_[c].step == 0) continue;
                    const auto q = static_cast<float>(steps_[c].step);
                    const float grain = grainOn(steps_[c], level);
                    about += fits[c].variance.row(y)[x] / (q * q / 12 + grain * grain);
                    // Rounding moves no value by more than half a step.
                    const float by = 255 * std::abs(here - channels[c]->row(y + reachOfFits)[x + reachOfFits]);
                    off = std::max(off, by / (q / 2 + 2 * grain));
                    ++counted;
                }
                model[isFit].row(y)[x] = (1 - ramp(about / counted, 1.2f, 1.6f)) * (1 - ramp(off, 1.0f, 1.5f));
            }
        }
    }

    Table measured_;
    BandingSteps steps_;
    BandingRowSettings row_;
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
    const auto measured = [&](bool everywhere) {
        StepMeter meter;
        for (const base::Rect& tile : measuredTiles(subject, 0, everywhere))
            meter.add(subject.picture(tile, 0), everywhere ? Plane<float>() : subject.coverage(tile, 0));
        return meter;
    };
    StepMeter meter = measured(false);
    if (meter.blocks() < fewestBlocks) meter = measured(true);
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
#endif
