#include "core/task/export.h"

#include <gtest/gtest.h>

#include "core/adjust/registry.h"
#include "core/document/edits.h"
#include "core/io/png.h"
#include "core/io/registry.h"
#include "core/task/backdrop_file.h"
#include "core/task/open.h"
#include "core/task/probe.h"
#include "core/task/save.h"
#include "tests/support/documents.h"
#include "tests/support/opened.h"
#include "tests/support/pictures.h"
#include "tests/support/profiles.h"
#include "tests/support/temp_folder.h"

namespace dimhem::task {

namespace {

using image::SampleType;
using tests::TempFolder;

std::shared_ptr<const render::PhotoSource> sourceOf(image::Photo photo) {
    return *render::PhotoSource::make(std::make_shared<const image::Photo>(std::move(photo)));
}

image::Photo exported(const document::DocumentPtr& document, const std::shared_ptr<const render::PhotoSource>& photo,
                      const std::filesystem::path& path, const ExportSettings& settings = {}) {
    const auto done = exportPicture(tests::openedOf(photo), document, path, settings);
    EXPECT_TRUE(done) << (done ? "" : done.error().message);
    auto back = io::readPhoto(path);
    EXPECT_TRUE(back) << (back ? "" : back.error().message);
    return std::move(*back);
}

}  // namespace

TEST(Export, AnUntouchedPhotoComesBackBitForBit) {
    const TempFolder folder;
    const auto empty = tests::documentOf("[]");
    for (const char* ending : {"png", "tif"}) {
        for (const SampleType type : {SampleType::u8, SampleType::u16, SampleType::f32}) {
            if (type == SampleType::f32 && std::string(ending) == "png") continue;
            for (const int channels : {1, 2, 3, 4}) {
                for (const bool profiled : {false, true}) {
                    image::Photo photo = tests::madePhoto({150, 140}, channels, type);
                    if (profiled && channels >= 3) photo.profile = tests::wideProfile();
                    const image::Photo again = tests::madePhoto({150, 140}, channels, type);
                    const image::Photo back =
                        exported(empty, sourceOf(std::move(photo)), folder / (std::string("out.") + ending));
                    EXPECT_TRUE(tests::sameSamples(back.samples, again.samples))
                        << ending << " " << channels << " type " << static_cast<int>(type) << " profile " << profiled;
                }
            }
        }
    }
}

TEST(Export, NeutralAdjustmentsOfEveryKindLeaveEveryBit) {
    const TempFolder folder;
    document::DocumentPtr document = tests::documentOf(R"([{"mask": {"starts": "everywhere"}}])");
    const document::Id correction = document->corrections[0]->id;
    for (const adjust::AdjustmentKind* kind : adjust::adjustmentKinds())
        document = document::withCorrection(*document, correction, [&](document::Correction& c) {
            c.adjustments.push_back({document->ids->next(), kind, true, adjust::neutralSettings(*kind)});
        });
    EXPECT_FALSE(document::isActive(*document->corrections[0]));
    for (const SampleType type : {SampleType::u8, SampleType::u16}) {
        const image::Photo back =
            exported(document, sourceOf(tests::madePhoto({150, 140}, 3, type)), folder / "out.png");
        EXPECT_TRUE(tests::sameSamples(back.samples, tests::madePhoto({150, 140}, 3, type).samples));
    }
}

TEST(Export, OutsideTheMaskEverySampleStaysAsItWas) {
    const TempFolder folder;
    const auto document = tests::documentOf(
        R"([{"mask": {"parts": [{"kind": "brush", "strokes": [{"size": 60, "points": [[60, 60], [100, 70]]}]}]},
        "adjustments": [{"kind": "light", "exposure": 1}, {"kind": "white-balance", "temperature": 8000}]}])");
    for (const SampleType type : {SampleType::u8, SampleType::u16}) {
        image::Photo photo = tests::madePhoto({300, 200}, 3, type);
        photo.profile = tests::wideProfile();  // the way through it is not exact: pixels are told apart by their mask
        const image::Samples before = tests::madePhoto({300, 200}, 3, type).samples;
        const image::Photo after = exported(document, sourceOf(std::move(photo)), folder / "out.png");
        int changed = 0;
        for (int y = 0; y < 200; ++y) {
            for (int x = 0; x < 300; ++x) {
                const std::size_t at = before.pixelBytes() * static_cast<std::size_t>(x);
                const bool same = std::memcmp(before.row(y) + at, after.samples.row(y) + at, before.pixelBytes()) == 0;
                const bool inReach = x >= 29 && x <= 131 && y >= 29 && y <= 101;
                if (!inReach) {
                    ASSERT_TRUE(same) << x << " " << y;
                }
                changed += !same;
            }
        }
        EXPECT_GT(changed, 3000);
    }
}

