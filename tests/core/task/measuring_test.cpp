// Adjustments that measure the photo: documents by hand, masks, places, cancelling; and what noise removal makes of a
// photo, whole.
#include "core/task/measuring.h"

#include <gtest/gtest.h>

#include <cmath>
#include <fstream>
#include <random>

#include "core/adjust/light.h"
#include "core/adjust/noise.h"
#include "core/colour/ciede2000.h"
#include "core/colour/lab.h"
#include "core/colour/srgb.h"
#include "core/document/edits.h"
#include "core/io/png.h"
#include "core/stage/effort.h"
#include "core/task/open.h"
#include "tests/support/documents.h"
#include "tests/support/rendered.h"
#include "tests/support/temp_folder.h"

namespace dimhem::task {
namespace {

constexpr base::Size size{523, 389};

double clean(int x, int y, int c) {
    const double smooth = 0.55 + 0.15 * std::sin(0.011 * x + c) + 0.08 * std::cos(0.017 * y);
    return x > 260 && y > 120 && y < 300 ? smooth - 0.25 : smooth;  // with hard edges
}

// Noise of one strength on the left half, of another on the right, in levels of 255.
std::shared_ptr<const render::PhotoSource> noisyPhoto(double left, double right) {
    std::mt19937 random(3);
    std::normal_distribution<double> normal;
    image::Photo photo;
    photo.format = "made";
    photo.samples = image::Samples(size, 3, image::SampleType::u8);
    for (int y = 0; y < size.height; ++y) {
        auto* to = reinterpret_cast<std::uint8_t*>(photo.samples.row(y));
        for (int x = 0; x < size.width; ++x) {
            for (int c = 0; c < 3; ++c) {
                const double v = 255 * clean(x, y, c) + (x < size.width / 2 ? left : right) * normal(random);
                *to++ = static_cast<std::uint8_t>(std::lround(std::clamp(v, 0.0, 255.0)));
            }
        }
    }
    return *render::PhotoSource::make(std::make_shared<const image::Photo>(std::move(photo)));
}

const std::string removing = R"({"kind": "noise", "luminance": 100, "colour": 100, "blotches": 100})";

document::DocumentPtr documentWith(const std::string& mask) {
    return tests::documentOf("[{" + mask + R"("adjustments": [)" + removing + "]}]");
}

const std::string everywhere = R"("mask": {"starts": "everywhere"}, )";
const std::string rightHalf =
    R"("mask": {"parts": [{"kind": "outline", "points": [[270, -9], [600, -9], [600, 400], [270, 400]]}]}, )";

render::Renderer rendererOf(const std::shared_ptr<const render::PhotoSource>& photo,
                            std::size_t cacheBytes = render::TileCache::defaultBudget) {
    return render::Renderer(photo, std::make_shared<render::TileCache>(cacheBytes));
}

const adjust::Settings& settingsOf(const document::Document& document) {
    return document.corrections[0]->adjustments[0].settings;
}

double middleSigma(const adjust::Settings& settings) {
    return adjust::measuredNoise(settings, 0, adjust::NoisePlane::y)[7];
}

double psnr(const image::EncodedPlanes& picture) {
    double squares = 0;
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const auto i = static_cast<std::size_t>(x);
            squares += std::pow(double{picture.red.row(y)[i]} - clean(x, y, 0), 2) +
                       std::pow(double{picture.green.row(y)[i]} - clean(x, y, 1), 2) +
                       std::pow(double{picture.blue.row(y)[i]} - clean(x, y, 2), 2);
        }
    }
    return 10 * std::log10(3.0 * size.width * size.height / squares);
}

