// The demo photos against their known truth: the corrections in their documents must bring them nearer to it inside the
// fault's matte and leave the rest alone.
#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <fstream>

#include "core/document/edits.h"
#include "core/mask/linear_gradient.h"
#include "core/render/renderer.h"
#include "core/task/hem_check.h"
#include "core/task/mend.h"
#include "core/task/open.h"
#include "tests/support/temp_folder.h"
#include "tests/support/truth.h"

namespace dimhem::task {

namespace {

const std::filesystem::path& demo = tests::demoFolder;

image::EncodedPlanes pictureOf(const document::DocumentPtr& document,
                               const std::shared_ptr<const render::PhotoSource>& photo, bool corrected) {
    render::Comparison comparison;
    comparison.allOff = !corrected;
    const render::Renderer renderer(photo, std::make_shared<render::TileCache>());
    image::EncodedPlanes out(photo->size());
    renderer.picture(render::Sequence(document, comparison), {base::rectOf(photo->size()), 0}, out);
    return out;
}

struct Distance {
    double psnr, ciede2000;
};

// Over every third pixel on which the matte is above a half.
Distance distance(const image::EncodedPlanes& a, const image::EncodedPlanes& b, const image::EncodedPlanes& matte) {
    double squares = 0, difference = 0, count = 0;
    for (int y = 0; y < a.size().height; y += 3) {
        for (std::size_t x = 0; x < static_cast<std::size_t>(a.size().width); x += 3) {
            if (matte.red.row(y)[x] <= 0.5f) continue;
            const colour::EncodedRgb p = tests::colourAt(a, static_cast<int>(x), y),
                                     q = tests::colourAt(b, static_cast<int>(x), y);
            squares += (p.r - q.r) * (p.r - q.r) + (p.g - q.g) * (p.g - q.g) + (p.b - q.b) * (p.b - q.b);
            difference += colour::ciede2000(colour::labFromEncoded(p), colour::labFromEncoded(q));
            ++count;
        }
    }
    return {10 * std::log10(3 * count / squares), difference / count};
}

}  // namespace

// What a matte's corrections must at least win: so many decibels, and the colour difference divided by so much.
struct Win {
    const char* photo;
    const char* matte;
    double decibels, difference;
};

class DemoTruth : public testing::TestWithParam<Win> {};

TEST_P(DemoTruth, CorrectionsBringThePhotoNearerToIt) {
    const Win& win = GetParam();
    const std::string name = win.photo;
    const auto opened = open(demo / (name + ".dimhem"));
    ASSERT_TRUE(opened) << opened.error().message;
    EXPECT_TRUE(opened->warning.empty()) << opened->warning;
    const auto before = pictureOf(opened->document, opened->photo, false),
               after = pictureOf(opened->document, opened->photo, true);
    const auto clean = tests::readPicture(demo / ("truth/" + name + "-clean.jpg")),
               matte = tests::readPicture(demo / ("truth/" + name + "-" + win.matte + ".png"));
    const Distance was = distance(before, clean, matte), is = distance(after, clean, matte);
    std::printf("%s, %s: PSNR %.2f -> %.2f dB, mean CIEDE2000 %.2f -> %.2f\n", win.photo, win.matte, was.psnr, is.psnr,
                was.ciede2000, is.ciede2000);
    EXPECT_GT(is.psnr, was.psnr + win.decibels);
    EXPECT_LT(is.ciede2000, was.ciede2000 / win.difference);
}

INSTANTIATE_TEST_SUITE_P(Photos, DemoTruth,
                         testing::Values(Win{"bay-gradient", "ground", 3, 1.8}, Win{"bay-gradient", "sky", 3, 1.8},
                                         Win{"harmonium", "keys", 3, 1.4}, Win{"harmonium", "stained", 3, 1.4},
                                         Win{"figurehead", "patches", 3, 1.5}, Win{"figurehead", "eyes", 3, 1.5},
                                         Win{"green-sweep", "lantern", 3, 1.5}, Win{"boathouse-print", "leak", 3, 1.5},
                                         Win{"chart-table", "shadow", 3, 1.5}, Win{"chart-table", "glare", 1.5, 1.15},
                                         Win{"headlands", "land", 9, 2.5}),
                         [](const auto& info) {
                             std::string name = std::string(info.param.photo) + "_" + info.param.matte;
                             std::replace(name.begin(), name.end(), '-', '_');
                             return name;
                         });

// By hand, under the sky's own matte: noise and bands go from the sky, nothing of the tower does.
TEST(DemoSky, NoiseAndBandsLeaveTheDuskSkyAlone) {
    const tests::TempFolder folder;
    std::filesystem::copy(demo / "tower-dusk.jpg", folder / "tower-dusk.jpg");
    std::filesystem::copy(demo / "truth/tower-dusk-sky.png", folder / "sky.png");
    std::ofstream(folder / "dusk.dimhem") << R"({"format": "dim-hem-document", "version": 1,
        "photo": {"path": "tower-dusk.jpg"}, "corrections": [
          {"mask": {"parts": [{"kind": "matte", "source": "file", "file": "sky.png"}]},
           "adjustments": [{"kind": "noise", "luminance": 100, "colour": 100, "blotches": 100},
                           {"kind": "banding", "amount": 100}]}]})";
    const auto opened = open(folder / "dusk.dimhem");
    ASSERT_TRUE(opened) << opened.error().message;
    const auto before = pictureOf(opened->document, opened->photo, false),
               after = pictureOf(opened->document, opened->photo, true);
    const auto clean = tests::readPicture(demo / "truth/tower-dusk-clean.jpg"),
               sky = tests::readPicture(demo / "truth/tower-dusk-sky.png");
    const Distance was = distance(before, clean, sky), is = distance(after, clean, sky);
    std::printf("tower-dusk, sky: PSNR %.2f -> %.2f dB, mean CIEDE2000 %.2f -> %.2f\n", was.psnr, is.psnr,
                was.ciede2000, is.ciede2000);
    EXPECT_GT(is.psnr, was.psnr + 4);
    EXPECT_LT(is.ciede2000, was.ciede2000 / 1.5);
    for (int y = 0; y < sky.size().height; ++y) {
        for (std::size_t x = 0; x < static_cast<std::size_t>(sky.size().width); ++x) {
            if (sky.green.row(y)[x] > 0) continue;
            ASSERT_EQ(before.green.row(y)[x], after.green.row(y)[x]) << x << " " << y;
        }
    }
}