TEST(Export, KeepsTheProfileAndTurnsCorrectedGreyIntoColour) {
    const TempFolder folder;
    image::Photo wide = tests::madePhoto({80, 60});
    wide.profile = tests::wideProfile();
    EXPECT_EQ(exported(tests::threeCorrections(), sourceOf(std::move(wide)), folder / "wide.jpg").profile,
              tests::wideProfile());
    const auto document = tests::documentOf(
        R"([{"mask": {"starts": "everywhere"}, "adjustments": [{"kind": "white-balance", "temperature": 9000}]}])");
    EXPECT_EQ(exported(document, sourceOf(tests::madePhoto({80, 60}, 1)), folder / "grey.png").samples.channels(), 3);
}

TEST(Export, DepthCanBeChosen) {
    const TempFolder folder;
    const auto photo = sourceOf(tests::madePhoto({80, 60}));
    ExportSettings settings;
    settings.type = SampleType::u16;
    EXPECT_EQ(exported(tests::threeCorrections(), photo, folder / "deep.png", settings).samples.type(),
              SampleType::u16);
    settings.type = SampleType::f32;  // PNG has none: the deepest it has
    EXPECT_EQ(exported(tests::threeCorrections(), photo, folder / "deepest.png", settings).samples.type(),
              SampleType::u16);
}

TEST(Export, OneWorkerAndManyWriteTheSameFile) {
    const TempFolder folder;
    const auto photo = sourceOf(tests::madePhoto({403, 301}, 3, SampleType::u16));
    ExportSettings one;
    one.workers.count = 1;
    const image::Photo a = exported(tests::threeCorrections(), photo, folder / "a.png", one),
                       b = exported(tests::threeCorrections(), photo, folder / "b.png");
    EXPECT_TRUE(tests::sameSamples(a.samples, b.samples));
}

TEST(Export, CancelledOrImpossibleLeavesNoFile) {
    const TempFolder folder;
    const auto photo = sourceOf(tests::madePhoto({300, 600}));
    base::CancelSource cancel;
    const auto stopped = exportPicture(tests::openedOf(photo), tests::threeCorrections(), folder / "out.png", {},
                                       cancel.token(), [&](double part) {
                                           if (part > 0.3) cancel.cancel();
                                       });
    ASSERT_FALSE(stopped);
    EXPECT_EQ(stopped.error().code, base::ErrorCode::cancelled);
    EXPECT_EQ(exportPicture(tests::openedOf(photo), tests::threeCorrections(), folder / "out.xyz", {}).error().code,
              base::ErrorCode::unknownFormat);
    EXPECT_EQ(exportPicture(tests::openedOf(photo), tests::threeCorrections(), folder / "out.webp", {}).error().code,
              base::ErrorCode::unknownFormat);
    EXPECT_TRUE(std::filesystem::is_empty(folder.path()));
}

TEST(Export, AMaskIsA16BitGreyPicture) {
    const TempFolder folder;
    const auto document = tests::threeCorrections();
    const auto photo = sourceOf(tests::madePhoto({403, 301}));
    ASSERT_TRUE(exportMask(tests::openedOf(photo), document, document->corrections[0]->id, folder / "mask.png"));
    const auto picture = io::readPhoto(folder / "mask.png");
    ASSERT_TRUE(picture);
    EXPECT_EQ(picture->samples.channels(), 1);
    EXPECT_EQ(picture->samples.type(), SampleType::u16);
    float value = 0;
    picture->samples.readRow(2, 250, 251, &value);
    EXPECT_GT(value, 0.99f);
    picture->samples.readRow(299, 250, 251, &value);
    EXPECT_EQ(value, 0.0f);
    EXPECT_FALSE(exportMask(tests::openedOf(photo), document, document->corrections[0]->id, folder / "mask.jpg"));
}

