// The photo, its backdrop and its mattes are never written, whatever is asked for; and what saving asks about.
#include <gtest/gtest.h>
#include <sys/stat.h>

#include <fstream>
#include <nlohmann/json.hpp>

#include "core/document/edits.h"
#include "core/document/json_format.h"
#include "core/io/document_file.h"
#include "core/io/registry.h"
#include "core/mask/matte.h"
#include "core/task/backdrop_file.h"
#include "core/task/export.h"
#include "core/task/matte_file.h"
#include "core/task/save.h"
#include "tests/support/documents.h"
#include "tests/support/memory.h"
#include "tests/support/opened.h"
#include "tests/support/pictures.h"
#include "tests/support/temp_folder.h"

namespace dimhem::task {

namespace {

namespace fs = std::filesystem;
using base::ErrorCode;
using tests::TempFolder;

void writePhoto(const fs::path& path, int channels = 3) {
    const auto source =
        *render::PhotoSource::make(std::make_shared<const image::Photo>(tests::madePhoto({60, 40}, channels)));
    ASSERT_TRUE(exportPicture(tests::openedOf(source), tests::documentOf("[]"), path, {}));
}

// A photo with transparency, a backdrop and a matte, and a document of them, in a folder of their own.
class NeverWritten : public testing::Test {
protected:
    void SetUp() override {
        for (const char* name : {"photo.png", "behind.png", "matte.png"}) writePhoto(folder / name, 4);
        auto photo = open(folder / "photo.png");
        ASSERT_TRUE(photo);
        opened = *photo;
        version = document::withNewCorrection(*opened.document, 0).document;
        version = document::withBackdrop(*version, *readBackdrop(folder / "behind.png"));
        const document::Id correction = version->corrections[0]->id;
        version =
            document::withNewPart(*version, correction, *readMatte(folder / "matte.png"), mask::Combine::add).document;
        ASSERT_TRUE(save(opened, version, folder / "work.dimhem"));
        opened.documentPath = folder / "work.dimhem";
        opened.documentStamp = io::stampOf(opened.documentPath);
    }

    std::vector<std::uint8_t> bytes(const std::string& name) { return *io::readFile(folder / name); }
    base::Result<Saved> saveTo(const std::string& name, const SaveSettings& settings = {}) {
        return save(opened, version, folder / name, settings);
    }

