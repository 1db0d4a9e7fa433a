#include "core/kernel/blend_rows.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace dimhem::kernel {

namespace {

// Of one channel; `b` is the backdrop, `s` the source, in the standard's words.
float multiply(float b, float s) {
    return b * s;
}
float screen(float b, float s) {
    return b + s - b * s;
}
float hardLight(float b, float s) {
    return s <= 0.5f ? multiply(b, 2 * s) : screen(b, 2 * s - 1);
}
float overlay(float b, float s) {
    return hardLight(s, b);
}
float darken(float b, float s) {
    return std::min(b, s);
}
float lighten(float b, float s) {
    return std::max(b, s);
}
float colourDodge(float b, float s) {
    return b == 0 ? 0.0f : s >= 1 ? 1.0f : std::min(1.0f, b / (1 - s));
}
float colourBurn(float b, float s) {
    return b >= 1 ? 1.0f : s <= 0 ? 0.0f : 1 - std::min(1.0f, (1 - b) / s);
}
float softLight(float b, float s) {
    if (s <= 0.5f) return b - (1 - 2 * s) * b * (1 - b);
    const float d = b <= 0.25f ? ((16 * b - 12) * b + 4) * b : std::sqrt(b);
    return b + (2 * s - 1) * (d - b);
}
float difference(float b, float s) {
    return std::abs(b - s);
}
float exclusion(float b, float s) {
    return b + s - 2 * b * s;
}

using Rgb = std::array<float, 3>;

float lum(const Rgb& c) {
    return 0.3f * c[0] + 0.59f * c[1] + 0.11f * c[2];
}

float sat(const Rgb& c) {
    return std::max({c[0], c[1], c[2]}) - std::min({c[0], c[1], c[2]});
}

Rgb clipColour(Rgb c) {
    const float l = lum(c), least = std::min({c[0], c[1], c[2]}), most = std::max({c[0], c[1], c[2]});
    for (float& v : c) {
        if (least < 0) v = l + (v - l) * l / (l - least);
    }
    for (float& v : c) {
        if (most > 1) v = l + (v - l) * (1 - l) / (most - l);
    }
    return c;
}

Rgb setLum(Rgb c, float l) {
    const float d = l - lum(c);
    for (float& v : c) v += d;
    return clipColour(c);
}

Rgb setSat(const Rgb& c, float s) {
    const float least = std::min({c[0], c[1], c[2]}), range = sat(c);
    if (range <= 0) return {0, 0, 0};
    return {(c[0] - least) * s / range, (c[1] - least) * s / range, (c[2] - least) * s / range};
}

Rgb hue(const Rgb& b, const Rgb& s) {
    return setLum(setSat(s, sat(b)), lum(b));
}
Rgb saturation(const Rgb& b, const Rgb& s) {
    return setLum(setSat(b, sat(s)), lum(b));
}
Rgb colour(const Rgb& b, const Rgb& s) {
    return setLum(s, lum(b));
}
Rgb luminosity(const Rgb& b, const Rgb& s) {
    return setLum(b, lum(s));
}

float held(float v) {
    return std::clamp(v, 0.0f, 1.0f);
}

template <float (*Blend)(float, float)>
void separable(ConstEncodedRow lower, EncodedRow upper, std::size_t count) {
    const float* below[3] = {lower.red, lower.green, lower.blue};
    float* above[3] = {upper.red, upper.green, upper.blue};
    for (int c = 0; c < 3; ++c) {
        for (std::size_t i = 0; i < count; ++i) above[c][i] = Blend(held(below[c][i]), held(above[c][i]));
    }
}

template <Rgb (*Blend)(const Rgb&, const Rgb&)>
void together(ConstEncodedRow lower, EncodedRow upper, std::size_t count) {
    for (std::size_t i = 0; i < count; ++i) {
        const Rgb b{held(lower.red[i]), held(lower.green[i]), held(lower.blue[i])};
        const Rgb out = Blend(b, {held(upper.red[i]), held(upper.green[i]), held(upper.blue[i])});
        upper.red[i] = out[0];
        upper.green[i] = out[1];
        upper.blue[i] = out[2];
    }
}

constexpr BlendModeInfo modes[] = {
    {BlendMode::normal, "normal", "Normal", "The corrected colour as it is."},
    {BlendMode::multiply, "multiply", "Multiply", "Both multiplied: darkens, white changes nothing."},
    {BlendMode::screen, "screen", "Screen", "The reverse of multiply: lightens, black changes nothing."},
    {BlendMode::overlay, "overlay", "Overlay", "Multiplies dark tones and screens light ones: more contrast."},
    {BlendMode::darken, "darken", "Darken", "The darker of the two in each channel."},
    {BlendMode::lighten, "lighten", "Lighten", "The lighter of the two in each channel."},
    {BlendMode::colourDodge, "colour-dodge", "Colour dodge", "Brightens what was there by the corrected colour."},
    {BlendMode::colourBurn, "colour-burn", "Colour burn", "Darkens what was there by the corrected colour."},
    {BlendMode::hardLight, "hard-light", "Hard light", "Multiplies or screens, by the corrected colour."},
    {BlendMode::softLight, "soft-light", "Soft light", "A gentler hard light."},
    {BlendMode::difference, "difference", "Difference", "How far the two are apart."},
    {BlendMode::exclusion, "exclusion", "Exclusion", "As difference, with less contrast."},
    {BlendMode::hue, "hue", "Hue", "Only the hue of the corrected colour."},
    {BlendMode::saturation, "saturation", "Saturation", "Only its saturation."},
    {BlendMode::colour, "colour", "Colour", "Its hue and saturation; the lightness stays."},
    {BlendMode::luminosity, "luminosity", "Luminosity", "Only its lightness; the colour stays."},
};

}  // namespace

std::span<const BlendModeInfo> blendModes() {
    return modes;
}

std::optional<BlendMode> blendModeOf(std::string_view id) {
    for (const BlendModeInfo& info : modes) {
        if (info.id == id) return info.mode;
    }
    return std::nullopt;
}

std::string_view idOf(BlendMode mode) {
    return modes[static_cast<std::size_t>(mode)].id;
}

void blendRow(BlendMode mode, ConstEncodedRow lower, EncodedRow upper, std::size_t count) {
    switch (mode) {
        case BlendMode::normal: return;
        case BlendMode::multiply: return separable<multiply>(lower, upper, count);
        case BlendMode::screen: return separable<screen>(lower, upper, count);
        case BlendMode::overlay: return separable<overlay>(lower, upper, count);
        case BlendMode::darken: return separable<darken>(lower, upper, count);
        case BlendMode::lighten: return separable<lighten>(lower, upper, count);
        case BlendMode::colourDodge: return separable<colourDodge>(lower, upper, count);
        case BlendMode::colourBurn: return separable<colourBurn>(lower, upper, count);
        case BlendMode::hardLight: return separable<hardLight>(lower, upper, count);
        case BlendMode::softLight: return separable<softLight>(lower, upper, count);
        case BlendMode::difference: return separable<difference>(lower, upper, count);
        case BlendMode::exclusion: return separable<exclusion>(lower, upper, count);
        case BlendMode::hue: return together<hue>(lower, upper, count);
        case BlendMode::saturation: return together<saturation>(lower, upper, count);
        case BlendMode::colour: return together<colour>(lower, upper, count);
        case BlendMode::luminosity: return together<luminosity>(lower, upper, count);
    }
}

}  // namespace dimhem::kernel