// Mean CIEDE2000 between a picture, halved in linear light, and one of the next level.
double differenceAtHalf(const image::EncodedPlanes& full, const image::EncodedPlanes& view) {
    double sum = 0, count = 0;
    for (int y = 0; y + 1 < size.height / 2; ++y) {
        for (int x = 0; x + 1 < size.width / 2; ++x) {
            colour::LinearRgb mean{};
            for (int k = 0; k < 4; ++k) {
                const auto i = static_cast<std::size_t>(2 * x + k % 2);
                const int row = 2 * y + k / 2;
                const colour::LinearRgb one = colour::linearFromEncoded(colour::EncodedRgb{
                    double{full.red.row(row)[i]}, double{full.green.row(row)[i]}, double{full.blue.row(row)[i]}});
                mean = {mean.r + one.r / 4, mean.g + one.g / 4, mean.b + one.b / 4};
            }
            const auto i = static_cast<std::size_t>(x);
            const colour::EncodedRgb seen{double{view.red.row(y)[i]}, double{view.green.row(y)[i]},
                                          double{view.blue.row(y)[i]}};
            sum += colour::ciede2000(colour::labFromEncoded(colour::encodedFromLinear(mean)),
                                     colour::labFromEncoded(seen));
            ++count;
        }
    }
    return sum / count;
}

TEST(Measuring, LooksUnderTheMaskOrInAPlace) {
    const auto photo = noisyPhoto(4, 12);
    const render::Renderer renderer = rendererOf(photo);
    const double inY = 1 / std::sqrt(3.0);  // independent noise of three channels, on their mean
    const document::DocumentPtr masked = withAllMeasured(renderer, documentWith(rightHalf));
    EXPECT_NEAR(middleSigma(settingsOf(*masked)), 12 * inY, 1.2 * inY);
    const document::Correction& correction = *masked->corrections[0];
    const auto here =
        measured(renderer, masked, correction.id, correction.adjustments[0].id, base::Rect{8, 8, 240, 380});
    ASSERT_TRUE(here);
    EXPECT_FALSE(here->under) << "in a place of its own";
    EXPECT_NEAR(middleSigma(here->settings), 4 * inY, 0.4 * inY);
    // A mask that covers nothing yet: the whole photo.
    const document::DocumentPtr empty = withAllMeasured(renderer, documentWith(R"("mask": {"parts": []}, )"));
    EXPECT_FALSE(firstUnmeasured(*empty));
    EXPECT_GT(middleSigma(settingsOf(*empty)), 3 * inY);
}

// What was measured under one mask is told from what lies under another, and from a picture that has been changed.
TEST(Measuring, KnowsWhatItWasMeasuredUnder) {
    const auto photo = noisyPhoto(4, 12);
    const render::Renderer renderer = rendererOf(photo);
    const document::DocumentPtr masked = withAllMeasured(renderer, documentWith(rightHalf));
    const document::Correction& correction = *masked->corrections[0];
    const auto& under = correction.adjustments[0].measuredUnder;
    ASSERT_TRUE(under);
    EXPECT_NEAR(under->coveredPct, 100.0 * (523 - 270) / 523, 1);
    EXPECT_NEAR(under->middle.x, (523 + 270) / 2.0, 4);
    EXPECT_TRUE(staleIn(renderer, masked).empty());
    const auto staleWith = [&](const std::function<void(document::Correction&)>& change) {
        return staleIn(renderer, document::withCorrection(*masked, correction.id, change)).size();
    };
    EXPECT_EQ(staleWith([](document::Correction& c) { c.strengthPct = 10; }), 0u) << "how strong it is does not count";
    EXPECT_EQ(staleWith([](document::Correction& c) { c.mask.inverted = true; }), 1u) << "the other half";
    EXPECT_EQ(staleWith([](document::Correction& c) {
                  c.mask.parts.clear();
                  c.mask.startsEverywhere = true;
              }),
              1u);
    EXPECT_EQ(staleWith([](document::Correction& c) { c.mask = {}; }), 0u) << "nothing lies under it";
    // What stands before it makes the picture darker.
    const document::Added before = document::withNewCorrection(*masked, 0);
    const document::DocumentPtr darker = document::withCorrection(*before.document, before.id, [](auto& c) {
        c.mask.startsEverywhere = true;
        c.adjustments.push_back({99, &adjust::light, true, adjust::startingSettings(adjust::light)});
        c.adjustments.back().settings.values[0] = -1;
    });
    const std::vector<Stale> stale = staleIn(renderer, darker);
    ASSERT_EQ(stale.size(), 1u);
    EXPECT_EQ(stale[0].adjustment, correction.adjustments[0].id);
    EXPECT_LT(stale[0].now.meanLab[0], under->meanLab[0] - 3);
    // What a hand has set is nobody else's any more.
    const document::DocumentPtr byHand =
        document::withAdjustment(*masked, correction.id, correction.adjustments[0].id,
                                 [](document::AdjustmentUse& use) { use.settings.tables[0].back() += 1; });
    EXPECT_FALSE(byHand->corrections[0]->adjustments[0].measuredUnder);
    const auto again = document::fromJsonText(document::toJsonText(*masked));
    ASSERT_TRUE(again);
    EXPECT_EQ((*again)->corrections[0]->adjustments[0].measuredUnder, under);
}

