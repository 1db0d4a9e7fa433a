#include "core/adjust/ink_table.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "core/adjust/ink_table.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include <algorithm>
#include <array>

#include "core/adjust/pixel-inl.h"
#include "core/kernel/row_transform-inl.h"

#ifndef DIMHEM_INK_SETTINGS
#define DIMHEM_INK_SETTINGS
namespace dimhem::adjust {

struct InkAmounts {
    float of[9][3];  // by family, of cyan, magenta and yellow, black counted in
    bool absolute;
};

}  // namespace dimhem::adjust
#endif

HWY_BEFORE_NAMESPACE();
namespace dimhem::adjust {
namespace HWY_NAMESPACE {

template <class D, class V = hn::Vec<D>>
HWY_INLINE V Sector(D d, V hue, float middle) {
    const V way = hn::Abs(hn::Sub(hue, hn::Set(d, middle)));
    return hn::Max(hn::Zero(d), hn::NegMulAdd(way, hn::Set(d, 1.0f / 60), hn::Set(d, 1.0f)));
}

void InkRow(const InkAmounts& amounts, kernel::EncodedRow pixels, std::size_t count) {
    const hn::ScalableTag<float> d;
    const auto zero = hn::Zero(d), one = hn::Set(d, 1.0f);
    kernel::HWY_NAMESPACE::TransformRgb(
        d, pixels.red, pixels.green, pixels.blue, count, [&](std::size_t, auto& r, auto& g, auto& b) HWY_ATTR {
            const auto hr = Held(d, r), hg = Held(d, g), hb = Held(d, b);
            const auto c = HueOf(d, hr, hg, hb);
            const auto tones = TonesOf(d, hn::Mul(hn::Set(d, 0.5f), hn::Add(c.most, c.least)));
            const auto grey = hn::Sub(one, c.chroma);
            hn::Vec<hn::ScalableTag<float>> change[3] = {zero, zero, zero};
            const auto add = [&](auto belongs, int family) HWY_ATTR {
                for (int ink = 0; ink < 3; ++ink)
                    change[ink] = hn::MulAdd(belongs, hn::Set(d, amounts.of[family][ink]), change[ink]);
            };
            add(hn::Mul(c.chroma, hn::Add(Sector(d, c.hue, 0), Sector(d, c.hue, 360))), 0);
            for (int family = 1; family < 6; ++family)
                add(hn::Mul(c.chroma, Sector(d, c.hue, 60.0f * static_cast<float>(family))), family);
            add(hn::Mul(grey, tones.light), 6);
            add(hn::Mul(grey, tones.middle), 7);
            add(hn::Mul(grey, tones.dark), 8);
            const auto out = [&](auto v, auto held, int ink) HWY_ATTR {
                const auto had = hn::Sub(one, held);
                const auto by = amounts.absolute ? change[ink] : hn::Mul(change[ink], had);
                const auto has = Held(d, hn::Add(had, by));
                return hn::Add(v, hn::Sub(had, has));
            };
            r = out(r, hr, 0);
            g = out(g, hg, 1);
            b = out(b, hb, 2);
        });
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::adjust
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace dimhem::adjust {

HWY_EXPORT(InkRow);

namespace {

constexpr base::ParamSpec params[] = {
    {.id = "reds-cyan",
     .label = "Reds: cyan",
     .unit = "%",
     .min = -100,
     .max = 100,
     .tip = "Cyan given to the reds, or taken from them."},
    {.id = "reds-magenta",
     .label = "Reds: magenta",
     .unit = "%",
     .min = -100,
     .max = 100,
     .tip = "Magenta given to the reds, or taken from them."},
    {.id = "reds-yellow",
     .label = "Reds: yellow",
     .unit = "%",
     .min = -100,
     .max = 100,
     .tip = "Yellow given to the reds, or taken from them."},
    {.id = "reds-black",
     .label = "Reds: black",
     .unit = "%",
     .min = -100,
     .max = 100,
     .tip = "Black given to the reds, or taken from them."},
    {.id = "yellows-cyan",
     .label = "Yellows: cyan",
     .unit = "%",
     .min = -100,
     .max = 100,
     .tip = "Cyan given to the yellows, or taken from them."},
    {.id = "yellows-magenta",
     .label = "Yellows: magenta",
     .unit = "%",
     .min = -100,
     .max = 100,
     .tip = "Magenta given to the yellows, or taken from them."},
    {.id = "yellows-yellow",
     .label = "Yellows: yellow",
     .unit = "%",
     .min = -100,
     .max = 100,
     .tip = "Yellow given to the yellows, or taken from them."},
    {.id = "yellows-black",
     .label = "Yellows: black",
     .unit = "%",
     .min = -100,
     .max = 100,
     .tip = "Black given to the yellows, or taken from them."},
    {.id = "greens-cyan",
     .label = "Greens: cyan",
     .unit = "%",
     .min = -100,
     .max = 100,
     .tip = "Cyan given to the greens, or taken from them."},
    {.id = "greens-magenta",
     .label = "Greens: magenta",
     .unit = "%",
     .min = -100,
     .max = 100,
     .tip = "Magenta given to the greens, or taken from them."},
    {.id = "greens-yellow",
     .label = "Greens: yellow",
     .unit = "%",
     .min = -100,
     .max = 100,
     .tip = "Yellow given to the greens, or taken from them."},
    {.id = "greens-black",
     .label = "Greens: black",
     .unit = "%",
     .min = -100,
     .max = 100,
     .tip = "Black given to the greens, or taken from them."},
    {.id = "cyans-cyan",
     .label = "Cyans: cyan",
     .unit = "%",
     .min = -100,
     .max = 100,
     .tip = "Cyan given to the cyans, or taken from them."},
    {.id = "cyans-magenta",
     .label = "Cyans: magenta",
     .unit = "%",
     .min = -100,
     .max = 100,
     .tip = "Magenta given to the cyans, or taken from them."},
    {.id = "cyans-yellow",
     .label = "Cyans: yellow",
     .unit = "%",
     .min = -100,
     .max = 100,
     .tip = "Yellow given to the cyans, or taken from them."},
    {.id = "cyans-black",
     .label = "Cyans: black",
     .unit = "%",
     .min = -100,
     .max = 100,
     .tip = "Black given to the cyans, or taken from them."},
    {.id = "blues-cyan",
     .label = "Blues: cyan",
     .unit = "%",
     .min = -100,
     .max = 100,
     .tip = "Cyan given to the blues, or taken from them."},
    {.id = "blues-magenta",
     .label = "Blues: magenta",
     .unit = "%",
     .min = -100,
     .max = 100,
     .tip = "Magenta given to the blues, or taken from them."},
    {.id = "blues-yellow",
     .label = "Blues: yellow",
     .unit = "%",
     .min = -100,
     .max = 100,
     .tip = "Yellow given to the blues, or taken from them."},
    {.id = "blues-black",
     .label = "Blues: black",
     .unit = "%",
     .min = -100,
     .max = 100,
     .tip = "Black given to the blues, or taken from them."},
    {.id = "magentas-cyan",
     .label = "Magentas: cyan",
     .unit = "%",
     .min = -100,
     .max = 100,
     .tip = "Cyan given to the magentas, or taken from them."},
    {.id = "magentas-magenta",
     .label = "Magentas: magenta",
     .unit = "%",
     .min = -100,
     .max = 100,
     .tip = "Magenta given to the magentas, or taken from them."},
    {.id = "magentas-yellow",
     .label = "Magentas: yellow",
     .unit = "%",
     .min = -100,
     .max = 100,
     .tip = "Yellow given to the magentas, or taken from them."},
    {.id = "magentas-black",
     .label = "Magentas: black",
     .unit = "%",
     .min = -100,
     .max = 100,
     .tip = "Black given to the magentas, or taken from them."},
    {.id = "whites-cyan",
     .label = "Whites: cyan",
     .unit = "%",
     .min = -100,
     .max = 100,
     .tip = "Cyan given to the whites, or taken from them."},
    {.id = "whites-magenta",
     .label = "Whites: magenta",
     .unit = "%",
     .min = -100,
     .max = 100,
     .tip = "Magenta given to the whites, or taken from them."},
    {.id = "whites-yellow",
     .label = "Whites: yellow",
     .unit = "%",
     .min = -100,
     .max = 100,
     .tip = "Yellow given to the whites, or taken from them."},
    {.id = "whites-black",
     .label = "Whites: black",
     .unit = "%",
     .min = -100,
     .max = 100,
     .tip = "Black given to the whites, or taken from them."},
    {.id = "neutrals-cyan",
     .label = "Neutrals: cyan",
     .unit = "%",
     .min = -100,
     .max = 100,
     .tip = "Cyan given to the neutrals, or taken from them."},
    {.id = "neutrals-magenta",
     .label = "Neutrals: magenta",
     .unit = "%",
     .min = -100,
     .max = 100,
     .tip = "Magenta given to the neutrals, or taken from them."},
    {.id = "neutrals-yellow",
     .label = "Neutrals: yellow",
     .unit = "%",
     .min = -100,
     .max = 100,
     .tip = "Yellow given to the neutrals, or taken from them."},
    {.id = "neutrals-black",
     .label = "Neutrals: black",
     .unit = "%",
     .min = -100,
     .max = 100,
     .tip = "Black given to the neutrals, or taken from them."},
    {.id = "blacks-cyan",
     .label = "Blacks: cyan",
     .unit = "%",
     .min = -100,
     .max = 100,
     .tip = "Cyan given to the blacks, or taken from them."},
    {.id = "blacks-magenta",
     .label = "Blacks: magenta",
     .unit = "%",
     .min = -100,
     .max = 100,
     .tip = "Magenta given to the blacks, or taken from them."},
    {.id = "blacks-yellow",
     .label = "Blacks: yellow",
     .unit = "%",
     .min = -100,
     .max = 100,
     .tip = "Yellow given to the blacks, or taken from them."},
    {.id = "blacks-black",
     .label = "Blacks: black",
     .unit = "%",
     .min = -100,
     .max = 100,
     .tip = "Black given to the blacks, or taken from them."},
    {.id = "absolute",
     .label = "Absolute",
     .tip = "By an amount of ink, not by a share of the ink that is there.",
     .toggle = true},
};
static_assert(std::size(params) == inkFamilies * inkCount + 1);

class InkOperation final : public EncodedOperation {
public:
    explicit InkOperation(const Settings& settings) {
        for (std::size_t family = 0; family < inkFamilies; ++family) {
            const double black = settings.values[inkParam(family, 3)];
            for (std::size_t ink = 0; ink < 3; ++ink)
                amounts_.of[family][ink] = static_cast<float>((settings.values[inkParam(family, ink)] + black) / 100);
        }
        amounts_.absolute = settings.values.back() != 0;
    }
    void row(kernel::EncodedRow pixels, std::size_t count) const override {
        HWY_DYNAMIC_DISPATCH(InkRow)(amounts_, pixels, count);
    }

private:
    InkAmounts amounts_;
};

}  // namespace

std::string_view inkFamilyLabel(std::size_t family) {
    static constexpr std::array<std::string_view, inkFamilies> labels = {
        "Reds", "Yellows", "Greens", "Cyans", "Blues", "Magentas", "Whites", "Neutrals", "Blacks"};
    return labels[family];
}

std::string_view inkLabel(std::size_t ink) {
    static constexpr std::array<std::string_view, inkCount> labels = {"Cyan", "Magenta", "Yellow", "Black"};
    return labels[ink];
}

const AdjustmentKind inkTable = {
    .id = "ink-table",
    .label = "Ink table",
    .category = "colour cast",
    .tip = "Cyan, magenta, yellow and black by families of colours.",
    .params = params,
    .prepare = [](const Settings& settings) { return only<InkOperation>(settings); },
    .sample =
        [] {
            return neutralWith(inkTable, {{base::placeOf(params, "neutrals-black"), 50}});
        },
    .opposite = [](Settings settings) { return withAllMirrored(std::move(settings), params); },
};

}  // namespace dimhem::adjust
#endif
