// A picture exported smaller, against a slow mean in double precision of the picture exported at its full size.
#include <gtest/gtest.h>

#include "core/colour/srgb.h"
#include "core/io/registry.h"
#include "core/task/export.h"
#include "tests/support/documents.h"
#include "tests/support/opened.h"
#include "tests/support/pictures.h"
#include "tests/support/temp_folder.h"

namespace dimhem::task {

namespace {

using image::SampleType;

std::shared_ptr<const render::PhotoSource> sourceOf(image::Photo photo) {
    return *render::PhotoSource::make(std::make_shared<const image::Photo>(std::move(photo)));
}

image::Photo exported(const document::DocumentPtr& document, const std::shared_ptr<const render::PhotoSource>& photo,
                      const ExportSettings& settings, const char* name = "out.tif") {
    const tests::TempFolder folder;
    const auto done = exportPicture(tests::openedOf(photo), document, folder / name, settings);
    EXPECT_TRUE(done) << (done ? "" : done.error().message);
    auto back = io::readPhoto(folder / name);
    EXPECT_TRUE(back) << (back ? "" : back.error().message);
    return std::move(*back);
}

// Colours of transparent pixels do not count: they are averaged times their alpha.
void expectMeanOf(const image::Photo& full, const image::Photo& small, double tolerance) {
    const base::Size from = full.size(), to = small.size();
    const int channels = full.samples.channels(), colours = full.samples.colourChannels();
    ASSERT_EQ(small.samples.channels(), channels);
    std::vector<std::vector<float>> rows(static_cast<std::size_t>(from.height));
    for (int y = 0; y < from.height; ++y) {
        rows[static_cast<std::size_t>(y)].resize(static_cast<std::size_t>(from.width * channels));
        full.samples.readRow(y, 0, from.width, rows[static_cast<std::size_t>(y)].data());
    }
    const auto overlap = [](int at, double begin, double end) {
        return std::max(0.0, std::min<double>(at + 1, end) - std::max<double>(at, begin));
    };
    std::vector<float> out(static_cast<std::size_t>(to.width * channels));
    const double sx = static_cast<double>(from.width) / to.width, sy = static_cast<double>(from.height) / to.height;
    for (int y = 0; y < to.height; ++y) {
        small.samples.readRow(y, 0, to.width, out.data());
        for (int x = 0; x < to.width; ++x) {
            double sums[4] = {}, area = 0, covered = 0;
            for (int v = static_cast<int>(y * sy); v < std::min<double>(from.height, (y + 1) * sy); ++v) {
                for (int u = static_cast<int>(x * sx); u < std::min<double>(from.width, (x + 1) * sx); ++u) {
                    const float* pixel = &rows[static_cast<std::size_t>(v)][static_cast<std::size_t>(u * channels)];
                    const double part = overlap(u, x * sx, (x + 1) * sx) * overlap(v, y * sy, (y + 1) * sy);
                    const double alpha = colours < channels ? pixel[colours] : 1.0;
                    for (int c = 0; c < colours; ++c) sums[c] += part * alpha * colour::linearFromEncoded(pixel[c]);
                    area += part;
                    covered += part * alpha;
                }
            }
            const float* got = &out[static_cast<std::size_t>(x * channels)];
            for (int c = 0; c < colours && covered > 1e-3; ++c)
                ASSERT_NEAR(got[c], colour::encodedFromLinear(sums[c] / covered), tolerance) << x << " " << y;
            if (colours < channels) {
                ASSERT_NEAR(got[colours], covered / area, tolerance) << x << " " << y;
            }
        }
    }
}

}  // namespace

TEST(SmallerExport, IsTheMeanLightOfTheCorrectedPicture) {
    // 300 rows: several bands of rendering, whose borders fall within pixels of the smaller picture.
    const auto photo = sourceOf(tests::madePhoto({403, 300}, 3, SampleType::u16));
    for (const int longSide : {402, 201, 57, 1}) {
        ExportSettings settings;
        const image::Photo full = exported(tests::threeCorrections(), photo, settings);
        settings.longSidePx = longSide;
        const image::Photo small = exported(tests::threeCorrections(), photo, settings);
        EXPECT_EQ(std::max(small.size().width, small.size().height), longSide);
        expectMeanOf(full, small, 1.5 / 65535 + 4e-5);  // rounded twice; float sums of up to 120 000 pixels
    }
}

TEST(SmallerExport, TransparentColoursDoNotShineThrough) {
    const auto photo = sourceOf(tests::madePhoto({120, 80}, 4, SampleType::u16));
    ExportSettings settings;
    settings.longSidePx = 47;
    expectMeanOf(photo->photo(), exported(tests::documentOf("[]"), photo, settings), 1e-4);
    settings.longSidePx = 120;
    EXPECT_TRUE(tests::sameSamples(exported(tests::documentOf("[]"), photo, settings).samples, photo->photo().samples))
        << "not smaller: bit for bit";
    settings.longSidePx = 5000;
    EXPECT_TRUE(tests::sameSamples(exported(tests::documentOf("[]"), photo, settings).samples, photo->photo().samples))
        << "never enlarged";
}

TEST(SmallerExport, GreyStaysGreyAndWorkersDoNotMatter) {
    const auto grey = sourceOf(tests::madePhoto({200, 300}, 1));
    ExportSettings settings;
    settings.longSidePx = 100;
    expectMeanOf(grey->photo(), exported(tests::documentOf("[]"), grey, settings), 0.6 / 255);
    const auto photo = sourceOf(tests::madePhoto({403, 301}, 3, SampleType::u16));
    const image::Photo many = exported(tests::threeCorrections(), photo, settings);
    settings.workers.count = 1;
    EXPECT_TRUE(tests::sameSamples(many.samples, exported(tests::threeCorrections(), photo, settings).samples));
}

TEST(SmallerExport, StoppedLeavesNoFile) {
    const tests::TempFolder folder;
    base::CancelSource cancel;
    ExportSettings settings;
    settings.longSidePx = 400;
    const auto stopped =
        exportPicture(tests::openedOf(sourceOf(tests::madePhoto({300, 900}))), tests::threeCorrections(),
                      folder / "out.png", settings, cancel.token(), [&](double part) {
                          if (part > 0.3) cancel.cancel();
                      });
    ASSERT_FALSE(stopped);
    EXPECT_EQ(stopped.error().code, base::ErrorCode::cancelled);
    EXPECT_TRUE(std::filesystem::is_empty(folder.path()));
}

}  // namespace dimhem::task