    TempFolder folder;
    Opened opened;
    document::DocumentPtr version;
};

}  // namespace

TEST_F(NeverWritten, NoWriterTakesAnyOfTheKeptFiles) {
    fs::create_symlink("photo.png", folder / "link.png");
    for (const char* name : {"photo.png", "link.png", "behind.png", "matte.png"}) {
        const auto before = bytes(name);
        EXPECT_FALSE(exportPicture(opened, version, folder / name, {})) << name;
        EXPECT_FALSE(exportMask(opened, version, version->corrections[0]->id, folder / name)) << name;
        const auto saved = saveTo(name);
        ASSERT_FALSE(saved) << name;
        EXPECT_EQ(saved.error().code, ErrorCode::unwritable);
        EXPECT_EQ(bytes(name), before) << name;
    }
    fs::create_symlink("work.dimhem", folder / "out.png");
    EXPECT_FALSE(exportPicture(opened, version, folder / "out.png", {})) << "the document under another name";
    EXPECT_TRUE(open(folder / "work.dimhem"));
}

TEST_F(NeverWritten, ADocumentIsNotSavedOverAnyOtherPhoto) {
    writePhoto(folder / "elsewhere.png");
    const auto before = bytes("elsewhere.png");
    EXPECT_FALSE(saveTo("elsewhere.png"));
    EXPECT_EQ(bytes("elsewhere.png"), before);
}

TEST_F(NeverWritten, AFileThatAnotherProgramWroteIsAskedAbout) {
    tests::written(folder / "work.dimhem", document::toJsonText(*tests::documentOf("[]")));
    const auto asked = saveTo("work.dimhem");
    ASSERT_FALSE(asked);
    EXPECT_EQ(asked.error().code, ErrorCode::changedOnDisk);
    EXPECT_EQ(bytes("work.dimhem").front(), '{') << "still the other program's";
    EXPECT_TRUE(saveTo("work.dimhem", {.replaceChanged = true}));
    EXPECT_TRUE(open(folder / "work.dimhem"));
}

TEST_F(NeverWritten, AWriteProtectedDocumentIsAskedAbout) {
    ::chmod((folder / "work.dimhem").c_str(), 0444);
    const auto asked = saveTo("work.dimhem");
    ASSERT_FALSE(asked);
    EXPECT_EQ(asked.error().code, ErrorCode::readOnly);
    EXPECT_TRUE(saveTo("work.dimhem", {.replaceReadOnly = true}));
}

TEST_F(NeverWritten, APackedPhotoIsNotLostBySavingWithAnother) {
    ASSERT_TRUE(saveTo("packed.dimhem", {.pack = true}));
    writePhoto(folder / "other.png", 4);
    const auto other = open(folder / "packed.dimhem", folder / "other.png");
    ASSERT_TRUE(other) << other.error().message;
    EXPECT_TRUE(other->differsFromFile) << "another photo than the document says: not as saved";
    const auto asked = save(*other, other->document, folder / "packed.dimhem");
    ASSERT_FALSE(asked);
    EXPECT_EQ(asked.error().code, ErrorCode::losesCopy);
    EXPECT_EQ(*open(folder / "packed.dimhem")->packedPhoto, bytes("photo.png"));
    EXPECT_TRUE(save(*other, other->document, folder / "beside.dimhem")) << "elsewhere nothing is lost";
    ASSERT_TRUE(save(*other, other->document, folder / "packed.dimhem", {.pack = true, .replaceCopy = true}));
    EXPECT_EQ(*open(folder / "packed.dimhem")->packedPhoto, bytes("other.png"));
}

TEST_F(NeverWritten, ThePhotoAPackedDocumentWasMadeFromIsKeptToo) {
    ASSERT_TRUE(saveTo("packed.dimhem", {.pack = true}));
    const auto packed = open(folder / "packed.dimhem");
    ASSERT_TRUE(packed);
    ASSERT_TRUE(packed->photoPath.empty()) << "the copy inside is the photo in use";
    const auto before = bytes("photo.png");
    EXPECT_FALSE(exportPicture(*packed, packed->document, folder / "photo.png", {}));
    EXPECT_EQ(bytes("photo.png"), before);
}

// While something is written, the photo is moved onto the very name that is written to, and another file to its place.
TEST_F(NeverWritten, AFileThatIsMovedOntoTheOutputMeanwhileIsKept) {
    for (const char* name : {"photo.png", "behind.png", "matte.png"}) {
        const auto opens = open(folder / "work.dimhem");
        ASSERT_TRUE(opens);
        const auto before = bytes(name);
        const fs::path output = folder / "out.png";
        int calls = 0;
        const auto done = exportPicture(*opens, opens->document, output, {}, {}, [&](double) {
            if (calls++ > 0) return;
            fs::rename(folder / name, output);
            writePhoto(folder / name);
        });
        ASSERT_GT(calls, 0);
        if (std::string(name) == "matte.png") {
            // What a document carries along itself is no file of the person's any more.
            fs::remove(output);
            continue;
        }
        ASSERT_FALSE(done) << name;
        EXPECT_EQ(done.error().code, ErrorCode::unwritable);
        EXPECT_EQ(*io::readFile(output), before) << name;
        fs::rename(output, folder / name);
    }
}

TEST_F(NeverWritten, APackedPhotoIsTheOneTheDocumentWasMadeOn) {
    const auto made = bytes("photo.png");
    fs::rename(folder / "photo.png", folder / "moved.png");
    writePhoto(folder / "photo.png", 3);
    ASSERT_TRUE(saveTo("packed.dimhem", {.pack = true}));
    EXPECT_EQ(*open(folder / "packed.dimhem")->packedPhoto, made) << "not what lies at its path now";
    // Written over in its place, by whatever program, it is gone; then that is said and nothing is written.
    const auto before = bytes("packed.dimhem");
    std::ofstream(folder / "moved.png", std::ios::binary | std::ios::in | std::ios::out) << "other bytes";
    const auto saved = saveTo("again.dimhem", {.pack = true});
    ASSERT_FALSE(saved);
    EXPECT_TRUE(saved.error().message.ends_with("."));
    EXPECT_FALSE(fs::exists(folder / "again.dimhem"));
    EXPECT_EQ(bytes("packed.dimhem"), before);
}

// A film, or a disk's image: known by its first bytes, never read whole.
TEST_F(NeverWritten, AFileOfAnotherKindIsRefusedByItsFirstBytes) {
    tests::written(folder / "film.bin", std::string("\0\0\0\x18"
                                                    "ftypmp42",
                                                    12));
    fs::resize_file(folder / "film.bin", std::uintmax_t{3} << 30);  // sparse: it takes no room on the disk
    base::Result<Opened> refused;
    const double megabytes = tests::memoryTaken([&] { refused = open(folder / "film.bin"); });
    ASSERT_FALSE(refused);
    EXPECT_EQ(refused.error().code, ErrorCode::unknownFormat);
    EXPECT_LT(megabytes, 100);
}

// A document that reading would refuse never replaces one that can be opened.
TEST_F(NeverWritten, WhatWouldNotOpenAgainIsNotSaved) {
    const auto before = bytes("work.dimhem");
    version = document::withCorrection(*version, version->corrections[0]->id,
                                       [](document::Correction& c) { c.strengthPct = std::nan(""); });
    const auto saved = saveTo("work.dimhem");
    ASSERT_FALSE(saved);
    EXPECT_TRUE(saved.error().message.ends_with(".")) << saved.error().message;
    EXPECT_EQ(bytes("work.dimhem"), before);
    EXPECT_EQ(std::distance(fs::directory_iterator(folder.path()), {}), 4) << "nothing left behind";
}

}  // namespace dimhem::task