// Whether anything is stale is asked after each step: of twelve it costs no more, each, than of six.
// Each is looked at as the picture arrives at it, so that what is worked out grows with the pairs of one and what
// stands before it, and no faster.
TEST(Measuring, WhetherItIsStaleCostsAsThePairsDo) {
    const auto photo = noisyPhoto(4, 4);
    const auto callsOf = [&](int count, bool together) {
        std::string uses, corrections;
        for (int i = 0; i < count; ++i) {
            uses += (i ? "," : "") + removing;
            corrections += (i ? ",{" : "{") + everywhere + R"("adjustments": [)" + removing + "]}";
        }
        const std::string one = "[{" + everywhere + R"("adjustments": [)" + uses + "]}]";
        const render::Renderer renderer = rendererOf(photo);
        const document::DocumentPtr document =
            withAllMeasured(renderer, tests::documentOf(together ? one : "[" + corrections + "]"));
        const render::Renderer fresh = rendererOf(photo);
        const auto before = stage::effortHere().calls;
        EXPECT_TRUE(staleIn(fresh, document).empty());
        return static_cast<double>(stage::effortHere().calls - before);
    };
    for (const bool together : {true, false}) {
        const double three = callsOf(3, together), six = callsOf(6, together);
        EXPECT_GT(six, three);
        EXPECT_LT(six, 4.5 * three) << (together ? "together: " : "apart: ") << three << ", " << six;
    }
}

TEST(Measuring, LaterOnesSeeWhatTheEarlierDid) {
    const auto photo = noisyPhoto(10, 10);
    const std::string one = "{" + everywhere + R"("adjustments": [)" + removing + "]}";
    const document::DocumentPtr two =
        withAllMeasured(rendererOf(photo), tests::documentOf("[" + one + ", " + one + "]"));
    EXPECT_FALSE(firstUnmeasured(*two));
    EXPECT_LT(middleSigma(two->corrections[1]->adjustments[0].settings), 0.4 * middleSigma(settingsOf(*two)));
}

// Also where they stand in the same correction, however little of it is laid over the photo.
TEST(Measuring, AnAdjustmentSeesWhatStandsBeforeIt) {
    const auto photo = noisyPhoto(8, 8);
    const document::DocumentPtr document = withAllMeasured(
        rendererOf(photo), tests::documentOf(R"([{"strength": 10, )" + everywhere + R"("adjustments": [)" + removing +
                                             R"(, {"kind": "detail", "sharpen": 50}]}])"));
    const auto& uses = document->corrections[0]->adjustments;
    EXPECT_GT(middleSigma(uses[0].settings), 4);
    EXPECT_LT(uses[1].settings.tables[0][0], 1);
}

