#include "core/adjust/shadow_lift.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/adjust/shadow_lift.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include <algorithm>
#include <array>
#include <cmath>

#include "core/image/tiles.h"
#include "core/kernel/row_transform-inl.h"
#include "core/kernel/srgb_rows.h"

HWY_BEFORE_NAMESPACE();
namespace dimhem::adjust {
namespace HWY_NAMESPACE {

namespace hn = hwy::HWY_NAMESPACE;

// `less`: 1 / k. Dividing, or multiplying where a shadow is laid on.
void ShadowRow(const float (&less)[3], bool lays, kernel::LinearRow pixels, const float* weights, std::size_t count) {
    const hn::ScalableTag<float> d;
    const auto one = hn::Set(d, 1.0f);
    kernel::HWY_NAMESPACE::TransformRgb(
        d, pixels.red, pixels.green, pixels.blue, count, [&](std::size_t i, auto& r, auto& g, auto& b) HWY_ATTR {
            const auto m = kernel::HWY_NAMESPACE::LoadSome(d, weights, i, count);
            const auto changed = [&](auto v, float c) HWY_ATTR {
                // Pushed beyond the mask, it stops before nothing is left.
                constexpr float leastPart = 0.02f;
                const auto part = hn::Max(hn::MulAdd(m, hn::Set(d, c - 1), one), hn::Set(d, leastPart));
                return lays ? hn::Mul(v, part) : hn::Div(v, part);
            };
            r = changed(r, less[0]);
            g = changed(g, less[1]);
            b = changed(b, less[2]);
        });
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::adjust
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace dimhem::adjust {

HWY_EXPORT(ShadowRow);

namespace {

using image::Plane;

constexpr base::ParamSpec gainSpec(std::string_view id, std::string_view label, std::string_view tip) {
    return {.id = id,
            .label = label,
            .unit = "×",
            .min = 1,
            .max = 16,
            .neutral = 2,
            .step = 0.02,
            .decimals = 2,
            .tip = tip,
            .scale = base::Scale::logarithmic};
}

constexpr base::ParamSpec params[] = {
    {.id = "amount",
     .label = "Amount",
     .unit = "%",
     .min = -100,
     .max = 120,
     .tip = "How much of the shadow is taken off; below 0 as much is laid on."},
    gainSpec("red", "Red", "How many times more red light falls where there is no shadow."),
    gainSpec("green", "Green", "How many times more green light falls where there is no shadow."),
    gainSpec("blue", "Blue", "How many times more blue light falls where there is no shadow: less than of red."),
};
constexpr std::size_t amount = base::placeOf(params, "amount"), red = base::placeOf(params, "red"),
                      green = base::placeOf(params, "green"), blue = base::placeOf(params, "blue");

class Lifting final : public CoverageOperation {
public:
    explicit Lifting(const Settings& settings) : lays_(settings.values[amount] < 0) {
        const double power = std::abs(settings.values[amount]) / 100;
        const colour::LinearRgb gains = gainsOf(settings);
        const double of[3] = {gains.r, gains.g, gains.b};
        for (int c = 0; c < 3; ++c) less_[c] = static_cast<float>(std::pow(of[c], -power));
    }
    void row(kernel::LinearRow pixels, const float* weights, std::size_t count) const override {
        HWY_DYNAMIC_DISPATCH(ShadowRow)(less_, lays_, pixels, weights, count);
    }

private:
    bool lays_;
    float less_[3];
};

Operations prepare(const Settings& settings) {
    Operations out;
    out.emplace_back(std::make_unique<const Lifting>(settings));
    return out;
}

bool isIdentity(const Settings& settings) {
    const auto& v = settings.values;
    return v[amount] == 0 || (v[red] == 1 && v[green] == 1 && v[blue] == 1);
}

// Sums over a window, to fit P = a + b m in each channel.
struct Window {
    double n = 0, m = 0, mm = 0;
    std::array<double, 3> p{}, mp{}, pp{};

    void add(double coverage, const std::array<double, 3>& light) {
        n += 1, m += coverage, mm += coverage * coverage;
        for (std::size_t c = 0; c < 3; ++c) {
            p[c] += light[c];
            mp[c] += coverage * light[c];
            pp[c] += light[c] * light[c];
        }
    }

    // Nothing where the mask hardly varies, or a channel is not a line of it.
    std::optional<std::array<double, 3>> gains() const {
        constexpr double leastVariance = 0.012, leastFit = 0.85, leastLight = 0.02;
        const double variance = mm / n - (m / n) * (m / n);
        if (variance < leastVariance) return std::nullopt;
        std::array<double, 3> out;
        for (std::size_t c = 0; c < 3; ++c) {
            const double with = mp[c] / n - m / n * p[c] / n, own = pp[c] / n - p[c] / n * p[c] / n;
            const double slope = with / variance, lit = p[c] / n - slope * m / n;
            const bool fits = own > 0 && with * with / (variance * own) >= leastFit && lit > leastLight && slope < 0;
            if (!fits || lit + slope < 1e-4) return std::nullopt;
            out[c] = lit / (lit + slope);
        }
        return out;
    }
};

using FoundGains = std::array<std::vector<double>, 3>;

void gatherGains(const Subject& subject, int level, FoundGains& found) {
    constexpr int side = 25, step = 8;
    const base::Rect all = base::rectOf(image::levelSize(subject.photoSize(), level));
    const Plane<float> coverage = subject.coverage(all, level);
    const image::LinearPlanes light = kernel::decoded(subject.picture(all, level));
    for (int y = 0; y + side <= all.height(); y += step) {
        for (int x = 0; x + side <= all.width(); x += step) {
            const float corner = coverage.row(y)[static_cast<std::size_t>(x)],
                        middle = coverage.row(y + side / 2)[static_cast<std::size_t>(x + side / 2)],
                        end = coverage.row(y + side - 1)[static_cast<std::size_t>(x + side - 1)];
            if (corner == middle && middle == end) continue;  // most windows have nothing of the border
            Window window;
            for (int row = y; row < y + side; ++row) {
                for (auto i = static_cast<std::size_t>(x); i < static_cast<std::size_t>(x + side); ++i)
                    window.add(double{coverage.row(row)[i]},
                               {double{light.red.row(row)[i]}, double{light.green.row(row)[i]},
                                double{light.blue.row(row)[i]}});
            }
            const auto gains = window.gains();
            for (std::size_t c = 0; gains && c < 3; ++c) found[c].push_back((*gains)[c]);
        }
    }
}

double median(std::vector<double>& values) {
    const auto middle = values.begin() + static_cast<std::ptrdiff_t>(values.size() / 2);
    std::nth_element(values.begin(), middle, values.end());
    return *middle;
}

}  // namespace

colour::LinearRgb gainsOf(const Settings& settings) {
    return {settings.values[red], settings.values[green], settings.values[blue]};
}

Settings withGains(Settings settings, const colour::LinearRgb& gains) {
    const auto held = [](double v) { return std::round(std::clamp(v, 1.0, 16.0) * 1000) / 1000; };
    settings.values[red] = held(gains.r);
    settings.values[green] = held(gains.g);
    settings.values[blue] = held(gains.b);
    return settings;
}

// On three levels: a border is narrow on one and wide on another.
std::optional<colour::LinearRgb> gainsFromBorder(const Subject& subject) {
    constexpr double mostPixels = 2e6;
    constexpr std::size_t fewest = 8;
    const int finest = image::levelOfAtMost(subject.photoSize(), mostPixels);
    FoundGains found;
    for (int level = finest; level < finest + 3 && level <= image::maxLevel; ++level)
        gatherGains(subject, level, found);
    if (found[0].size() < fewest) return std::nullopt;
    return colour::LinearRgb{median(found[0]), median(found[1]), median(found[2])};
}

const AdjustmentKind shadowLift = {
    .id = "shadow-lift",
    .label = "Shadow lift",
    .category = "light over the photo",
    .tip = "Takes a cast shadow off, each channel by what it lacks, without a seam in its soft border.",
    .params = params,
    .prepare = prepare,
    .isIdentity = isIdentity,
    .measure =
        [](Settings settings, const Subject& subject) {
            const auto gains = gainsFromBorder(subject);
            return gains ? withGains(std::move(settings), *gains) : settings;
        },
    .opposite = [](Settings settings) { return withMirrored(std::move(settings), params, std::array{amount}); },
};

}  // namespace dimhem::adjust
#endif