// A gradient laid from above for the sky: what stands before it is found, and leaving it out takes the gradient off it
// and leaves the sky as it is.
struct Standing {
    const char* photo;
    const char* matte;  // of the sky
    double noneAt;      // of the height
};

class DemoFigures : public testing::TestWithParam<Standing> {};

TEST_P(DemoFigures, AreLeftOutOfTheSkysGradient) {
    const Standing& standing = GetParam();
    const auto opened = open(demo / (std::string(standing.photo) + ".jpg"));
    ASSERT_TRUE(opened) << opened.error().message;
    const base::Size size = opened->photo->size();
    const render::Renderer renderer(opened->photo, std::make_shared<render::TileCache>());
    const document::Added begun = document::withNewCorrection(*opened->document, 0);
    const auto gradient =
        std::make_shared<mask::LinearGradient>(base::Point{size.width / 2.0, size.height * 0.05},
                                               base::Point{size.width / 2.0, size.height * standing.noneAt});
    document::DocumentPtr document =
        document::withNewPart(*begun.document, begun.id, gradient, mask::Combine::add).document;
    const auto sky =
        tests::readPicture(demo / ("truth/" + std::string(standing.photo) + "-" + standing.matte + ".png"));
    const auto covered = [&](bool onTheSky) {
        const mask::Area all{base::rectOf(size), 0};
        const auto coverage = renderer.coverage(render::Sequence(document, {}), begun.id, all);
        double sum = 0;
        for (int y = 0; y < size.height; ++y) {
            for (std::size_t x = 0; x < static_cast<std::size_t>(size.width); ++x) {
                const float share = sky.red.row(y)[x];
                if (onTheSky ? share > 0.98f : share < 0.02f) sum += coverage->row(y)[x];
            }
        }
        return sum;
    };
    const double skyBefore = covered(true), restBefore = covered(false);
    const auto report = hemCheck(renderer, document, begun.id);
    ASSERT_TRUE(report);
    ASSERT_FALSE(report->findings.empty());
    for (const check::Finding& finding : report->findings) {
        EXPECT_TRUE(finding.isFigure);
        document = withMended(*document, begun.id, finding).document;
    }
    std::printf("%s: of the gradient on the rest %.3f stays, on the sky %.3f\n", standing.photo,
                covered(false) / restBefore, covered(true) / skyBefore);
    EXPECT_LT(covered(false), 0.25 * restBefore);
    EXPECT_GT(covered(true), 0.985 * skyBefore);
}

INSTANTIATE_TEST_SUITE_P(Photos, DemoFigures,
                         testing::Values(Standing{"bay-gradient", "sky", 0.6}, Standing{"tower-dusk", "sky", 0.6}),
                         [](const auto& info) { return std::string(info.param.photo).substr(0, 3); });

class DemoMasks : public testing::TestWithParam<const char*> {};

TEST_P(DemoMasks, ChangeThePhotoOnlyWhereTheyReach) {
    const auto opened = open(demo / (std::string(GetParam()) + ".dimhem"));
    ASSERT_TRUE(opened) << opened.error().message;
    const auto before = pictureOf(opened->document, opened->photo, false),
               after = pictureOf(opened->document, opened->photo, true);
    const render::Renderer renderer(opened->photo, std::make_shared<render::TileCache>());
    const mask::Area all{base::rectOf(opened->photo->size()), 0};
    const render::Sequence sequence(opened->document, {});
    std::vector<mask::CoveragePtr> masks;
    for (const auto& correction : opened->document->corrections)
        masks.push_back(renderer.coverage(sequence, correction->id, all));
    int changed = 0;
    for (int y = 0; y < all.rect.height(); ++y) {
        for (int x = 0; x < all.rect.width(); ++x) {
            const bool covered = std::any_of(masks.begin(), masks.end(), [&](const auto& m) {
                return m->isConstant() ? !m->isEmpty() : m->row(y)[x] > 0;
            });
            const auto c = static_cast<std::size_t>(x);
            const bool same = before.red.row(y)[c] == after.red.row(y)[c] &&
                              before.green.row(y)[c] == after.green.row(y)[c] &&
                              before.blue.row(y)[c] == after.blue.row(y)[c];
            if (!covered) {
                ASSERT_TRUE(same) << x << " " << y;
            }
            changed += !same;
        }
    }
    EXPECT_GT(changed, 50'000);
}

INSTANTIATE_TEST_SUITE_P(LongPhotos, DemoMasks, testing::Values("tower-dusk", "harmonium", "figurehead", "chart-table"),
                         [](const auto& info) {
                             std::string name = info.param;
                             std::replace(name.begin(), name.end(), '-', '_');
                             return name;
                         });

}  // namespace dimhem::task