TEST(Measuring, StopsWhereItIsTold) {
    const auto photo = noisyPhoto(5, 5);
    base::CancelSource stop;
    stop.cancel();
    const document::DocumentPtr document = documentWith(everywhere);
    EXPECT_THROW((void)withAllMeasured(rendererOf(photo), document, stop.token()), base::Cancelled);
    EXPECT_TRUE(firstUnmeasured(*document));
}

TEST(Measuring, ADocumentByHandIsMeasuredAsItIsOpened) {
    const tests::TempFolder folder;
    const auto photo = noisyPhoto(7, 7);
    io::Picture picture;
    picture.size = size;
    picture.rows = [&](int y0, int y1, std::byte* to) -> base::Result<void> {
        for (int y = y0; y < y1; ++y)
            to = std::copy_n(photo->photo().samples.row(y), 3 * static_cast<std::size_t>(size.width), to);
        return {};
    };
    auto file = io::PendingFile::create(folder / "photo.png", {});
    ASSERT_TRUE(io::png.write(*file, picture));
    ASSERT_TRUE(file->commit());
    std::ofstream(folder / "by-hand.dimhem")
        << R"({"format": "dim-hem-document", "version": 1, "photo": {"path": "photo.png"}, "corrections": [{)"
        << everywhere << R"("adjustments": [)" << removing << "]}]}";
    const auto opened = open(folder / "by-hand.dimhem");
    ASSERT_TRUE(opened) << opened.error().message;
    EXPECT_FALSE(firstUnmeasured(*opened->document));
    EXPECT_FALSE(opened->differsFromFile);
    EXPECT_NEAR(middleSigma(settingsOf(*opened->document)), 7 / std::sqrt(3.0), 0.4);
}

// What looks round each pixel comes out the same in tiles of any size, from a cache of any size, and views of other
// levels look like it.
TEST(Surroundings, ComeOutTheSameHoweverThePhotoIsCut) {
    const auto photo = noisyPhoto(3, 3);
    for (
        const std::string adjustment :
        {R"({"kind": "haze", "amount": 80})", R"({"kind": "haze", "amount": -60, "near": [[20, 300]]})",
         R"({"kind": "detail", "local-contrast": 90, "scale": 100})",
         R"({"kind": "detail", "local-contrast": -70, "scale": 12})",
         R"({"kind": "detail", "sharpen": 120, "sharpen-radius": 2.4, "soften-tone": 60, "split": 20})",
         R"({"kind": "detail", "soften": 80, "soften-radius": 90, "soften-texture": 40})",
         R"({"kind": "noise", "luminance": 100, "colour": 60}, {"kind": "haze", "amount": 50}, {"kind": "detail", "local-contrast": 50})"}) {
        const document::DocumentPtr document = withAllMeasured(
            rendererOf(photo), tests::documentOf("[{" + everywhere + R"("adjustments": [)" + adjustment + "]}]"));
        const image::EncodedPlanes once = tests::assembled(rendererOf(photo), document, 0, 128, base::Workers{1});
        EXPECT_TRUE(tests::sameBits(once, tests::assembled(rendererOf(photo), document, 0, 90, {}))) << adjustment;
        EXPECT_TRUE(tests::sameBits(once, tests::assembled(rendererOf(photo, 1 << 20), document, 0, 512, {})))
            << adjustment;
        const image::EncodedPlanes half = tests::assembled(rendererOf(photo), document, 1, 128, {});
        EXPECT_TRUE(tests::sameBits(half, tests::assembled(rendererOf(photo), document, 1, 70, {}))) << adjustment;
        EXPECT_LT(differenceAtHalf(once, half), 0.6) << adjustment;
    }
}