TEST(SaveAndOpen, GiveAnEqualRender) {
    const TempFolder folder;
    const auto made = sourceOf(tests::madePhoto({403, 301}));
    exported(tests::documentOf("[]"), made, folder / "photo.png");
    const auto opened = open(folder / "photo.png");
    ASSERT_TRUE(opened) << opened.error().message;
    document::Document edited = *opened->document;
    edited.corrections = tests::threeCorrections()->corrections;
    const auto version = std::make_shared<const document::Document>(edited);
    std::filesystem::create_directory(folder / "elsewhere");
    for (const bool pack : {false, true}) {
        const auto path = folder / "elsewhere" / "work.dimhem";
        ASSERT_TRUE(save(*opened, version, path, SaveSettings{.pack = pack}));
        const auto again = open(path);
        ASSERT_TRUE(again) << again.error().message;
        EXPECT_TRUE(again->warning.empty()) << again->warning;
        EXPECT_EQ(again->photoPath.empty(), pack);
        const image::Photo a = exported(version, opened->photo, folder / "a.png"),
                           b = exported(again->document, again->photo, folder / "b.png");
        EXPECT_TRUE(tests::sameSamples(a.samples, b.samples));
    }
}

TEST(SaveAndOpen, AMissingPhotoIsSaidAndCanBeReplaced) {
    const TempFolder folder;
    exported(tests::documentOf("[]"), sourceOf(tests::madePhoto({40, 30})), folder / "photo.png");
    const auto opened = open(folder / "photo.png");
    ASSERT_TRUE(opened);
    ASSERT_TRUE(save(*opened, opened->document, folder / "work.dimhem"));
    std::filesystem::rename(folder / "photo.png", folder / "moved.png");
    const auto missing = open(folder / "work.dimhem");
    ASSERT_FALSE(missing);
    EXPECT_EQ(missing.error().code, base::ErrorCode::notFound);
    const auto found = open(folder / "work.dimhem", folder / "moved.png");
    ASSERT_TRUE(found) << found.error().message;
    EXPECT_TRUE(found->warning.empty());
    exported(tests::documentOf("[]"), sourceOf(tests::madePhoto({44, 30})), folder / "other.png");
    const auto other = open(folder / "work.dimhem", folder / "other.png");
    ASSERT_TRUE(other);
    EXPECT_FALSE(other->warning.empty());
}

TEST(Probe, ColourAtAPlaceIsTheMeanAroundIt) {
    image::Photo photo = tests::madePhoto({20, 20});
    for (int y = 0; y < 20; ++y) std::memset(photo.samples.row(y), y < 10 ? 0 : 255, photo.samples.rowBytes());
    const auto source = sourceOf(std::move(photo));
    const render::Renderer renderer(source, std::make_shared<render::TileCache>());
    const render::Sequence sequence(tests::documentOf("[]"), {});
    EXPECT_NEAR(colourAt(renderer, sequence, {5, 5}, 2)->r, 0, 1e-9);
    EXPECT_NEAR(colourAt(renderer, sequence, {5, 10}, 2)->r, 3.0 / 5, 1e-6);
    EXPECT_FALSE(colourAt(renderer, sequence, {-50, 5}, 2));
}

