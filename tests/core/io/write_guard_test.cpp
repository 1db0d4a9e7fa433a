// The guard that every writer goes through, and temporary files.
#include "core/io/write_guard.h"

#include <fcntl.h>
#include <gtest/gtest.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

#include "core/io/file_bytes.h"
#include "core/io/pending_file.h"
#include "tests/support/temp_folder.h"

namespace dimhem::io {

namespace {

namespace fs = std::filesystem;
using tests::TempFolder;
using tests::written;

const WriteRules rulesFor(const fs::path& photo) {
    return {{{photo, "the photo itself, which is never changed"}}, false};
}

std::string text(const fs::path& path) {
    const auto bytes = readFile(path);
    return bytes ? std::string(bytes->begin(), bytes->end()) : "";
}

std::size_t filesIn(const fs::path& folder) {
    return static_cast<std::size_t>(std::distance(fs::directory_iterator(folder), {}));
}

}  // namespace

TEST(WriteGuard, KnowsTheKeptFileByWhateverWayLeadsToIt) {
    const TempFolder folder;
    const auto photo = written(folder / "photo.jpg", std::string("photo"));
    fs::create_symlink("photo.jpg", folder / "link.jpg");
    fs::create_symlink("link.jpg", folder / "link-to-link.jpg");
    fs::create_hard_link(photo, folder / "other-name.jpg");
    fs::create_directory(folder / "sub");
    fs::create_directory_symlink(folder.path(), folder / "sub" / "up");
    for (const fs::path& way : {photo, folder / "link.jpg", folder / "link-to-link.jpg", folder / "other-name.jpg",
                                folder / "sub" / ".." / "photo.jpg", folder / "sub" / "up" / "photo.jpg"}) {
        const auto target = writableTarget(way, rulesFor(photo));
        ASSERT_FALSE(target) << way;
        EXPECT_EQ(target.error().code, base::ErrorCode::unwritable);
        EXPECT_TRUE(target.error().message.ends_with(".")) << target.error().message;
        EXPECT_FALSE(PendingFile::create(way, rulesFor(photo))) << way;
    }
    EXPECT_TRUE(writableTarget(folder / "new.jpg", rulesFor(photo)));
    EXPECT_EQ(text(photo), "photo");
}

TEST(WriteGuard, RefusesDevicesPipesAndFolders) {
    const TempFolder folder;
    ::mkfifo((folder / "pipe").c_str(), 0600);
    fs::create_symlink("/dev/null", folder / "null");
    for (const fs::path& place : {fs::path("/dev/null"), folder / "null", folder / "pipe", folder.path()}) {
        const auto target = writableTarget(place, {});
        ASSERT_FALSE(target) << place;
        EXPECT_EQ(target.error().code, base::ErrorCode::unwritable) << place;
    }
    EXPECT_TRUE(fs::is_symlink(folder / "null"));
    EXPECT_TRUE(fs::is_character_file("/dev/null"));
    EXPECT_FALSE(readFile(folder / "pipe")) << "and does not wait for somebody to write into it";
}

TEST(WriteGuard, ALinkToNothingIsFollowedToItsPlace) {
    const TempFolder folder;
    fs::create_directory(folder / "there");
    fs::create_symlink("there/new.bin", folder / "link");
    auto file = PendingFile::create(folder / "link", {});
    ASSERT_TRUE(file) << file.error().message;
    ASSERT_TRUE(file->write(std::vector<std::uint8_t>{1, 2}));
    ASSERT_TRUE(file->commit());
    EXPECT_TRUE(fs::is_symlink(folder / "link"));
    EXPECT_TRUE(fs::is_regular_file(folder / "there" / "new.bin"));
    fs::create_symlink("round", folder / "round");
    EXPECT_FALSE(writableTarget(folder / "round", {})) << "a link to itself";
}

TEST(WriteGuard, AWriteProtectedFileIsAskedAboutFirst) {
    const TempFolder folder;
    const auto old = written(folder / "old.png", std::string("old"));
    ::chmod(old.c_str(), 0444);
    const auto refused = PendingFile::create(old, {});
    ASSERT_FALSE(refused);
    EXPECT_EQ(refused.error().code, base::ErrorCode::readOnly);
    auto file = PendingFile::create(old, {{}, true});
    ASSERT_TRUE(file);
    ASSERT_TRUE(file->write(std::vector<std::uint8_t>{'n', 'e', 'w'}));
    ASSERT_TRUE(file->commit());
    EXPECT_EQ(text(old), "new");
    struct stat info {};
    ::stat(old.c_str(), &info);
    EXPECT_EQ(info.st_mode & 0777, 0444u);
}

TEST(WriteGuard, IsAskedAgainBeforeTheNewFileTakesItsPlace) {
    const TempFolder folder;
    const auto photo = written(folder / "photo.jpg", std::string("photo"));
    auto file = PendingFile::create(folder / "out.jpg", rulesFor(photo));
    ASSERT_TRUE(file);
    ASSERT_TRUE(file->write(std::vector<std::uint8_t>{1}));
    fs::create_symlink("photo.jpg", folder / "out.jpg");  // meanwhile
    EXPECT_FALSE(file->commit());
    EXPECT_EQ(text(photo), "photo");
}

TEST(PendingFile, ThoseOfProgramsThatWereKilledAreRemovedAndOthersAreLeft) {
    const TempFolder folder;
    const pid_t child = ::fork();
    if (child == 0) {
        auto file = PendingFile::create(folder / "out.tif", {});
        (void)file->write(std::vector<std::uint8_t>(100'000, 1));
        ::_exit(file ? 0 : 1);  // as if killed: nothing is cleaned up
    }
    int status = 0;
    ::waitpid(child, &status, 0);
    ASSERT_EQ(status, 0);
    ASSERT_EQ(filesIn(folder.path()), 2u) << "what a killed program leaves, and its lock";
    auto running = PendingFile::create(folder / "other.tif", {});  // removes it, and has one of its own
    ASSERT_TRUE(running);
    EXPECT_EQ(filesIn(folder.path()), 2u);
    removeStaleFiles(folder.path());
    EXPECT_EQ(filesIn(folder.path()), 2u) << "it is being written";
    ASSERT_TRUE(running->commit());
    EXPECT_EQ(filesIn(folder.path()), 1u);
    EXPECT_TRUE(fs::exists(folder / "other.tif"));
}

// Whatever they are called, and even beside locks of the same name that say something else.
TEST(PendingFile, FilesThatThisProgramDidNotMakeAreNeverRemoved) {
    const TempFolder folder;
    const std::string name = ".notes.dimhem-2026v1";
    for (const std::string& text :
         {std::string(), std::string("a person's own"),
          std::string("dim-hem: this file locks the one being written beside it\n.other\n")}) {
        written(folder / name, std::string("notes"));
        written(folder / (name + ".lock"), text);
        removeStaleFiles(folder.path());
        ASSERT_TRUE(PendingFile::create(folder / "out.png", {}));
        EXPECT_TRUE(fs::exists(folder / name)) << text;
        EXPECT_TRUE(fs::exists(folder / (name + ".lock"))) << text;
    }
}

TEST(WriteGuard, KnowsAFileThatIsKeptOpenWhereverItIsMoved) {
    const TempFolder folder;
    const auto photo = written(folder / "photo.jpg", std::string("photo"));
    WriteRules rules;
    rules.keep.push_back({photo, "the photo itself", *HeldFile::open(photo)});
    auto file = PendingFile::create(folder / "out.jpg", rules);
    ASSERT_TRUE(file);
    ASSERT_TRUE(file->write(std::vector<std::uint8_t>{1}));
    fs::rename(photo, folder / "out.jpg");  // onto the very name, and its own path is free or another's
    written(photo, std::string("another"));
    const auto done = file->commit();
    ASSERT_FALSE(done);
    EXPECT_EQ(done.error().code, base::ErrorCode::unwritable);
    EXPECT_EQ(text(folder / "out.jpg"), "photo");
}

TEST(PendingFile, VeryLongNamesAreWrittenToo) {
    const TempFolder folder;
    const std::string name = std::string(245, 'x') + ".png";
    auto file = PendingFile::create(folder / name, {});
    ASSERT_TRUE(file) << file.error().message;
    ASSERT_TRUE(file->commit());
    EXPECT_TRUE(fs::exists(folder / name));
}

}  // namespace dimhem::io