// Noise taken out of the right half and as much grain laid on again: as strong as it is beside.
TEST(Surroundings, GrainOfThePhotoIsLaidOnAgain) {
    const auto photo = noisyPhoto(5, 5);
    document::DocumentPtr document =
        tests::documentOf("[{" + rightHalf + R"("adjustments": [)" + removing + R"(]}, {)" + rightHalf +
                          R"("adjustments": [{"kind": "grain", "amount": 100}]}])");
    // From a place beside the mask.
    const document::Correction laid = *document->corrections[1];
    document = withAllMeasured(rendererOf(photo), document);
    const auto found =
        measured(rendererOf(photo), document, laid.id, laid.adjustments[0].id, base::Rect{0, 0, 256, 380});
    ASSERT_TRUE(found);
    document = document::withAdjustment(*document, laid.id, laid.adjustments[0].id,
                                        [&](document::AdjustmentUse& use) { use.settings = found->settings; });
    const image::EncodedPlanes once = tests::assembled(rendererOf(photo), document, 0, 128, base::Workers{1});
    EXPECT_TRUE(tests::sameBits(once, tests::assembled(rendererOf(photo), document, 0, 90, {})));
    EXPECT_TRUE(tests::sameBits(once, tests::assembled(rendererOf(photo, 1 << 20), document, 0, 512, {})));
    const auto roughness = [&](std::size_t from, std::size_t to) {
        double sum = 0, count = 0;
        for (int y = 310; y < 380; ++y) {
            for (std::size_t x = from; x < to; ++x) {
                const auto row = once.green.row(y);
                const double second = 255 * double{row[x - 1] - 2 * row[x] + row[x + 1]};
                sum += second * second;
                ++count;
            }
        }
        return std::sqrt(sum / count);
    };
    EXPECT_NEAR(roughness(320, 500), roughness(20, 200), 0.15 * roughness(20, 200));
}

class NoiseOfAPhoto : public testing::Test {
protected:
    void SetUp() override {
        photo = noisyPhoto(9, 9);
        document = withAllMeasured(rendererOf(photo), documentWith(everywhere));
    }
    image::EncodedPlanes whole(const document::DocumentPtr& of, int level = 0) const {
        return tests::assembled(rendererOf(photo), of, level, 128, {});
    }
    std::shared_ptr<const render::PhotoSource> photo;
    document::DocumentPtr document;
};

TEST_F(NoiseOfAPhoto, Goes) {
    const double before = psnr(whole(tests::documentOf("[]"))), after = psnr(whole(document));
    EXPECT_NEAR(before, 20 * std::log10(255 / 9.0), 0.3);
    EXPECT_GT(after, before + 11);
}

TEST_F(NoiseOfAPhoto, ComesOutTheSameHoweverItIsCut) {
    const image::EncodedPlanes once = whole(document);
    for (const int tilePx : {64, 300, 1024}) {
        EXPECT_TRUE(tests::sameBits(once, tests::assembled(rendererOf(photo), document, 0, tilePx, {}))) << tilePx;
    }
    EXPECT_TRUE(
        tests::sameBits(once, tests::assembled(rendererOf(photo, 1 << 20), document, 0, 128, base::Workers{1})));
    const image::EncodedPlanes half = whole(document, 1);
    EXPECT_TRUE(tests::sameBits(half, tests::assembled(rendererOf(photo), document, 1, 200, {})));
}

// What a view shows is what the export scaled down shows.
TEST_F(NoiseOfAPhoto, IsSeenAtEveryScaleAsItWillBe) {
    EXPECT_LT(differenceAtHalf(whole(document), whole(document, 1)), 0.28);
}

TEST_F(NoiseOfAPhoto, OutsideTheMaskEveryBitStays) {
    const document::DocumentPtr masked = withAllMeasured(rendererOf(photo), documentWith(rightHalf));
    const image::EncodedPlanes before = whole(tests::documentOf("[]")), after = whole(masked);
    for (int y = 0; y < size.height; ++y) {
        for (std::size_t x = 0; x < 260; ++x) ASSERT_EQ(before.red.row(y)[x], after.red.row(y)[x]);
    }
}

}  // namespace
}  // namespace dimhem::task
