// The same colours on every machine: each set of vector instructions that this processor has gives about the same, to
// far less than a step of 16 bits. Fused multiplications and divisions differ in the last bits.
#include <gtest/gtest.h>
#include <hwy/targets.h>

#include <cmath>
#include <random>

#include "core/adjust/hue_bands.h"
#include "core/adjust/match_area.h"
#include "core/adjust/registry.h"
#include "core/adjust/tone_curve.h"
#include "core/kernel/half_rows.h"
#include "core/kernel/sample_rows.h"

namespace dimhem::adjust {

namespace {

Settings moved(const AdjustmentKind& kind) {
    Settings settings = neutralSettings(kind);
    for (std::size_t i = 0; i < settings.values.size(); ++i) {
        if (!kind.params[i].toggle) settings.values[i] += 0.3 * (kind.params[i].max - settings.values[i]);
    }
    if (&kind == &toneCurve) {
        settings.tables[0] = {0, 4, 25, 20, 70, 80, 100, 97};
        settings.tables[1] = {0, 0, 50, 58, 100, 100};
    }
    if (&kind == &hueBands) settings.tables[0] = {-40, -20, 20, 40, 8, 20, 10};
    if (&kind == &matchArea)
        settings = matchArea.matching(settings, {0, 0, 9, 9}, {{50, 3, 4}, {9, 4, 5}}, {{60, 1, 9}, {7, 3, 6}});
    return settings;
}

struct Colours {
    std::vector<float> r, g, b;
};

Colours anyColours() {
    std::mt19937 random(21);
    Colours out;
    for (int i = 0; i < 4099; ++i) {
        for (std::vector<float>* channel : {&out.r, &out.g, &out.b})
            channel->push_back(static_cast<float>(random() % 66000) / 60000 - 0.02f);
    }
    return out;
}

// Runs `work` once with each set of instructions alone.
template <class Work>
void withEachTarget(Work work) {
    const auto all = hwy::SupportedTargets();
    for (auto rest = all; rest; rest &= rest - 1) {
        const auto one = rest & ~(rest - 1);
        hwy::SetSupportedTargetsForTest(one);
        work(hwy::TargetName(one));
        hwy::SetSupportedTargetsForTest(0);
    }
}

}  // namespace

TEST(VectorTargets, AdjustmentsAgree) {
    for (const AdjustmentKind* kind : adjustmentKinds()) {
        const Operations operations = kind->prepare(moved(*kind));
        Colours first;
        double worst = 0;
        withEachTarget([&](const char*) {
            Colours out = anyColours();
            apply(operations, {out.r.data(), out.g.data(), out.b.data()}, out.r.size());
            if (first.r.empty()) first = out;
            for (std::size_t i = 0; i < out.r.size(); ++i) {
                for (const auto& [a, b] :
                     {std::pair{out.r[i], first.r[i]}, {out.g[i], first.g[i]}, {out.b[i], first.b[i]}})
                    worst = std::max(worst, std::abs(double{a} - double{b}) / std::max(1.0, std::abs(double{b})));
            }
        });
        std::printf("%s: %.3f of 65535\n", std::string(kind->id).c_str(), 65535 * worst);
        EXPECT_LT(65535 * worst, 0.5) << kind->id;
    }
}

TEST(VectorTargets, HalvesAndSamplesAreTheSameBits) {
    const Colours colours = anyColours();
    std::vector<std::uint16_t> firstHalves;
    std::vector<float> firstPlane;
    std::vector<std::uint8_t> samples(3 * 1021);
    for (std::size_t i = 0; i < samples.size(); ++i) samples[i] = static_cast<std::uint8_t>(i * 7);
    withEachTarget([&](const char* target) {
        std::vector<std::uint16_t> halves(colours.r.size());
        kernel::halfFromFloat(colours.r.data(), halves.data(), halves.size());
        if (firstHalves.empty()) firstHalves = halves;
        EXPECT_EQ(halves, firstHalves) << target;
        std::vector<float> planes[3] = {std::vector<float>(1021), std::vector<float>(1021), std::vector<float>(1021)};
        float* const to[3] = {planes[0].data(), planes[1].data(), planes[2].data()};
        kernel::planesFromSamples(samples.data(), 3, to, 1021);
        if (firstPlane.empty()) firstPlane = planes[1];
        EXPECT_EQ(planes[1], firstPlane) << target;
    });
}

}  // namespace dimhem::adjust
