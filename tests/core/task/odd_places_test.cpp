// Names that are not UTF-8, very long ones, pipes and devices, and pictures that lie elsewhere.
#include <gtest/gtest.h>
#include <sys/stat.h>

#include "core/document/edits.h"
#include "core/io/png.h"
#include "core/task/backdrop_file.h"
#include "core/task/chosen_files.h"
#include "core/task/journal.h"
#include "core/task/matte_file.h"
#include "core/task/save.h"
#include "core/task/state_folder.h"
#include "tests/support/hurtful.h"
#include "tests/support/pictures.h"

namespace dimhem::task {

using tests::TempFolder;

namespace {

std::filesystem::path pictureAt(const std::filesystem::path& path, int channels = 3) {
    const image::Photo photo = tests::madePhoto({20, 12}, channels);
    io::Picture picture;
    picture.size = photo.size();
    picture.channels = channels;
    picture.rows = [&](int y0, int y1, std::byte* rows) -> base::Result<void> {
        std::memcpy(rows, photo.samples.row(y0), photo.samples.rowBytes() * static_cast<std::size_t>(y1 - y0));
        return {};
    };
    return tests::written(path, io::pngBytes(picture));
}

// Keeps what tests choose out of the person's own list.
class StateInFolder {
public:
    explicit StateInFolder(const TempFolder& folder) { ::setenv("XDG_STATE_HOME", (folder / "state").c_str(), 1); }
    ~StateInFolder() { ::unsetenv("XDG_STATE_HOME"); }
};

}  // namespace

TEST(OddPlaces, NamesOfAnyBytesAreSavedAndFoundAgain) {
    const TempFolder folder;
    std::filesystem::create_directory(folder /
                                      "stra\xdf"
                                      "e");
    for (const std::string name : {"caf\xe9.png",
                                   "stra\xdf"
                                   "e/photo.png"}) {
        const auto photo = pictureAt(folder / name);
        const auto opened = open(photo);
        ASSERT_TRUE(opened) << opened.error().message;
        const auto saved = save(*opened, opened->document, folder / "work.dimhem", {});
        ASSERT_TRUE(saved) << saved.error().message;
        const auto again = open(folder / "work.dimhem");
        ASSERT_TRUE(again) << again.error().message;
        EXPECT_EQ(again->photoPath, photo);
        const auto journal = Journal::create(folder / "journals", {{}, photo}, *opened->document, "a step");
        ASSERT_TRUE(journal) << journal.error().message;
    }
}

TEST(OddPlaces, NamesOf250BytesAreHandled) {
    const TempFolder folder;
    const auto photo = pictureAt(folder / (std::string(246, 'n') + ".png"));
    const auto opened = open(photo);
    ASSERT_TRUE(opened) << opened.error().message;
    const auto place = folder / (std::string(243, 'd') + ".dimhem");
    const auto saved = save(*opened, opened->document, place, {});
    ASSERT_TRUE(saved) << saved.error().message;
    EXPECT_TRUE(open(place));
}

TEST(OddPlaces, PipesAndDevicesAreOneSentence) {
    const TempFolder folder;
    ASSERT_EQ(::mkfifo((folder / "pipe").c_str(), 0600), 0);
    for (const std::filesystem::path& place : {folder / "pipe", std::filesystem::path("/dev/zero")}) {
        const auto photo = open(place);
        ASSERT_FALSE(photo);
        EXPECT_TRUE(photo.error().message.ends_with(".")) << photo.error().message;
        EXPECT_FALSE(readMatte(place));
        EXPECT_FALSE(readBackdrop(place));
    }
}

TEST(OddPlaces, ADocumentReachesOnlyForWhatLiesBesideItOrWasChosen) {
    const TempFolder folder;
    const StateInFolder state(folder);
    std::filesystem::create_directories(folder / "work/below");
    pictureAt(folder / "work/photo.png", 4);
    const auto elsewhere = pictureAt(folder / "secret.png");
    pictureAt(folder / "work/below/behind.png");
    std::filesystem::create_symlink(elsewhere, folder / "work/link.png");
    const auto openedWith = [&](const std::string& name) {
        const auto path =
            tests::written(folder / "work/hand.json",
                           tests::documentText(R"([{"mask": {"parts": [{"kind": "matte", "source": "file", "file": ")" +
                                                   name + R"("}]}}])",
                                               R"("backdrop": {"picture": ")" + name + R"("},)"));
        auto opened = open(path);
        EXPECT_TRUE(opened) << opened.error().message;
        const auto& part = opened->document->corrections[0]->mask.parts[0];
        const bool matte = std::dynamic_pointer_cast<const mask::Matte>(part->shape)->pixels() != nullptr;
        const bool behind = std::get<document::BackdropPicture>(opened->document->backdrop).photo != nullptr;
        EXPECT_EQ(matte, behind);
        EXPECT_EQ(opened->warning.empty(), matte);
        return matte;
    };
    EXPECT_TRUE(openedWith("below/behind.png"));
    EXPECT_FALSE(openedWith("../secret.png"));
    EXPECT_FALSE(openedWith(elsewhere.string()));
    EXPECT_FALSE(openedWith("link.png")) << "a link does not lead out";
    rememberChosen(elsewhere, stateFolder());
    EXPECT_TRUE(openedWith("../secret.png"));
    EXPECT_TRUE(openedWith(elsewhere.string()));
}

}  // namespace dimhem::task
