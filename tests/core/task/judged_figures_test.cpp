// The figures by which a correction is judged, against a library and slow references.
#include <gtest/gtest.h>

#include <cmath>
#include <opencv2/imgproc.hpp>
#include <random>

#include "core/colour/ciede2000.h"
#include "core/colour/lab.h"
#include "core/colour/srgb.h"
#include "core/task/masked_colours.h"
#include "core/task/probe_reading.h"
#include "tests/support/documents.h"
#include "tests/support/pictures.h"
#include "tests/support/profiles.h"

namespace dimhem::task {

namespace {

render::Renderer rendererOf(image::Photo photo) {
    return {*render::PhotoSource::make(std::make_shared<const image::Photo>(std::move(photo))),
            std::make_shared<render::TileCache>()};
}

image::EncodedPlanes resultOf(const render::Renderer& renderer, const document::DocumentPtr& document) {
    image::EncodedPlanes picture(renderer.photo().size());
    renderer.picture(render::Sequence(document, {}), {base::rectOf(renderer.photo().size()), 0}, picture);
    return picture;
}

document::DocumentPtr everywhere(const char* exposure) {
    return tests::documentOf(
        std::string(R"([{"id": 1, "mask": {"starts": "everywhere"}, "adjustments": [{"kind": "light", "exposure": )") +
        exposure + "}]}]");
}

}  // namespace

// Reference: OpenCV's calcHist, whose bins are [lower, upper).
TEST(JudgedFigures, TheHistogramIsThatOfOpenCv) {
    const render::Renderer renderer = rendererOf(tests::madePhoto({320, 200}, 3, image::SampleType::f32));
    const auto document = everywhere("0.4");
    const auto colours = maskedColours(renderer, document, 1);
    ASSERT_TRUE(colours);
    const image::EncodedPlanes picture = resultOf(renderer, document);
    const image::Plane<float>* planes[] = {&picture.red, &picture.green, &picture.blue};
    for (std::size_t c = 0; c < 3; ++c) {
        cv::Mat1f channel(200, 320);
        for (int y = 0; y < 200; ++y) {
            for (int x = 0; x < 320; ++x)
                channel(y, x) = std::clamp(planes[c]->row(y)[static_cast<std::size_t>(x)], 0.0f, 0.9999f);
        }
        cv::Mat counted;
        const int bins[] = {100};
        const float range[] = {0, 1};
        const float* ranges[] = {range};
        const int channels[] = {0};
        cv::calcHist(&channel, 1, channels, cv::Mat(), counted, 1, bins, ranges);
        double apart = 0, all = 0;
        for (int i = 0; i < 100; ++i) {
            apart += std::abs(counted.at<float>(i) - colours->after.channels[c][static_cast<std::size_t>(i)]);
            all += static_cast<double>(counted.at<float>(i));
        }
        EXPECT_EQ(all, 320 * 200);
        EXPECT_LT(apart / all, 0.002) << "values on the border of two bins fall by rounding";
    }
}

TEST(JudgedFigures, WhatIsNewlyLostIsCountedPixelByPixel) {
    for (const bool wide : {false, true}) {
        image::Photo photo = tests::madePhoto({320, 200}, 3, image::SampleType::u16);
        if (wide) photo.profile = tests::wideProfile();
        const render::Renderer renderer = rendererOf(std::move(photo));
        const auto document = everywhere("1.1");
        const auto colours = maskedColours(renderer, document, 1);
        ASSERT_TRUE(colours);
        // One by one, through the profile.
        const auto transform = wide ? colour::IccTransform::fromWorking(tests::wideProfile(), 3)
                                    : base::Result<colour::IccTransform>(base::fail(base::ErrorCode::notFound, "", ""));
        const auto faultOf = [&](const image::EncodedPlanes& p, int x, int y) {
            const auto at = static_cast<std::size_t>(x);
            colour::EncodedRgb c{p.red.row(y)[at], p.green.row(y)[at], p.blue.row(y)[at]};
            if (wide) {
                const colour::LinearRgb l = colour::linearFromEncoded(c);
                const float from[] = {static_cast<float>(l.r), static_cast<float>(l.g), static_cast<float>(l.b)};
                float to[3];
                transform->row(from, to, 1);
                c = {to[0], to[1], to[2]};
            }
            return check::faultOf(c);
        };
        const image::EncodedPlanes before = resultOf(renderer, tests::documentOf("[]")),
                                   after = resultOf(renderer, document);
        double clipped = 0;
        for (int y = 0; y < 200; ++y) {
            for (int x = 0; x < 320; ++x)
                clipped +=
                    faultOf(after, x, y) == check::Fault::clipped && faultOf(before, x, y) != check::Fault::clipped;
        }
        const double pct = 100 * clipped / (320 * 200);
        EXPECT_GT(pct, 3);
        EXPECT_NEAR(colours->newlyPct[static_cast<std::size_t>(check::Fault::clipped)], pct, 0.05) << wide;
    }
}

TEST(JudgedFigures, OfTheWholePhotoTheyAreBeforeAllAndAfterAll) {
    const render::Renderer renderer = rendererOf(tests::madePhoto({320, 200}));
    const auto document = tests::threeCorrections();
    const auto whole = wholeColours(renderer, document);
    ASSERT_TRUE(whole);
    const auto meanLightness = [](const image::EncodedPlanes& p) {
        double sum = 0;
        for (int y = 0; y < p.size().height; ++y) {
            for (std::size_t x = 0; x < p.red.row(y).size(); ++x)
                sum += colour::labFromEncoded({p.red.row(y)[x], p.green.row(y)[x], p.blue.row(y)[x]}).l;
        }
        return sum / (p.size().width * p.size().height);
    };
    EXPECT_NEAR(whole->before.lab.mean[0], meanLightness(resultOf(renderer, tests::documentOf("[]"))), 0.01);
    EXPECT_NEAR(whole->after.lab.mean[0], meanLightness(resultOf(renderer, document)), 0.01);
}

TEST(ProbeReading, IsTheMeanLightOfItsSquare) {
    const render::Renderer renderer = rendererOf(tests::madePhoto({320, 200}, 3, image::SampleType::f32));
    const auto document = tests::threeCorrections();
    const image::EncodedPlanes after = resultOf(renderer, document);
    for (const int px : document::probeSizes) {
        document::Probe probe;
        probe.place = {150.7, 90.2};
        probe.sizePx = px;
        const auto reading = readProbe(renderer, document, probe);
        ASSERT_TRUE(reading);
        colour::LinearRgb sum;
        const int r = px / 2;
        for (int y = 90 - r; y <= 90 + r; ++y) {
            for (int x = 150 - r; x <= 150 + r; ++x) {
                const auto at = static_cast<std::size_t>(x);
                const colour::LinearRgb l = colour::linearFromEncoded(
                    colour::EncodedRgb{after.red.row(y)[at], after.green.row(y)[at], after.blue.row(y)[at]});
                sum.r += l.r / (px * px);
                sum.g += l.g / (px * px);
                sum.b += l.b / (px * px);
            }
        }
        const colour::EncodedRgb mean = colour::encodedFromLinear(sum);
        EXPECT_NEAR(reading->after.mean.r, mean.r, 1e-5) << px;
        EXPECT_NEAR(reading->after.mean.g, mean.g, 1e-5) << px;
        EXPECT_NEAR(reading->after.lab.l, colour::labFromLinear(sum).l, 1e-3) << px;
        EXPECT_NEAR(reading->difference, colour::ciede2000(reading->before.lab, reading->after.lab), 1e-9);
        if (px == 1) {
            EXPECT_NEAR(reading->after.spread, 0, 1e-6) << "one pixel";
        }
    }
}

TEST(ProbeReading, OutsideThereIsNoneAndAtTheBorderWhatThereIs) {
    const render::Renderer renderer = rendererOf(tests::madePhoto({320, 200}));
    document::Probe probe;
    probe.place = {-40, 20};
    EXPECT_FALSE(readProbe(renderer, tests::documentOf("[]"), probe));
    probe.place = {0, 0};
    probe.sizePx = 51;
    EXPECT_TRUE(readProbe(renderer, tests::documentOf("[]"), probe));
    probe.area = base::Rect{-1000, -1000, 5000, 5000};
    EXPECT_TRUE(readProbe(renderer, tests::documentOf("[]"), probe)) << "all of the photo";
    probe.area = base::Rect{400, 0, 500, 100};
    EXPECT_FALSE(readProbe(renderer, tests::documentOf("[]"), probe));
}

}  // namespace dimhem::task