TEST(Probe, TheThreadContrastsWithWhatLiesUnderTheMask) {
    image::Photo photo = tests::madePhoto({64, 64});
    for (int y = 0; y < 64; ++y) {
        for (int x = 0; x < 64; ++x) {
            auto* p = photo.samples.row(y) + 3 * x;
            p[0] = std::byte{86}, p[1] = std::byte{180},
            p[2] = std::byte{233};  // just the sky blue of the first thread
        }
    }
    const auto source = sourceOf(std::move(photo));
    const render::Renderer renderer(source, std::make_shared<render::TileCache>());
    const auto document = tests::documentOf(R"([{"mask": {"starts": "everywhere"}}])");
    EXPECT_EQ(document->corrections[0]->threadColour, 0);
    EXPECT_NE(suitableThreadColour(renderer, document, document->corrections[0]->id), 0);
    const auto chosen = tests::documentOf(R"([{"thread": "sky-blue", "mask": {"starts": "everywhere"}}])");
    EXPECT_EQ(suitableThreadColour(renderer, chosen, chosen->corrections[0]->id), 0);  // by hand: left alone
}

TEST(Export, ACutOutGoesOverItsBackdropOrStaysTransparent) {
    const TempFolder folder;
    const auto photo = sourceOf(tests::madePhoto({120, 80}, 4));
    const auto plain = document::withBackdrop(*tests::documentOf("[]"), colour::EncodedRgb{1, 0, 0.5});
    ExportSettings over;
    over.overBackdrop = true;
    const image::Photo with = exported(plain, photo, folder / "with.png", over),
                       without = exported(plain, photo, folder / "without.png");
    EXPECT_EQ(with.samples.channels(), 3);
    EXPECT_EQ(without.samples.channels(), 4);
    EXPECT_TRUE(tests::sameSamples(without.samples, photo->photo().samples)) << "bit for bit";
    float pixel[4], laid[3];
    for (const int x : {0, 30, 119}) {  // alpha rises from left to right
        photo->photo().samples.readRow(40, x, x + 1, pixel);
        with.samples.readRow(40, x, x + 1, laid);
        EXPECT_NEAR(laid[0], 1 + (pixel[0] - 1) * pixel[3], 0.003) << x;
        EXPECT_NEAR(laid[1], pixel[1] * pixel[3], 0.003) << x;
        EXPECT_NEAR(laid[2], 0.5 + (pixel[2] - 0.5) * pixel[3], 0.003) << x;
    }
    EXPECT_EQ(exported(tests::documentOf("[]"), photo, folder / "none.png", over).samples.channels(), 4)
        << "no backdrop to lay it over";
}

TEST(Backdrop, APictureIsFoundAgainBesideTheDocument) {
    const TempFolder folder;
    const auto write = [&](const char* name, image::Photo photo) {
        (void)exported(tests::documentOf("[]"), sourceOf(std::move(photo)), folder / name);
    };
    write("cut.png", tests::madePhoto({90, 60}, 4));
    write("behind.png", tests::madePhoto({50, 70}, 3));
    auto opened = open(folder / "cut.png");
    const auto picture = readBackdrop(folder / "behind.png");
    ASSERT_TRUE(opened && picture);
    const auto document = document::withBackdrop(*opened->document, *picture);
    ASSERT_TRUE(save(*opened, document, folder / "a.dimhem"));
    const auto again = open(folder / "a.dimhem");
    ASSERT_TRUE(again);
    EXPECT_TRUE(again->warning.empty()) << again->warning;
    const auto& found = std::get<document::BackdropPicture>(again->document->backdrop);
    EXPECT_TRUE(found.photo);
    EXPECT_EQ(found.key, picture->key);
    std::filesystem::remove(folder / "behind.png");
    const auto missing = open(folder / "a.dimhem");
    ASSERT_TRUE(missing) << "it opens all the same";
    EXPECT_TRUE(missing->warning.ends_with(".")) << missing->warning;
    EXPECT_FALSE(std::get<document::BackdropPicture>(missing->document->backdrop).photo);
    ExportSettings over;
    over.overBackdrop = true;
    const auto refused = exportPicture(*missing, missing->document, folder / "over.png", over);
    ASSERT_FALSE(refused) << "not the bare colours under the transparency";
    EXPECT_EQ(refused.error().code, base::ErrorCode::notFound);
    EXPECT_FALSE(std::filesystem::exists(folder / "over.png"));
    EXPECT_FALSE(readBackdrop(folder / "missing.png"));
}

}  // namespace dimhem::task
