// Haze depth as a part of a mask, on a landscape of three ridges whose transmission is known.
#include "core/mask/haze_depth.h"

#include <gtest/gtest.h>

#include <cmath>
#include <cstring>

#include "core/colour/srgb.h"
#include "core/render/renderer.h"
#include "tests/support/documents.h"
#include "tests/support/memory.h"

namespace dimhem::render {
namespace {

constexpr base::Size size{640, 420};
constexpr double air[3] = {0.78, 0.82, 0.88};  // linear

// 0 sky, 1 far, 2 middle, 3 near.
int ridgeAt(int x, int y) {
    if (y > 330 + 12 * std::sin(x * 0.021)) return 3;
    if (y > 230 + 25 * std::sin(x * 0.013 + 1)) return 2;
    return y > 140 + 20 * std::sin(x * 0.017 + 2) ? 1 : 0;
}

double transmissionOf(int ridge) {
    constexpr double t[] = {0, 0.3, 0.6, 1};
    return t[ridge];
}

// Dark trees on pale ground.
double sceneAt(int x, int y, int c) {
    const bool tree = std::sin(x * 0.35 + std::sin(y * 0.11)) + std::sin(y * 0.29) > 0.4;
    return tree ? 0.04 + 0.01 * c : 0.25 - 0.05 * c;
}

std::shared_ptr<const PhotoSource> hazyPhoto() {
    image::Photo photo;
    photo.format = "made";
    photo.samples = image::Samples(size, 3, image::SampleType::u8);
    for (int y = 0; y < size.height; ++y) {
        auto* to = reinterpret_cast<std::uint8_t*>(photo.samples.row(y));
        for (int x = 0; x < size.width; ++x) {
            const double t = transmissionOf(ridgeAt(x, y));
            for (int c = 0; c < 3; ++c) {
                const double light = t * sceneAt(x, y, c) + (1 - t) * air[c];
                *to++ = static_cast<std::uint8_t>(std::lround(255 * colour::encodedFromLinear(light)));
            }
        }
    }
    return *PhotoSource::make(std::make_shared<const image::Photo>(std::move(photo)));
}

document::DocumentPtr masked(const std::string& range, const std::string& more = "") {
    return tests::documentOf(R"([{"id": 1, "mask": {"parts": [{"kind": "haze-depth", "haze": )" + range + more +
                             R"(}]}, "adjustments": [{"kind": "light", "exposure": 1}]}])");
}

image::Plane<float> coverageOf(const Renderer& renderer, const document::DocumentPtr& document,
                               const mask::Area& area) {
    const Sequence sequence(document, {});
    return mask::floatsOf(*renderer.coverage(sequence, document->corrections[0]->id, area), area.rect.size());
}

Renderer rendererOf(const std::shared_ptr<const PhotoSource>& photo) {
    return Renderer(photo, std::make_shared<TileCache>());
}

// The mean over a ridge, without the pixels beside its outline.
double meanOver(const image::Plane<float>& coverage, int ridge, int away = 6) {
    double sum = 0, count = 0;
    for (int y = away; y < size.height - away; ++y) {
        for (int x = away; x < size.width - away; ++x) {
            const bool inside = ridgeAt(x, y) == ridge && ridgeAt(x, y - away) == ridge &&
                                ridgeAt(x, y + away) == ridge && ridgeAt(x - away, y) == ridge &&
                                ridgeAt(x + away, y) == ridge;
            if (!inside) continue;
            sum += double{coverage.row(y)[static_cast<std::size_t>(x)]};
            ++count;
        }
    }
    return sum / count;
}

TEST(HazeDepth, TakesTheFarRidgeAndLeavesTheNear) {
    const Renderer renderer = rendererOf(hazyPhoto());
    const image::Plane<float> far = coverageOf(renderer, masked("[45, 55, 100, 100]"), {base::rectOf(size), 0});
    EXPECT_GT(meanOver(far, 0), 0.99);
    EXPECT_GT(meanOver(far, 1), 0.95);
    EXPECT_LT(meanOver(far, 2), 0.05);
    EXPECT_LT(meanOver(far, 3), 0.01);
    const image::Plane<float> middle = coverageOf(renderer, masked("[20, 28, 52, 60]"), {base::rectOf(size), 0});
    EXPECT_LT(meanOver(middle, 1), 0.1);
    EXPECT_GT(meanOver(middle, 2), 0.9);
    EXPECT_LT(meanOver(middle, 3), 0.1);
}

TEST(HazeDepth, FollowsTheEdgeOfTheNearerRidge) {
    const image::Plane<float> far =
        coverageOf(rendererOf(hazyPhoto()), masked("[45, 55, 100, 100]"), {base::rectOf(size), 0});
    double spilt = 0, missing = 0;
    for (int y = 10; y < size.height - 10; ++y) {
        for (int x = 10; x < size.width - 10; ++x) {
            const double covered = double{far.row(y)[static_cast<std::size_t>(x)]};
            if (ridgeAt(x, y) == 2 && ridgeAt(x, y - 4) == 2) spilt = std::max(spilt, covered);
            if (ridgeAt(x, y) == 1 && ridgeAt(x, y + 4) == 1 && ridgeAt(x, y - 4) == 1)
                missing = std::max(missing, 1 - covered);
        }
    }
    EXPECT_LT(spilt, 0.35) << "four pixels below the edge";
    EXPECT_LT(missing, 0.6) << "four pixels above it";
}

TEST(HazeDepth, SaysTheShareOfHaze) {
    const Renderer renderer = rendererOf(hazyPhoto());
    const document::DocumentPtr document = masked("[45, 55, 100, 100]");
    const Sequence sequence(document, {});
    const auto context = renderer.maskContext(sequence, document->corrections[0]->id);
    const auto& shape = dynamic_cast<const mask::HazeDepth&>(*document->corrections[0]->mask.parts[0]->shape);
    const auto shares = shape.hazeOver({base::rectOf(size), 0}, *context).value();
    const image::Plane<float>& haze = *shares;
    EXPECT_NEAR(meanOver(haze, 1), 70, 8);
    EXPECT_NEAR(meanOver(haze, 2), 40, 8);
    EXPECT_NEAR(meanOver(haze, 3), 0, 8);
}

TEST(HazeDepth, ComesOutTheSameHoweverItIsCutAndAlikeAtOtherLevels) {
    const auto photo = hazyPhoto();
    const document::DocumentPtr document = masked("[30, 60, 100, 100]", R"(, "smooth": 3)");
    const image::Plane<float> once = coverageOf(rendererOf(photo), document, {base::rectOf(size), 0});
    const Renderer other = rendererOf(photo);
    image::TileGrid(size, 90).forEach(base::rectOf(size), [&](const base::Rect& tile) {
        const image::Plane<float> part = coverageOf(other, document, {tile, 0});
        for (int y = tile.y0; y < tile.y1; ++y) {
            for (int x = tile.x0; x < tile.x1; ++x)
                ASSERT_EQ(part.row(y - tile.y0)[static_cast<std::size_t>(x - tile.x0)],
                          once.row(y)[static_cast<std::size_t>(x)]);
        }
    });
    for (const int level : {1, 2}) {
        const base::Size small = image::levelSize(size, level);
        const image::Plane<float> view = coverageOf(rendererOf(photo), document, {base::rectOf(small), level});
        const int side = 1 << level;
        double sum = 0;
        for (int y = 0; y < small.height; ++y) {
            for (int x = 0; x < small.width; ++x) {
                double mean = 0;
                for (int k = 0; k < side * side; ++k)
                    mean += double{once.row(side * y + k / side)[static_cast<std::size_t>(side * x + k % side)]};
                sum += std::abs(mean / (side * side) - double{view.row(y)[static_cast<std::size_t>(x)]});
            }
        }
        EXPECT_LT(sum / (small.width * small.height), 0.03) << level;
    }
}

TEST(HazeDepth, AnyPhotoHasOne) {
    for (const base::Size tiny : {base::Size{1, 1}, base::Size{1, 40}, base::Size{3, 2}}) {
        image::Photo photo;
        photo.format = "made";
        photo.samples = image::Samples(tiny, 3, image::SampleType::u8);
        std::memset(photo.samples.row(0), 90, photo.samples.bytes());
        const Renderer renderer =
            rendererOf(*PhotoSource::make(std::make_shared<const image::Photo>(std::move(photo))));
        const image::Plane<float> coverage = coverageOf(renderer, masked("[0, 0, 100, 100]"), {base::rectOf(tiny), 0});
        EXPECT_EQ(coverage.row(0)[0], 1);
    }
}

}  // namespace
// Wide feathers and edge snap look far beyond a small photo; what lies there is the photo's edge, and costs nothing.
TEST(HazeDepth, NeverWorksOnMoreThanThePhoto) {
    for (const char* part : {R"({"kind": "haze-depth", "haze": [20, 40, 100, 100]})",
                             R"({"kind": "region", "drags": [{"points": [[100, 380], [500, 380]]}]})"}) {
        const auto document = tests::documentOf(std::string(R"([{"id": 1, "mask": {"parts": [)") + part +
                                                R"(], "refine": {"feather": 1000, "edge-snap": 8}}}])");
        const Renderer renderer(hazyPhoto(), std::make_shared<TileCache>(std::size_t{64} << 20));
        const double megabytes = tests::memoryTaken([&] {
            (void)coverageOf(renderer, document, {{0, 0, 640, 420}, 0});
        });
        EXPECT_LT(megabytes, 300) << part;
    }
}

// Beyond the photo its edge goes on, on every level and in any piece.
TEST(HazeDepth, BeyondThePhotoItsEdgeGoesOn) {
    const Renderer renderer(hazyPhoto(), std::make_shared<TileCache>());
    const auto document = masked("[20, 40, 100, 100]", R"(, "smooth": 0)");
    for (const int level : {0, 2, 4}) {
        const base::Size on = image::levelSize(size, level);
        const mask::Area wide{{-30, -20, on.width + 25, on.height + 40}, level};
        const auto whole = coverageOf(renderer, document, {base::rectOf(on), level}),
                   around = coverageOf(renderer, document, wide);
        for (int y = wide.rect.y0; y < wide.rect.y1; y += 3) {
            for (int x = wide.rect.x0; x < wide.rect.x1; x += 3) {
                const float edge = whole.row(
                    std::clamp(y, 0, on.height - 1))[static_cast<std::size_t>(std::clamp(x, 0, on.width - 1))];
                EXPECT_NEAR(around.row(y + 20)[static_cast<std::size_t>(x + 30)], edge, 1e-3)
                    << level << " " << x << " " << y;
            }
        }
    }
}

}  // namespace dimhem::render
