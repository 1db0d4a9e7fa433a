#include "core/adjust/colour_balance.h"

#include "core/adjust/linear_chunk.h"
#include "core/adjust/tone_weights.h"

namespace dimhem::adjust {

namespace {

constexpr std::size_t tones = 3, axes = 3;
constexpr std::size_t keepLuminance = tones * axes;
constexpr float fullShift = 0.2f;

constexpr base::ParamSpec params[] = {
    {"shadows-red", "Shadows C–R", "", -100, 100, 0, 1, 0, "Dark tones: towards red, below 0 towards cyan."},
    {"shadows-green", "Shadows M–G", "", -100, 100, 0, 1, 0, "Dark tones: towards green, below 0 towards magenta."},
    {"shadows-blue", "Shadows Y–B", "", -100, 100, 0, 1, 0, "Dark tones: towards blue, below 0 towards yellow."},
    {"midtones-red", "Mids C–R", "", -100, 100, 0, 1, 0, "Middle tones: towards red, below 0 towards cyan."},
    {"midtones-green", "Mids M–G", "", -100, 100, 0, 1, 0, "Middle tones: towards green, below 0 towards magenta."},
    {"midtones-blue", "Mids Y–B", "", -100, 100, 0, 1, 0, "Middle tones: towards blue, below 0 towards yellow."},
    {"highlights-red", "Lights C–R", "", -100, 100, 0, 1, 0, "Light tones: towards red, below 0 towards cyan."},
    {"highlights-green", "Lights M–G", "", -100, 100, 0, 1, 0, "Light tones: towards green, below 0 towards magenta."},
    {"highlights-blue", "Lights Y–B", "", -100, 100, 0, 1, 0, "Light tones: towards blue, below 0 towards yellow."},
    {"keep-luminance", "Hold light", "", 0, 1, 1, 1, 0, "Only the colour changes, not how light it is.",
     base::Scale::linear, true},
};

class BalanceOperation final : public RowOperation {
public:
    explicit BalanceOperation(std::span<const double> values) : keeps_(values[keepLuminance] != 0) {
        for (std::size_t i = 0; i < tones * axes; ++i) shift_[i] = static_cast<float>(values[i] / 100) * fullShift;
    }

    void row(kernel::RgbRow pixels, std::size_t count) const override {
        LinearChunk chunk;
        std::array<float, LinearChunk::most> luminance;
        for (std::size_t at = 0; at < count; at += LinearChunk::most) {
            const std::size_t n = std::min(LinearChunk::most, count - at);
            chunk.decode(pixels, at, n);
            for (std::size_t i = 0; i < n; ++i) {
                luminance[i] = chunk.luminance(i);
                const auto weight = toneWeights(luminance[i]);
                float* channels[axes] = {pixels.red + at + i, pixels.green + at + i, pixels.blue + at + i};
                for (std::size_t c = 0; c < axes; ++c)
                    *channels[c] +=
                        weight[0] * shift_[c] + weight[1] * shift_[axes + c] + weight[2] * shift_[2 * axes + c];
            }
            if (keeps_) restore(pixels, at, n, luminance, chunk);
        }
    }

private:
    static void restore(const kernel::RgbRow& pixels, std::size_t at, std::size_t n,
                        const std::array<float, LinearChunk::most>& luminance, LinearChunk& chunk) {
        constexpr float least = 1e-5f;
        chunk.decode(pixels, at, n);
        for (std::size_t i = 0; i < n; ++i) {
            const float y = chunk.luminance(i);
            if (y < least || luminance[i] < least) continue;
            const float k = luminance[i] / y;
            for (float* v : {&chunk.red[i], &chunk.green[i], &chunk.blue[i]}) *v *= k;
        }
        chunk.encode(pixels, at, n);
    }

    std::array<float, tones * axes> shift_{};
    bool keeps_;
};

}  // namespace

const AdjustmentKind colourBalance = {"colour-balance",
                                      "Colour balance",
                                      "colour cast",
                                      "Shifts the colour of dark, middle and light tones apart.",
                                      params,
                                      [](std::span<const double> values) -> std::unique_ptr<RowOperation> {
                                          return std::make_unique<BalanceOperation>(values);
                                      }};

}  // namespace dimhem::adjust
