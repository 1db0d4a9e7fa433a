#include "core/adjust/saturation.h"

#include "core/adjust/linear_chunk.h"

namespace dimhem::adjust {

namespace {

enum Value { amount, guard };

constexpr base::ParamSpec params[] = {
    {"amount", "Amount", "", -100, 100, 0, 1, 0, "More colour, or less; -100 leaves grey. What is dense gains less."},
    {"guard", "Guard", "", 0, 1, 1, 1, 0, "An increase stops before a channel clips.", base::Scale::linear, true},
};

float held(float v) {
    return std::clamp(v, 0.0f, 1.0f);
}

class SaturationOperation final : public RowOperation {
public:
    explicit SaturationOperation(std::span<const double> values)
        : amount_(static_cast<float>(values[amount] / 100)), guards_(values[guard] != 0) {}

    void row(kernel::RgbRow pixels, std::size_t count) const override {
        LinearChunk chunk;
        for (std::size_t at = 0; at < count; at += LinearChunk::most) {
            const std::size_t n = std::min(LinearChunk::most, count - at);
            chunk.decode(pixels, at, n);
            for (std::size_t i = 0; i < n; ++i) {
                const float y = chunk.luminance(i), k = factor(pixels, at + i, chunk, i, y);
                for (float* v : {&chunk.red[i], &chunk.green[i], &chunk.blue[i]}) *v = y + k * (*v - y);
            }
            chunk.encode(pixels, at, n);
        }
    }

private:
    float factor(const kernel::RgbRow& encoded, std::size_t at, const LinearChunk& chunk, std::size_t i,
                 float y) const {
        if (amount_ <= 0) return 1 + amount_;
        const float r = held(encoded.red[at]), g = held(encoded.green[at]), b = held(encoded.blue[at]);
        const float most = std::max({r, g, b}), least = std::min({r, g, b});
        const float dense = most > 0 ? (most - least) / most : 0.0f;
        const float k = 1 + amount_ * (1 - dense);
        return guards_ ? std::min(k, roomOf(chunk, i, y)) : k;
    }

    // How far the channels can go from y before one leaves 0..1; at least 1.
    static float roomOf(const LinearChunk& chunk, std::size_t i, float y) {
        float room = 1e6f;
        for (const float v : {chunk.red[i], chunk.green[i], chunk.blue[i]}) {
            if (v > y) room = std::min(room, (1 - y) / (v - y));
            if (v < y) room = std::min(room, y / (y - v));
        }
        return std::max(1.0f, room);
    }

    float amount_;
    bool guards_;
};

}  // namespace

const AdjustmentKind saturation = {"saturation",
                                   "Saturation",
                                   "colour cast",
                                   "More or less colour; the luminance stays.",
                                   params,
                                   [](std::span<const double> values) -> std::unique_ptr<RowOperation> {
                                       return std::make_unique<SaturationOperation>(values);
                                   }};

}  // namespace dimhem::adjust
