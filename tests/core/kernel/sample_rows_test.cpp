#include "core/kernel/sample_rows.h"

#include <gtest/gtest.h>

#include <numeric>
#include <vector>

namespace dimhem::kernel {

namespace {

// Every value, in each of the channels, from every place within a vector.
template <class T>
void expectDivision(std::size_t channels) {
    constexpr std::size_t values = std::size_t{std::numeric_limits<T>::max()} + 1;
    for (const std::size_t skipped : {0, 1, 5}) {
        const std::size_t count = values - skipped;
        std::vector<T> samples(count * channels);
        for (std::size_t i = 0; i < samples.size(); ++i)
            samples[i] = static_cast<T>(i / channels + skipped + 77 * (i % channels));
        std::vector<float> planes[3];
        for (auto& plane : planes) plane.resize(count);
        float* const to[3] = {planes[0].data(), planes[1].data(), planes[2].data()};
        planesFromSamples(samples.data(), channels, to, count);
        for (std::size_t i = 0; i < count; ++i) {
            for (std::size_t c = 0; c < 3; ++c) {
                const T sample = samples[i * channels + c];
                ASSERT_EQ(planes[c][i], static_cast<float>(sample) / static_cast<float>(values - 1))
                    << sample << " in channel " << c;
            }
        }
        std::vector<T> back(count * 3);
        const float* const from[3] = {planes[0].data(), planes[1].data(), planes[2].data()};
        samplesFromPlanes(from, back.data(), count);
        for (std::size_t i = 0; i < count * 3; ++i) ASSERT_EQ(back[i], samples[i / 3 * channels + i % 3]) << i;
    }
}

}  // namespace

TEST(SampleRows, AreEachValueDividedByTheLargest) {
    for (const std::size_t channels : {3, 4}) {
        expectDivision<std::uint8_t>(channels);
        expectDivision<std::uint16_t>(channels);
    }
}

TEST(SampleRows, WhatIsBeyondIsHeldAndTheRestRounded) {
    for (const std::size_t count : {3u, 40u}) {
        const std::vector<float> red(count, -0.3f), green(count, 1.7f), blue(count, 100.6f / 255);
        const float* const from[3] = {red.data(), green.data(), blue.data()};
        std::vector<std::uint8_t> out(3 * count);
        samplesFromPlanes(from, out.data(), count);
        for (std::size_t i = 0; i < count; ++i) {
            EXPECT_EQ(out[3 * i], 0);
            EXPECT_EQ(out[3 * i + 1], 255);
            EXPECT_EQ(out[3 * i + 2], 101);
        }
    }
}

}  // namespace dimhem::kernel
