#include "core/task/matte_file.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>

#include "core/document/edits.h"
#include "core/document/json_format.h"
#include "core/task/export.h"
#include "core/task/open.h"
#include "core/task/save.h"
#include "tests/support/documents.h"
#include "tests/support/opened.h"
#include "tests/support/pictures.h"
#include "tests/support/temp_folder.h"

namespace dimhem::task {

namespace {

using tests::TempFolder;

void writePhoto(const std::filesystem::path& path, int channels, image::SampleType type = image::SampleType::u8) {
    auto photo = std::make_shared<const image::Photo>(tests::madePhoto({60, 40}, channels, type));
    const auto source = *render::PhotoSource::make(photo);
    ASSERT_TRUE(exportPicture(tests::openedOf(source), tests::documentOf("[]"), path, {}));
}

}  // namespace

TEST(MatteFile, GreyPicturesOfBothDepthsKeepTheirValues) {
    const TempFolder folder;
    for (const auto type : {image::SampleType::u8, image::SampleType::u16}) {
        writePhoto(folder / "grey.png", 1, type);
        const auto matte = readMatte(folder / "grey.png");
        ASSERT_TRUE(matte) << matte.error().message;
        float expected = 0;
        tests::madePhoto({60, 40}, 1, type).samples.readRow(11, 23, 24, &expected);
        EXPECT_EQ((*matte)->pixels()->row(11)[23], std::lround(expected * 65535));
    }
}

TEST(MatteFile, WhatIsNoPictureIsOneSentence) {
    const TempFolder folder;
    EXPECT_EQ(readMatte(tests::written(folder / "a.png", std::string("text"))).error().code,
              base::ErrorCode::unknownFormat);
    EXPECT_EQ(readMatte(folder / "none.png").error().code, base::ErrorCode::notFound);
}

TEST(MatteFile, TravelsInsideTheDocumentAndIsReadBesideOneWrittenByHand) {
    const TempFolder folder;
    writePhoto(folder / "photo.png", 3);
    writePhoto(folder / "grey.png", 1, image::SampleType::u16);
    tests::written(folder / "hand.json",
                   std::string(R"({"format": "dim-hem-document", "version": 1, "photo": {"path": "photo.png"},
        "corrections": [{"mask": {"parts": [{"kind": "matte", "source": "file", "file": "grey.png"}]}}]})"));
    const auto byHand = open(folder / "hand.json");
    ASSERT_TRUE(byHand) << byHand.error().message;
    EXPECT_TRUE(byHand->warning.empty()) << byHand->warning;
    ASSERT_TRUE(save(*byHand, byHand->document, folder / "saved.dimhem"));
    std::filesystem::remove(folder / "grey.png");
    const auto saved = open(folder / "saved.dimhem");
    ASSERT_TRUE(saved) << saved.error().message;
    EXPECT_TRUE(saved->warning.empty()) << saved->warning;
    const auto pixels = [](const Opened& opened) {
        return std::dynamic_pointer_cast<const mask::Matte>(opened.document->corrections[0]->mask.parts[0]->shape)
            ->pixels();
    };
    for (int y = 0; y < 40; ++y) {
        EXPECT_TRUE(
            std::equal(pixels(*byHand)->row(y).begin(), pixels(*byHand)->row(y).end(), pixels(*saved)->row(y).begin()))
            << y;
    }
    const auto lost = open(folder / "hand.json");
    ASSERT_TRUE(lost);
    EXPECT_NE(lost->warning.find("grey.png"), std::string::npos) << "said, and opened all the same";
}

TEST(MatteFile, OfAKeptStateTravelsToo) {
    const TempFolder folder;
    writePhoto(folder / "photo.png", 3);
    writePhoto(folder / "grey.png", 1, image::SampleType::u16);
    tests::written(folder / "hand.json",
                   std::string(R"({"format": "dim-hem-document", "version": 1, "photo": {"path": "photo.png"},
        "corrections": [{"id": 1, "mask": {"parts": [{"kind": "matte", "source": "file", "file": "grey.png"}]}}]})"));
    const auto byHand = open(folder / "hand.json");
    ASSERT_TRUE(byHand);
    const auto kept = document::withoutCorrection(*document::withStateKept(*byHand->document, "With it"), 1);
    EXPECT_FALSE(save(*byHand, kept, folder / "grey.png")) << "a picture that only a state uses is not written over";
    ASSERT_TRUE(save(*byHand, kept, folder / "saved.dimhem"));
    std::filesystem::remove(folder / "grey.png");
    const auto saved = open(folder / "saved.dimhem");
    ASSERT_TRUE(saved) << saved.error().message;
    EXPECT_TRUE(saved->warning.empty()) << saved->warning;
    ASSERT_EQ(saved->document->states.size(), 1u);
    const auto matte =
        std::dynamic_pointer_cast<const mask::Matte>(saved->document->states[0].corrections[0]->mask.parts[0]->shape);
    ASSERT_TRUE(matte && matte->pixels());
}

}  // namespace dimhem::task
