#include "core/adjust/spill_suppression.h"

#include "core/adjust/linear_chunk.h"
#include "core/adjust/tone_weights.h"

namespace dimhem::adjust {

namespace {

enum Value { amount, limit, lightBack, shadows, midtones, highlights, blueScreen };

constexpr base::ParamSpec params[] = {
    {"amount", "Amount", "%", 0, 100, 0, 1, 0, "How much of the screen's light is taken off."},
    {"limit", "Limit", "%", 0, 100, 0, 1, 0,
     "What the screen's channel may keep: 0 the mean of the other two, 100 the stronger of them."},
    {"light-back", "Light back", "%", 0, 100, 50, 1, 0, "How much of the light lost by it is given back, as grey."},
    {"shadows", "Shadows", "%", 0, 100, 100, 1, 0, "How far dark tones take part."},
    {"midtones", "Midtones", "%", 0, 100, 100, 1, 0, "How far middle tones take part."},
    {"highlights", "Highlights", "%", 0, 100, 100, 1, 0, "How far light tones take part."},
    {"blue-screen", "Blue screen", "", 0, 1, 0, 1, 0, "The screen is blue instead of green.", base::Scale::linear,
     true},
};

float held(float v) {
    return std::clamp(v, 0.0f, 1.0f);
}

class SuppressOperation final : public RowOperation {
public:
    explicit SuppressOperation(std::span<const double> values)
        : amount_(part(values[amount])),
          towardsMost_(part(values[limit])),
          back_(part(values[lightBack])),
          tones_{part(values[shadows]), part(values[midtones]), part(values[highlights])},
          blue_(values[blueScreen] != 0) {}

    void row(kernel::RgbRow pixels, std::size_t count) const override {
        LinearChunk was, is;
        std::array<bool, LinearChunk::most> spilled;
        for (std::size_t at = 0; at < count; at += LinearChunk::most) {
            const std::size_t n = std::min(LinearChunk::most, count - at);
            was.decode(pixels, at, n);
            for (std::size_t i = 0; i < n; ++i) spilled[i] = suppress(pixels, at + i, was.luminance(i));
            if (back_ > 0) giveBack(pixels, at, n, spilled, was, is);
        }
    }

private:
    static float part(double percent) { return static_cast<float>(percent / 100); }

    bool suppress(const kernel::RgbRow& pixels, std::size_t i, float y) const {
        float* screen = (blue_ ? pixels.blue : pixels.green) + i;
        const float one = held(pixels.red[i]), other = held(blue_ ? pixels.green[i] : pixels.blue[i]);
        const float mean = (one + other) / 2, most = std::max(one, other);
        const float excess = held(*screen) - (mean + towardsMost_ * (most - mean));
        if (excess <= 0) return false;
        const auto weights = toneWeights(y);
        const float takes = weights[0] * tones_[0] + weights[1] * tones_[1] + weights[2] * tones_[2];
        *screen -= amount_ * takes * excess;
        return true;
    }

    void giveBack(const kernel::RgbRow& pixels, std::size_t at, std::size_t n,
                  const std::array<bool, LinearChunk::most>& spilled, const LinearChunk& was, LinearChunk& is) const {
        is.decode(pixels, at, n);
        LinearChunk out = is;
        for (std::size_t i = 0; i < n; ++i) {
            const float lost = back_ * (was.luminance(i) - is.luminance(i));
            for (float* v : {&out.red[i], &out.green[i], &out.blue[i]}) *v += lost;
        }
        for (float* channel : {out.red.data(), out.green.data(), out.blue.data()}) kernel::encodeRow(channel, n);
        for (std::size_t i = 0; i < n; ++i) {
            if (!spilled[i]) continue;  // keeps its bits
            pixels.red[at + i] = out.red[i];
            pixels.green[at + i] = out.green[i];
            pixels.blue[at + i] = out.blue[i];
        }
    }

    float amount_, towardsMost_, back_;
    std::array<float, 3> tones_;
    bool blue_;
};

}  // namespace

const AdjustmentKind spillSuppression = {"spill-suppression",
                                         "Spill suppression",
                                         "colour cast",
                                         "Takes the light of a green or blue screen, or of a lawn, off.",
                                         params,
                                         [](std::span<const double> values) -> std::unique_ptr<RowOperation> {
                                             return std::make_unique<SuppressOperation>(values);
                                         }};

}  // namespace dimhem::adjust
